using System.Collections.Immutable;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Interchange;

/// <summary>A drum and how it is struck, as one MIDI note says it.</summary>
public readonly record struct PercussionSound(Voice Voice, Openness? Openness);

/// <summary>Which MIDI note and which instrument of a score is which drum: General MIDI unless somebody says otherwise.</summary>
/// <param name="Sounds">By note, 0 to 127.</param>
/// <param name="Said">What was said by hand, by <see cref="Called"/>; no sound for what is to be left out.</param>
public sealed record PercussionMap(ImmutableSortedDictionary<int, PercussionSound> Sounds, ImmutableSortedDictionary<string,
    PercussionSound?> Said)
{
    private const int MostName = 80;

    public static PercussionMap General { get; } = new(new Dictionary<int, PercussionSound>
    {
        [35] = new(Voice.Kick, null),
        [36] = new(Voice.Kick, null),
        [37] = new(Voice.CrossStick, null),
        [38] = new(Voice.Snare, null),
        [40] = new(Voice.Snare, null),
        [41] = new(Voice.FloorTom2, null),
        [43] = new(Voice.FloorTom, null),
        [45] = new(Voice.Tom4, null),
        [47] = new(Voice.Tom3, null),
        [48] = new(Voice.Tom2, null),
        [50] = new(Voice.Tom1, null),
        [42] = new(Voice.Hat, Openness.Closed),
        [46] = new(Voice.Hat, Openness.Open),
        [44] = new(Voice.HatFoot, null),
        [49] = new(Voice.Crash, null),
        [57] = new(Voice.Crash2, null),
        [52] = new(Voice.China, null),
        [55] = new(Voice.Splash, null),
        [51] = new(Voice.Ride, null),
        [59] = new(Voice.Ride, null),
        [53] = new(Voice.RideBell, null),
        [56] = new(Voice.Cowbell, null),
    }.ToImmutableSortedDictionary(), ImmutableSortedDictionary<string, PercussionSound?>.Empty.WithComparers(StringComparer.Ordinal));

    /// <summary>How a note is called where instruments have names.</summary>
    public static string Called(int note) => $"note {note}";

    /// <summary>A name without what does not matter in it.</summary>
    public static string Called(string name)
    {
        var words = string.Join(' ', name.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)).ToLowerInvariant();
        return words.Length > MostName ? words[..MostName] : words;
    }

    /// <summary>The map with something said about a note or an instrument.</summary>
    public PercussionMap With(string called, PercussionSound? sound)
    {
        var name = Called(called);
        var note = Enumerable.Range(0, 128).Cast<int?>().FirstOrDefault(n => Called(n!.Value) == name);
        return new(note is not { } n ? Sounds : sound is { } s ? Sounds.SetItem(n, s) : Sounds.Remove(n), Said.SetItem(name, sound));
    }

    /// <summary>The note that is written for a stroke; nothing where the map has none.</summary>
    public int? NoteOf(Stroke stroke)
    {
        var voice = stroke.Voice == Voice.AnyTom ? Voice.Tom2 : stroke.Voice == Voice.Cymbal ? Voice.Crash : stroke.Voice;
        var openness = voice == Voice.Hat ? stroke.Openness is Openness.Open or Openness.Loose ? Openness.Open : Openness.Closed
            : (Openness?)null;
        var fits = Sounds.Where(s => s.Value.Voice == voice && s.Value.Openness == openness).Select(s => s.Key).ToList();
        // Of two notes for one drum the one that General MIDI numbers as the second is the usual kick, the first the usual snare and ride.
        return fits.Count == 0 ? null : voice == Voice.Kick && fits.Contains(36) ? 36 : fits[0];
    }
}
