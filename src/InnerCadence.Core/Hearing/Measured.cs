using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

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
    public const double Eager = 0.12;

    /// <param name="at">Where its first bar line was heard, some 20 ms at most from where it is.</param>
    /// <param name="heard">Strokes of the sound, in order of time.</param>
    /// <param name="timeOf">When a stroke was struck, read from the sound; the ear's own time where there is none to read.</param>
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
        var (played, grid, _) = Feels(passage, written).Select(p => (Played: p, Coarse: Coarse(p, written, prior, heard)))
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
        var exact = here.Select(h => times?.Of(h.At, h.Family) ?? (h.At, h.Confidence)).ToList();
        var matched = Match(passage, written, grid, here);
        for (var round = 0; round < 3; round++)
        {
            grid = Fitted(passage, grid, matched, exact, out _);
            matched = Match(passage, written, grid, here);
        }
        return Told(passage, written, grid, here, exact, matched);
    }

    /// <summary>Bar lines as they are thought to lie, some per cent slower or faster and some milliseconds off, where most strokes lie near
    /// what is heard of their family.</summary>
    private static (LaidBars Grid, double Score) Coarse(Passage passage, List<Stroke> written, LaidBars prior,
        IReadOnlyList<HeardStroke> heard)
    {
        const double Widest = 0.026, Farthest = 0.035, Near = 0.014;
        var at = prior.Start;
        double[] lines = [.. Enumerable.Range(0, passage.Bars + 1).Select(b => prior.At(passage.Meters.StartOf(b)) - at)];
        var places = written.Select(s => ((double)(prior.At(Swing.Played(s.At, passage)) - at), s.Voice.Family)).ToList();
        var byFamily = heard.GroupBy(h => h.Family).ToDictionary(g => g.Key, g => g.Select(h => h.At.Value).ToArray());
        var (best, score) = ((Scale: 1.0, Off: 0.0), double.NegativeInfinity);
        for (var scale = 1 - Widest; scale <= 1 + Widest + 1e-9; scale += 0.001)
            for (var off = -Farthest; off <= Farthest + 1e-9; off += 0.005)
            {
                var sum = -2 * Math.Abs(off) - 4 * Math.Abs(scale - 1);
                foreach (var (place, family) in places)
                    if (byFamily.TryGetValue(family, out var there))
                    {
                        var distance = Nearest(there, at + off + place * scale) / Near;
                        if (distance < 4) sum += Math.Exp(-0.5 * distance * distance);
                    }
                if (sum > score) (score, best) = (sum, (scale, off));
            }
        return (new([.. lines.Select(line => at + best.Off + line * best.Scale).Select(line => new Seconds(line))], passage, prior.Tempos),
            score);
    }

    private static double Nearest(double[] ascending, double at)
    {
        var next = Array.BinarySearch(ascending, at);
        if (next >= 0) return 0;
        next = ~next;
        return Math.Min(next < ascending.Length ? ascending[next] - at : double.MaxValue, next > 0 ? at - ascending[next - 1]
            : double.MaxValue);
    }

    /// <summary>A written stroke, the heard one it is, and its grace.</summary>
    private readonly record struct Pair(int Written, int Heard, int Grace);

    /// <summary>Each written stroke with the heard one that costs least: how far it lies, and how unlike its family is; none beyond 70 ms.
    /// </summary>
    private static List<Pair> Match(Passage passage, List<Stroke> written, LaidBars grid, List<HeardStroke> here)
    {
        const double Beyond = 0.07, WrongFamily = 0.055;
        var offers = new List<(double Cost, int Written, int Heard)>();
        for (var w = 0; w < written.Count; w++)
        {
            var place = grid.At(Swing.Played(written[w].At, passage));
            for (var h = 0; h < here.Count; h++)
            {
                var apart = Math.Abs(here[h].At - place);
                if (apart > Beyond) continue;
                var cost = apart + (here[h].Family == written[w].Voice.Family ? 0 : WrongFamily)
                    + (here[h].Voice == written[w].Voice ? 0 : 0.004) + 0.01 * (1 - here[h].Strength);
                if (cost < Beyond) offers.Add((cost, w, h));
            }
        }
        var (takenW, takenH, pairs) = (new HashSet<int>(), new HashSet<int>(), new List<Pair>());
        foreach (var (_, w, h) in offers.OrderBy(o => o.Cost))
        {
            if (takenW.Contains(w) || takenH.Contains(h)) continue;
            takenW.Add(w);
            takenH.Add(h);
            pairs.Add(new(w, h, -1));
        }
        for (var i = 0; i < pairs.Count; i++)
            if (written[pairs[i].Written].Ornaments.HasFlag(Ornaments.Flam)) pairs[i] = WithGrace(pairs[i], here, takenH);
        return pairs;
    }

    /// <summary>Of a flam the main stroke is the later and louder of two of its drum within 60 ms.</summary>
    private static Pair WithGrace(Pair pair, List<HeardStroke> here, HashSet<int> taken)
    {
        const double Widest = 0.06;
        var own = here[pair.Heard];
        var other = Enumerable.Range(0, here.Count).Where(h => h != pair.Heard && !taken.Contains(h) && here[h].Family == own.Family
            && Math.Abs(here[h].At - own.At) < Widest).Select(h => (int?)h).MinBy(h => Math.Abs(here[h!.Value].At - own.At));
        if (other is not { } found) return pair;
        taken.Add(found);
        return here[found].At < own.At ? pair with { Grace = found } : pair with { Heard = found, Grace = pair.Heard };
    }

    /// <summary>Bar lines by least squares over the matched strokes while each voice's mean is taken out and strokes far off are left out;
    /// the timekeeper's mean is 0.</summary>
    private static LaidBars Fitted(Passage passage, LaidBars grid, List<Pair> pairs, List<(Seconds At, double Sureness)> exact,
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
        List<(Seconds At, double Sureness)> exact, List<Pair> pairs)
    {
        grid = Fitted(passage, grid, pairs, exact, out var timekeeper);
        var strokes = pairs.Select(p => new MeasuredStroke(written[p.Written], exact[p.Heard].At,
                (exact[p.Heard].At - grid.At(Swing.Played(written[p.Written].At, passage))) * 1000, exact[p.Heard].Sureness,
                p.Grace >= 0 ? (exact[p.Heard].At - exact[p.Grace].At) * 1000 : null, here[p.Heard].Loudness))
            .OrderBy(s => s.Stroke.At).ThenBy(s => s.Stroke.Voice).ToList();
        var matched = pairs.Select(p => p.Written).ToHashSet();
        var used = pairs.SelectMany(p => (int[])[p.Heard, p.Grace]).ToHashSet();
        var odd = OddStrokes.In(passage, [.. strokes.Select(s => s.AsOffset)]);
        var usual = strokes.Where(s => !odd.Any(o => o.At == s.Stroke.At && o.Voice == s.Stroke.Voice)).ToList();
        Seconds[] lines = [.. Enumerable.Range(0, passage.Bars + 1).Select(b => grid.At(passage.Meters.StartOf(b)))];
        return new(strokes, [.. written.Where((_, w) => !matched.Contains(w))],
            [.. here.Where((h, i) => !used.Contains(i) && h.At > lines[0] - 0.03 && h.At < lines[^1] - 0.03 && IsExtra(h, here, used))],
            [.. grid.BarTempos],
            lines, timekeeper, MicroTiming.Means(usual.Select(s => s.AsOffset)), [.. odd],
                MeasuredSwing.Of(passage, grid, [.. strokes.Select(s => s.AsOffset)]), null);
    }

    /// <summary>Beside a stroke that is matched only what is as good as certain: one drum is easily heard as two.</summary>
    private static bool IsExtra(HeardStroke stroke, List<HeardStroke> here, HashSet<int> used)
    {
        const double Sure = 0.6, Certain = 0.9, OneMoment = 0.035;
        return stroke.Confidence >= Sure && (stroke.Strength >= Certain
            || !used.Any(i => i >= 0 && Math.Abs(here[i].At - stroke.At) < OneMoment));
    }
}
