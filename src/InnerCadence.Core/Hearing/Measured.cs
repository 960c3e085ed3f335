using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using MathNet.Numerics.Statistics;

namespace InnerCadence.Core.Hearing;

/// <summary>A written stroke as it was played.</summary>
/// <param name="At">In the sound.</param>
/// <param name="Offset">From the fitted grid, in milliseconds, late positive.</param>
/// <param name="Sureness">How clearly its start is heard, 0 to 1.</param>
/// <param name="Flam">Milliseconds from its grace stroke to it; nothing where none was heard.</param>
public sealed record MeasuredStroke(Stroke Stroke, Seconds At, double Offset, double Sureness, double? Flam, double? Loudness)
{
    public StrokeOffset AsOffset => new(Stroke.At, Stroke.Voice, Offset, Sureness, Flam, Loudness);
}

/// <summary>A passage measured against its sound.</summary>
/// <param name="Missing">Written and not in the sound.</param>
/// <param name="Extra">In the sound and not written.</param>
/// <param name="Bars">Quarters a minute of each bar of the fitted grid.</param>
/// <param name="Lines">The fitted bar lines.</param>
/// <param name="Timekeeper">The voice with most strokes, against which others are late; nothing where nothing was matched.</param>
/// <param name="SwingShare">Of the quarter before the off-beat, where it was played swung and the text does not say so; off-beats are early
/// and late against that.</param>
/// <param name="Voices">Against the grid, the odd strokes left out.</param>
public sealed record Measured(ValueList<MeasuredStroke> Strokes, ValueList<Stroke> Missing, ValueList<HeardStroke> Extra,
    ValueList<double> Bars, ValueList<Seconds> Lines, Voice? Timekeeper, ValueList<VoiceTiming> Voices,
        ValueList<OddStroke> Odd,
    MeasuredSwing? Swung, double? SwingShare)
{
    /// <summary>Strokes of a sound that are looked for far from the written place: of an ear that strains.</summary>
    public const double Eager = 0.3;

    /// <summary>What share of a stroke's lateness the ear must hear too for it to be odd.</summary>
    private const double LeastByEar = 0.5;

    private static readonly Seconds AnotherRise = Seconds.OfMilliseconds(8), AtTheLine = Seconds.OfMilliseconds(30),
        NearestGrace = Seconds.OfMilliseconds(12);

    /// <param name="at">Where its first bar line was heard, some 20 ms at most from where it is.</param>
    /// <param name="heard">Strokes of the sound, in order of time.</param>
    /// <param name="times">When strokes were struck, read from the sound; nothing where only the ear's own times are at hand.</param>
    public static Measured Of(Passage passage, Seconds at, Bpm tempo, IReadOnlyList<HeardStroke> heard, RiseTimes? times)
    {
        IReadOnlyList<TempoChange> said = passage.Tempos is { Count: > 0 } own ? own : [new(Tick.Zero, tempo)];
        return Of(passage, new LaidBars([.. Enumerable.Range(0, passage.Bars + 1)
            .Select(b => at + TempoChange.SecondsTo(passage.Meters.StartOf(b), said))],
            passage, said), heard, times);
    }

    /// <param name="prior">Where its bars are thought to lie, as by the recording's marks.</param>
    public static Measured Of(Passage passage, LaidBars prior, IReadOnlyList<HeardStroke> heard, RiseTimes? times)
    {
        var written = passage.Strokes.Where(s => !s.Echo).ToList();
        var (played, grid, _) = Feels(passage, written).Select(p => (Played: p, Coarse: BarAlignment.Of(p, written, prior, heard)))
            .Select(p => (p.Played, p.Coarse.Grid, p.Coarse.Score)).MaxBy(p => p.Score);
        var measured = Under(played, written, grid, heard, times);
        // Off-beats count from the share that is found, not from the one that is usual.
        if (measured.Swung is { } swing && SharedOut(played, swing.Share) is { } swung)
            (played, measured) = (swung, Under(swung, written, new LaidBars(measured.Lines, swung, prior.Tempos), heard, times));
        return measured with { SwingShare = played.Feel == passage.Feel ? null : played.Feel.Swing ? played.Feel.SwingShare : 0.5 };
    }

    private static readonly double[] Shares = [0.57, 0.62, Feel.UsualSwing];

    /// <summary>As it is written; and where nothing is said of swing and there are off-beats enough, swung by more and more.</summary>
    private static IEnumerable<Passage> Feels(Passage passage, List<Stroke> written)
    {
        yield return passage;
        if (passage.Feel.Swing || written.GroupBy(s => s.Voice).All(v => v.Count(s => IsOffBeat(s.At)) < MeasuredSwing.Least)) yield break;
        foreach (var share in Shares)
            yield return passage with { Feel = passage.Feel with { Swing = true, SwingShare = share } };

        static bool IsOffBeat(Tick at) => at.Value % Tick.PerQuarter == Tick.PerQuarter / 2;
    }

    /// <summary>The passage with its off-beats at a share of their beats that was measured; nothing where they stand there already, or are
    /// as good as straight.</summary>
    private static Passage? SharedOut(Passage passage, double share)
    {
        const double Same = 0.01, Straight = 0.54, Widest = 0.8;
        var now = passage.Feel.Swing ? passage.Feel.SwingShare ?? Feel.UsualSwing : 0.5;
        if (passage.Feel.SwingSixteenths || Math.Abs(share - now) < Same || share > Widest
            || (share < Straight && !passage.Feel.Swing)) return null;
        return passage with { Feel = passage.Feel with { Swing = share >= Straight, SwingShare = share >= Straight ? share : null } };
    }

    private static Measured Under(Passage passage, List<Stroke> written, LaidBars grid, IReadOnlyList<HeardStroke> heard, RiseTimes? times)
    {
        var here = heard.Where(h => h.At > grid.Start - 0.12 && h.At < grid.End + 0.12).ToList();
        var exact = here.Select(h => times?.Of(h, here) ?? (h.At, h.Confidence)).ToList();
        var matched = Match(passage, written, grid, here);
        if (times is not null)
        {
            Together(times, here, exact, matched);
            Settle(written, here, exact, matched);
        }
        var graces = FlamsOfOneStroke(written, here, exact, matched, times);
        for (var round = 0; round < 3; round++)
        {
            grid = Fitted(passage, grid, matched, exact, out _);
            matched = Match(passage, written, grid, here);
        }
        return Told(passage, written, grid, here, exact, matched, graces);
    }

    /// <summary>Drums that are struck nearly at once are read together, by what each sounds like alone.</summary>
    private static void Together(RiseTimes times, List<HeardStroke> here, List<(Seconds At, double Sureness)> exact,
        List<StrokeMatch.Pair> matched)
    {
        int[] heard = [.. matched.SelectMany(p => p.Grace < 0 ? (int[])[p.Heard] : [p.Heard, p.Grace]).Distinct().Order()];
        foreach (var (i, at) in heard.Zip(times.Together([.. heard.Select(i => (here[i].Family, exact[i].At))])))
            exact[i] = exact[i] with { At = at };
    }

    /// <summary>The ear's own times are right on the whole, and a few milliseconds off: what is read farther from them than is usual of
    /// its voice is another drum's rise, and the ear's time holds, moved by what is usual.</summary>
    private static void Settle(List<Stroke> written, List<HeardStroke> here, List<(Seconds At, double Sureness)> exact,
        List<StrokeMatch.Pair> matched)
    {
        const int Least = 3;
        foreach (var voice in matched.GroupBy(p => written[p.Written].Voice))
        {
            double[] later = [.. voice.Select(p => exact[p.Heard].At - here[p.Heard].At).Order()];
            var usual = later.Length < Least ? 0 : later[later.Length / 2];
            foreach (var i in voice.Select(p => p.Heard).Where(i => Math.Abs(exact[i].At - here[i].At - usual) > AnotherRise))
                exact[i] = (new(here[i].At + usual), exact[i].Sureness);
        }
    }

    /// <summary>Graces that only the sound tells of, by the stroke that was heard of the two.</summary>
    private static Dictionary<int, Seconds> FlamsOfOneStroke(List<Stroke> written, List<HeardStroke> here,
        List<(Seconds At, double Sureness)> exact, List<StrokeMatch.Pair> matched, RiseTimes? times)
    {
        var graces = new Dictionary<int, Seconds>();
        foreach (var pair in matched.Where(p => p.Grace < 0 && written[p.Written].Ornaments.HasFlag(Ornaments.Flam)))
        {
            if (times?.Flam(exact[pair.Heard].At) is not { } flam) continue;
            exact[pair.Heard] = exact[pair.Heard] with { At = flam.Main };
            graces[pair.Heard] = flam.Grace;
        }
        return graces;
    }

    private static List<StrokeMatch.Pair> Match(Passage passage, List<Stroke> written, LaidBars grid, List<HeardStroke> here) =>
        StrokeMatch.Of(written, [.. written.Select(s => grid.At(Swing.Played(s.At, passage)).Value)], here);

    /// <summary>Bar lines by least squares over the matched strokes while each voice's mean is taken out and strokes far off are left out;
    /// the timekeeper's mean is 0.</summary>
    private static LaidBars Fitted(Passage passage, LaidBars grid, List<StrokeMatch.Pair> pairs, List<(Seconds At, double Sureness)> exact,
        out Voice? timekeeper)
    {
        var written = passage.Strokes.Where(s => !s.Echo).ToList();
        timekeeper = pairs.GroupBy(p => written[p.Written].Voice).OrderByDescending(g => g.Count()).ThenBy(g => g.Key)
            .FirstOrDefault()?.Key;
        if (pairs.Count < 2 || timekeeper is not { } keeper) return grid;
        return GridFit.Of(passage, grid, [.. pairs.Select(p => new GridFit.Point(written[p.Written], exact[p.Heard].At,
            Math.Max(0.05, exact[p.Heard].Sureness)))],
            keeper);
    }

    private static Measured Told(Passage passage, List<Stroke> written, LaidBars grid, List<HeardStroke> here,
        List<(Seconds At, double Sureness)> exact, List<StrokeMatch.Pair> pairs, Dictionary<int, Seconds> graces)
    {
        grid = Fitted(passage, grid, pairs, exact, out var timekeeper);
        var strokes = pairs.Select(p => new MeasuredStroke(written[p.Written], exact[p.Heard].At,
                (exact[p.Heard].At - grid.At(Swing.Played(written[p.Written].At, passage))) * 1000, exact[p.Heard].Sureness,
                GapOf(p) is { } gap ? gap * 1000 : null, here[p.Heard].Loudness))
            .OrderBy(s => s.Stroke.At).ThenBy(s => s.Stroke.Voice).ToList();
        var matched = pairs.Select(p => p.Written).ToHashSet();
        var used = pairs.SelectMany(p => (int[])[p.Heard, p.Grace]).ToHashSet();
        // What is read late from another drum's rise is not late by the ear's own time.
        bool OddByEar(OddStroke odd)
        {
            var own = pairs.Where(p => written[p.Written].Voice == odd.Voice).Select(p => (written[p.Written].At, Off: 1000
                * (here[p.Heard].At - grid.At(Swing.Played(written[p.Written].At, passage))))).ToList();
            var usual = own.Select(o => o.Off).Median();
            return (own.First(o => o.At == odd.At).Off - usual) / odd.Milliseconds >= LeastByEar;
        }
        Seconds? GapOf(StrokeMatch.Pair pair)
        {
            if (pair.Grace < 0) return graces.TryGetValue(pair.Heard, out var alone) ? exact[pair.Heard].At - alone : null;
            // Nearer than that one rise was read for both.
            var gap = exact[pair.Heard].At - exact[pair.Grace].At;
            return gap >= NearestGrace ? gap : here[pair.Heard].At - here[pair.Grace].At;
        }
        var clear = strokes.Where(s => s.Sureness >= MicroTiming.LeastSure).ToList();
        var odd = OddStrokes.In(passage, [.. clear.Select(s => s.AsOffset)]).Where(OddByEar).ToList();
        var usual = clear.Where(s => !odd.Any(o => o.At == s.Stroke.At && o.Voice == s.Stroke.Voice)).ToList();
        Seconds[] lines = [.. Enumerable.Range(0, passage.Bars + 1).Select(b => grid.At(passage.Meters.StartOf(b)))];
        return new(strokes, [.. written.Where((_, w) => !matched.Contains(w))],
            [.. ExtraStrokes.Of(here, used, strokes, lines[0] - AtTheLine, lines[^1] - AtTheLine)],
            [.. grid.BarTempos],
            lines, timekeeper, MicroTiming.Means(usual.Select(s => s.AsOffset), RiseTimes.Doubt), [.. odd],
                MeasuredSwing.Of(passage, grid, [.. strokes.Select(s => s.AsOffset)]), null);
    }
}
