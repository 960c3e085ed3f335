using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;
using InnerCadence.Web.Drawing;

namespace InnerCadence.Web.Telling;

/// <summary>Draws stretches of records as the ear heard them.</summary>
public sealed class RidgePictures(SoundStore sounds, ActivationFiles activations)
{
    /// <returns>Nothing where the ear has not heard the record.</returns>
    public async Task<Shape?> OfAsync(RecordingId recording, Seconds from, Seconds to, IReadOnlyList<RidgeBead> beads, string label,
        CancellationToken stop) => await sounds.OfRecordingAsync(recording, stop) is { Samples: { } hash }
        && await activations.OfAsync(hash, stop) is { } heard ? RidgeStrip.Draw(Ridges.Of(heard, from, to), from, to, beads, label) : null;

    /// <summary>A found place with the strokes of what was looked for.</summary>
    public Task<Shape?> OfAsync(FoundPlaceRow place, string label, CancellationToken stop)
    {
        const double Around = 0.25;
        RidgeBead[] beads = [.. place.OffsetsMs.Zip(place.Voices, place.Strengths)
            .Where(s => Voice.Find(s.Second) is not null).Select(s => new RidgeBead(Voice.Find(s.Second)!,
                Seconds.OfMilliseconds(place.AtMs + s.First), FoundStroke.IsHeard(s.Third)))];
        var from = new Seconds(Math.Max(0, place.AtMs / 1000.0 - Around));
        return OfAsync(place.RecordingId, from, new(Math.Max(place.UntilMs / 1000.0 + Around, from + 1)), beads, label, stop);
    }
}
