using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>What the ear heard of each family as it stands behind the strands: as high as it is sure and loud, falling off after a
/// stroke.</summary>
/// <remarks>sound.md, "Ridges".</remarks>
public static class Ridges
{
    /// <summary>Seconds between two values.</summary>
    public const double Step = 1.0 / Ear.FramesPerSecond;

    private const double Falls = 0.78;

    /// <param name="from">Seconds of the sound; values begin at the frame at or before it.</param>
    public static IReadOnlyDictionary<Family, IReadOnlyList<double>> Of(Activations heard, Seconds from, Seconds to)
    {
        var (first, last) = (FirstFrame(from), Math.Min(heard.Frames, (int)Math.Ceiling(to * Ear.FramesPerSecond)));
        return Enumerable.Range(0, Ear.Families.Count).ToDictionary(f => Ear.Families[f], family =>
        {
            var (values, before) = (new List<double>(), 0.0);
            for (var frame = first; frame < last; frame++)
                values.Add(before = Math.Max(before * Falls, heard.Strength(family, frame) * (0.25
                    + 0.75 * heard.Loudness(family, frame))));
            return (IReadOnlyList<double>)values;
        });
    }

    /// <summary>Where the values of a stretch begin.</summary>
    public static int FirstFrame(Seconds from) => Math.Max(0, (int)(from * Ear.FramesPerSecond));
}
