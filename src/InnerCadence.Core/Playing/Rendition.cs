using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Playing;

/// <summary>One sound at a time.</summary>
/// <param name="At">From the start of the passage at its tempo; a grace note may come before it.</param>
/// <param name="Gain">On top of what the sound has of its own.</param>
/// <param name="Pan">-1 left to 1 right, as the drummer sits.</param>
/// <param name="Until">When it is cut short: a choke, a length, a hat that closes; nothing if it rings out.</param>
public sealed record Note(Seconds At, SoundKey Sound, double Gain, double Pan, Seconds? Until);

/// <summary>A passage as it is played: its notes on the clock, with tempo, swing, flams, drags and buzzes.</summary>
/// <param name="Length">Until the passage starts over.</param>
/// <param name="Beats">When the pulse falls: on whole, half or double beats as the feel says.</param>
/// <param name="Line">Pairs of seconds and tick along which a moving line runs.</param>
public sealed record Rendition(Seconds Length, ValueList<Note> Notes, ValueList<(Seconds At, bool First)> Beats,
    ValueList<(Seconds At, Tick Tick)> Line)
{
    private static readonly Seconds Grace = new(0.030), BuzzGap = new(0.034), Choke = new(0.11), Buzz = new(0.24);

    /// <param name="otherwise">Quarters a minute where the passage names no tempo.</param>
    /// <param name="click">Time between two clicks, from the start of the passage; nothing for the pulse.</param>
    /// <param name="offsets">How far strokes were played from where they are written.</param>
    /// <param name="lines">Where bar lines fall, from that of the first bar on, when the passage is played along a record; bars beyond them
    /// last as long as the last one. Nothing for the passage's own tempo.</param>
    public static Rendition Of(Passage passage, Bpm? otherwise = null, Tick? click = null,
        IReadOnlyCollection<StrokeOffset>? offsets = null, IReadOnlyList<Seconds>? lines = null)
    {
        var played = (offsets ?? []).ToDictionary(o => (o.At, o.Voice), o => Core.Music.Seconds.OfMilliseconds(o.Milliseconds));
        var tempos = passage.Tempos is { Count: > 0 } said ? said : [new(Tick.Zero, otherwise ?? Bpm.Usual)];
        var laid = lines is null ? null : new LaidBars(lines, passage, tempos);
        Seconds Seconds(Tick at) => laid?.At(at) ?? TempoChange.SecondsTo(at, tempos);
        var notes = new List<Note>();
        var takes = new Dictionary<(Voice, Dynamic), int>();
        foreach (var stroke in passage.Strokes)
        {
            var at = Seconds(Swing.Played(stroke.At, passage)) + played.GetValueOrDefault((stroke.At, stroke.Voice));
            var take = takes[(stroke.Voice, stroke.Dynamic)] = takes.GetValueOrDefault((stroke.Voice, stroke.Dynamic)) + 1;
            Seconds? until = stroke.Length is { } length ? Seconds(stroke.At + length) : null;
            if (stroke.Ornaments.HasFlag(Ornaments.Choke)) until = at + Choke;
            if (stroke.Openness is Openness.Open or Openness.Loose)
                until ??= passage.Strokes.FirstOrDefault(s => s.At > stroke.At && s.Voice.Family == Family.Hat) is { } closing
                    ? Seconds(Swing.Played(closing.At, passage))
                    // Where the passage repeats, the first hat of the next round closes the last one.
                    : passage.Looped && passage.Strokes.FirstOrDefault(s => s.Voice.Family == Family.Hat) is { } first
                        ? Seconds(passage.Length + first.At) : null;
            Play(notes, stroke, LevelWords.Factor(passage.LevelOf(stroke)), at, take, until);
        }
        return new(Seconds(passage.Length), [.. notes.OrderBy(n => n.At)], click is { } every ? Even(passage, every, Seconds)
            : [.. Clicks.Of(passage, Seconds).Select(c => (c.At, c.First))], Path(passage, Seconds));
    }

    private static void Play(List<Note> notes, Stroke stroke, double level, Seconds at, int take, Seconds? until)
    {
        var (pan, gain) = (PanOf(stroke.Voice), GainOf(stroke.Voice) * level);
        var soft = SoundKey.Of(stroke with { Dynamic = Dynamic.Ghost }, take);
        var (grace, graceGain) = stroke.Grace is { } drum
            ? (SoundKey.Of(new Stroke(stroke.At, drum) { Dynamic = Dynamic.Ghost }, take), GainOf(drum) * level) : (soft, gain);
        var graces = stroke.Ornaments.HasFlag(Ornaments.Drag) ? 2 : stroke.Ornaments.HasFlag(Ornaments.Flam) ? 1 : 0;
        for (var i = graces; i > 0; i--) notes.Add(new(at - Grace * i, grace with { Take = (take + i) % SoundKey.Takes }, graceGain * 1.1,
            PanOf(grace.Voice), null));
        notes.Add(new(at, SoundKey.Of(stroke, take), gain, pan, until));
        if (!stroke.Ornaments.HasFlag(Ornaments.Buzz)) return;
        var end = until ?? at + Buzz;
        for (var (t, n) = (at + BuzzGap, 1); t < end; t += BuzzGap, n++)
            notes.Add(new(t, soft with { Take = (take + n) % SoundKey.Takes }, gain * (until is null ? Math.Exp(-n * 0.22) : 0.8) * 1.1,
                pan, null));
    }

    /// <summary>Clicks that know no bars, such as those of another pulse; the one that falls on a bar's start is marked.</summary>
    private static List<(Seconds, bool)> Even(Passage passage, Tick every, Func<Tick, Seconds> seconds)
    {
        var starts = Enumerable.Range(0, passage.Bars).Select(passage.Meters.StartOf).ToHashSet();
        return [.. Enumerable.Range(0, (passage.Length.Value + every.Value - 1) / every.Value).Select(i => every * i)
            .Select(at => (seconds(at), starts.Contains(at)))];
    }

    private static List<(Seconds, Tick)> Path(Passage passage, Func<Tick, Seconds> seconds) =>
        [.. Enumerable.Range(0, passage.Bars + 1).Select(passage.Meters.StartOf).Concat(passage.TempoChanges.Select(c => c.At)).Distinct()
            .Order().Select(at => (seconds(at), at))];

    private static double PanOf(Voice voice) => voice.Code switch
    {
        "HH" or "HF" => -0.35,
        "CR" or "SP" => -0.45,
        "T1" => -0.2,
        "T3" or "TT" => 0.15,
        "T4" => 0.25,
        "RD" or "RB" => 0.4,
        "C2" or "CH" or "CY" => 0.5,
        "FT" => 0.4,
        "F2" => 0.55,
        _ => 0,
    };

    private static double GainOf(Voice voice) => voice.Family switch
    {
        Family.Kick => 1.0,
        Family.Snare => 0.85,
        Family.Tom => 0.9,
        Family.Hat => 0.42,
        Family.Ride => 0.4,
        Family.Bell => 0.45,
        Family.Crash => 0.6,
        _ => 0.5,
    };
}
