using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Hearing;

/// <summary>A proposal of what was played, from the strokes heard in a sound: the listener decides.</summary>
/// <remarks>sound.md, "A proposal".</remarks>
public static class Transcript
{
    /// <summary>Below it a stroke is marked as unsure.</summary>
    private const double Sure = 0.6;

    /// <summary>Two strokes of one drum this near are one with a grace stroke.</summary>
    private static readonly Seconds Flam = Seconds.OfMilliseconds(50);

    private static readonly Seconds OneMoment = Seconds.OfMilliseconds(35);

    /// <summary>Toms whose pitches are nearer are one: two semitones, of three octaves.</summary>
    private const double OneTom = 2.0 / 36;

    /// <param name="heard">In order of time, with seconds of the sound.</param>
    /// <param name="laid">The bars, where they lie on the sound.</param>
    /// <param name="written">What is known to be played: it stays as it is, and strokes are looked for between its own.</param>
    /// <returns>Each voice on its likeliest places; what is weak, or whose drum is doubtful, is unsure. Its tempo is that of the bars as
    /// they lie.</returns>
    public static Passage Propose(IReadOnlyList<HeardStroke> heard, LaidBars laid, Passage? written = null)
    {
        var beat = new Tick(Tick.PerQuarter);
        double Quarters(HeardStroke stroke) => laid.TickAt(stroke.At) / Tick.PerQuarter;
        var swing = SwingOf(heard.Select(Quarters), laid, written);
        var here = WithGraces(OneCymbal([.. heard.Where(o => Quarters(o) > -0.5 && o.At < laid.End)]));
        var toms = Toms([.. here.Select(h => h.Stroke)]);
        var known = written?.Strokes.Select(s => (s.At, s.Voice.Family)).ToHashSet() ?? [];
        var places = here.Select(h => laid.PerQuarter * (swing?.Written(Quarters(h.Stroke)) ?? Quarters(h.Stroke)));
        var strokes = Quantise.PlaceAll([.. places], beat, laid.PerQuarter).Where(p => p.At < laid.Length)
            .Select(p => (Place: p, here[p.Onset].Stroke, here[p.Onset].Grace)).GroupBy(p => (p.Place.At, Voice: toms(p.Stroke)))
            .Select(of => (of.Key, Best: of.MaxBy(p => p.Stroke.Strength))).Select(of => new Stroke(of.Key.At, of.Key.Voice)
            {
                Unsure = of.Best.Place.Weak || of.Best.Stroke.Confidence < Sure,
                Openness = of.Best.Stroke.Openness,
                Dynamic = of.Best.Stroke.Dynamic,
                Ornaments = of.Best.Grace ? Ornaments.Flam : Ornaments.None,
            }).Where(s => !known.Contains((s.At, s.Voice.Family)));
        return new(laid.Meters, laid.Bars, Passage.InOrder([.. written?.Strokes ?? [], .. strokes]))
        {
            Tempo = Bpm.Of(Math.Round(60 / laid.PerQuarter, 1)),
            Feel = written?.Feel ?? swing?.Feel ?? Feel.Straight,
        };
    }

    /// <summary>As the text has it, else as two bars before and after have it too; only quarters swing.</summary>
    private static HeardSwing? SwingOf(IEnumerable<double> quarters, LaidBars laid, Passage? written)
    {
        if (written?.Feel is { } feel)
            return feel.Swing ? new(feel.SwingShare ?? Feel.UsualSwing, AsLet: false, feel.SwingSixteenths) : null;
        var (around, end) = (2.0 * laid.Length.Value / laid.Bars / Tick.PerQuarter, (double)laid.Length.Value / Tick.PerQuarter);
        return laid.Meters.Meters.All(m => m.Lower == 4 && m.Pulses.All(beats => beats == 1))
            ? HeardSwing.Of([.. quarters.Where(q => q > -around && q < end + around)], laid.PerQuarter) : null;
    }

    /// <summary>One cymbal is easily heard as two: of hat, ride and bell at one moment the one is proposed that keeps time in the stretch,
    /// a crash beside it where it is the surer; any that is as good as certain stays.</summary>
    private static IReadOnlyList<HeardStroke> OneCymbal(IReadOnlyList<HeardStroke> strokes)
    {
        const double Certain = 0.9;
        static bool KeepsTime(HeardStroke stroke) => stroke.Family is Family.Ride or Family.Bell || stroke.Voice == Voice.Hat;
        var often = strokes.Where(KeepsTime).GroupBy(s => s.Family).ToDictionary(g => g.Key, g => g.Sum(s => s.Strength));
        bool Beaten(HeardStroke s, HeardStroke by) => Math.Abs(by.At - s.At) < OneMoment && (s.Family == Family.Crash
            ? KeepsTime(by) && by.Strength > s.Strength : KeepsTime(by) && often[by.Family] > often[s.Family]);
        return [.. strokes.Where(s => !(KeepsTime(s) || s.Family == Family.Crash) || s.Strength >= Certain
            || !strokes.Any(o => o != s && Beaten(s, o)))];
    }

    /// <summary>A softer stroke just before another of its drum is that one's grace.</summary>
    private static List<(HeardStroke Stroke, bool Grace)> WithGraces(IReadOnlyList<HeardStroke> strokes)
    {
        var last = new Dictionary<Voice, int>();
        var made = new List<(HeardStroke Stroke, bool Grace)?>();
        foreach (var stroke in strokes)
        {
            var grace = stroke.Family is Family.Snare or Family.Tom && last.TryGetValue(stroke.Voice, out var before)
                && made[before] is { } softer && stroke.At - softer.Stroke.At < Flam && stroke.Loudness > softer.Stroke.Loudness;
            if (grace) made[last[stroke.Voice]] = null;
            last[stroke.Voice] = made.Count;
            made.Add((stroke, grace));
        }
        return [.. made.Where(m => m is not null).Select(m => m!.Value)];
    }

    /// <summary>Toms in the order of their pitches, as high and low as there are different ones; one alone is any tom.</summary>
    private static Func<HeardStroke, Voice> Toms(IReadOnlyList<HeardStroke> strokes)
    {
        var pitches = strokes.Where(s => s.TomPitch is not null).Select(s => s.TomPitch!.Value).Order().ToList();
        var edges = pitches.Zip(pitches.Skip(1)).Where(p => p.Second - p.First > OneTom).Select(p => (p.First + p.Second) / 2).TakeLast(3)
            .ToList();
        Voice[] names = edges.Count switch
        {
            0 => [Voice.AnyTom],
            1 => [Voice.FloorTom, Voice.Tom1],
            2 => [Voice.FloorTom, Voice.Tom2, Voice.Tom1],
            _ => [Voice.FloorTom, Voice.Tom3, Voice.Tom2, Voice.Tom1],
        };
        return stroke => stroke.TomPitch is { } pitch ? names[edges.Count(edge => pitch > edge)] : stroke.Voice;
    }
}
