using System.Collections.Immutable;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Interchange;

/// <summary>A drum and how it is struck, as one MIDI note says it.</summary>
public readonly record struct PercussionSound(Voice Voice, Openness? Openness);

/// <summary>Which MIDI note is which drum: General MIDI unless somebody says otherwise.</summary>
public sealed record PercussionMap(ImmutableSortedDictionary<int, PercussionSound> Sounds)
{
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
    }.ToImmutableSortedDictionary());

    /// <summary>The note that is written for a stroke; nothing where the map has none.</summary>
    public int? NoteOf(Stroke stroke)
    {
        var voice = stroke.Voice == Voice.AnyTom ? Voice.Tom2 : stroke.Voice == Voice.Cymbal ? Voice.Crash : stroke.Voice;
        var openness = voice == Voice.Hat ? stroke.Openness is Openness.Open or Openness.Loose ? Openness.Open : Openness.Closed : (Openness?)null;
        var fits = Sounds.Where(s => s.Value.Voice == voice && s.Value.Openness == openness).Select(s => s.Key).ToList();
        // Of two notes for one drum the one that General MIDI numbers as the second is the usual kick, the first the usual snare and ride.
        return fits.Count == 0 ? null : voice == Voice.Kick && fits.Contains(36) ? 36 : fits[0];
    }

    /// <summary>Lines such as “61 CB” or “26 HH o”, over what General MIDI says; nothing where a line cannot be read.</summary>
    public static PercussionMap? Read(string text, Action<string> tell)
    {
        var sounds = General.Sounds.ToBuilder();
        var good = true;
        foreach (var line in text.Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var words = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
            if (words is [var number, var code, .. var rest] && int.TryParse(number, out var note) && note is >= 0 and < 128 && rest.Length <= 1)
            {
                if (code == "-" && rest.Length == 0)
                {
                    sounds.Remove(note);
                    continue;
                }
                if (Voice.Find(code) is { } voice && rest is [] or ["o"])
                {
                    sounds[note] = new(voice, voice == Voice.Hat ? rest is ["o"] ? Openness.Open : Openness.Closed : null);
                    continue;
                }
            }
            tell($"‘{line}’ maps no note: write a number and a drum, such as 61 CB, 26 HH o for an open hat, or 61 - for none.");
            good = false;
        }
        return good ? new(sounds.ToImmutable()) : null;
    }
}
