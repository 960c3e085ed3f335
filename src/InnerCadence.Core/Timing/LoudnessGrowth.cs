using InnerCadence.Core.Counting;
using InnerCadence.Core.Music;
using MathNet.Numerics.Statistics;

namespace InnerCadence.Core.Timing;

/// <summary>A span over which a passage is played louder and louder, or softer.</summary>
/// <param name="From">From the first bar line, and so <paramref name="To"/>.</param>
/// <param name="Steps">By how many levels, above 0 louder; a level is 1.25 times.</param>
/// <param name="Strokes">Struck within it.</param>
public sealed record LoudnessGrowth(Tick From, Tick To, double Steps, int Strokes)
{
    /// <summary>So many levels are told, and so few strokes and quarters tell nothing.</summary>
    private const double Least = 1.5, Sure = 4;
    private const int LeastStrokes = 8, LeastQuarters = 2, Parameters = 4;

    public double Times => LevelWords.Factor(Steps);

    /// <summary>The levels at its two ends, as near to mf as they can be.</summary>
    public (Level From, Level To) Levels
    {
        get
        {
            var (softest, loudest) = ((int)Level.Pp, (int)Level.Ff);
            var apart = Math.Clamp((int)Math.Round(Steps), softest - loudest, loudest - softest);
            var from = Math.Clamp(-apart / 2, Math.Max(softest, softest - apart), Math.Min(loudest, loudest - apart));
            return ((Level)from, (Level)(from + apart));
        }
    }

    /// <summary>As marks of a line of levels for the whole kit.</summary>
    public Levels Marks
    {
        get
        {
            var (from, to) = Levels;
            LevelMark Mark(Tick at, Level level, bool hairpin) => new(at, [], level, hairpin);
            LevelMark[] before = From > Tick.Zero ? [Mark(Tick.Zero, from, false)] : [];
            return new([.. before, Mark(From, from, true), Mark(To, to, false)]);
        }
    }

    /// <summary>growing from rather soft to loud, from 1 to 4 of bar 2: 1.9 times as loud over 26 strokes</summary>
    /// <param name="first">Number of the passage's first bar.</param>
    public string Words(Passage passage, int first = 1) =>
        $"{(Steps > 0 ? "growing" : "fading")} from {Levels.From.Spoken()} to {Levels.To.Spoken()}, "
        + $"from {Place(passage, From, first)} to {Place(passage, To, first)}: "
        + FormattableString.Invariant($"{(Steps > 0 ? Times : 1 / Times):0.0} times as {(Steps > 0 ? "loud" : "soft")} over {Strokes} strokes");

    private static string Place(Passage passage, Tick at, int first)
    {
        var (bar, inBar) = passage.Meters.Locate(at);
        return bar >= passage.Bars ? "the end" : $"{CountNames.Spoken(inBar, passage.Meters.MeterOf(bar))} of bar {first + bar}";
    }

    /// <remarks>sound.md, "Growing and fading": each stroke's loudness in levels against the middle of its voice as it is written; of all
    /// spans between quarters the one that leaves least when it goes straight from one level to another there, and holds before and after,
    /// if its change is four times as far as its error.</remarks>
    /// <returns>Nothing where no span stands out, or the text says its levels itself.</returns>
    public static LoudnessGrowth? Of(Passage passage, IReadOnlyCollection<StrokeOffset> offsets)
    {
        if (passage.Levels.Marks.Count > 0) return null;
        var struck = Residuals(passage, offsets);
        if (struck.Count < LeastStrokes + Parameters) return null;
        var ends = Ends(passage.Length);
        (LoudnessGrowth? Growth, double Left) best = (null, double.PositiveInfinity);
        foreach (var from in ends)
            foreach (var to in ends.Where(q => (q - from).Value >= LeastQuarters * Tick.PerQuarter))
            {
                var within = struck.Count(s => s.At >= from && s.At <= to);
                if (within < LeastStrokes) continue;
                var (steps, error, left) = Fit(struck, from, to);
                if (left < best.Left && Math.Abs(steps) >= Least && Math.Abs(steps) >= Sure * error)
                    best = (new(from, to, steps, within), left);
            }
        return best.Growth;
    }

    /// <summary>Where a span may begin and end: quarters, or in a long passage so many of them that there are not too many spans.</summary>
    private static List<Tick> Ends(Tick length)
    {
        const int Most = 64;
        var quarters = length.Value / Tick.PerQuarter;
        var step = quarters / Most + 1;
        return [.. Enumerable.Range(0, quarters / step + 1).Select(i => new Tick(i * step * Tick.PerQuarter))];
    }

    private static List<(Tick At, double Steps)> Residuals(Passage passage, IReadOnlyCollection<StrokeOffset> offsets)
    {
        const int Enough = 3;
        var level = Math.Log(LevelWords.Factor(1));
        var known = from offset in offsets
                    where offset.Loudness is > 0
                    join stroke in passage.Strokes on (offset.At, offset.Voice) equals (stroke.At, stroke.Voice)
                    select (stroke.Voice, stroke.Dynamic, stroke.At, Steps: Math.Log(offset.Loudness!.Value) / level);
        return [.. known.GroupBy(k => (k.Voice, k.Dynamic)).Where(g => g.Count() >= Enough)
            .SelectMany(g => g.Select(k => k.Steps).Median() is var middle ? g.Select(k => (k.At, k.Steps - middle)) : [])
            .OrderBy(k => k.At)];
    }

    /// <summary>Least squares of level before + change x how far through the span.</summary>
    /// <returns>The change, its error, and the squares that are left.</returns>
    private static (double Steps, double Error, double Left) Fit(List<(Tick At, double Steps)> struck, Tick from, Tick to)
    {
        var through = struck.Select(s => Math.Clamp((s.At - from).Value / (double)(to - from).Value, 0, 1)).ToArray();
        var (meanX, meanY) = (through.Average(), struck.Average(s => s.Steps));
        var (xx, xy, yy) = (0.0, 0.0, 0.0);
        for (var i = 0; i < through.Length; i++)
        {
            var (x, y) = (through[i] - meanX, struck[i].Steps - meanY);
            (xx, xy, yy) = (xx + x * x, xy + x * y, yy + y * y);
        }
        if (xx < 1e-9) return (0, double.PositiveInfinity, double.PositiveInfinity);
        var steps = xy / xx;
        var left = Math.Max(0, yy - steps * xy);
        return (steps, Math.Sqrt(left / Math.Max(1, struck.Count - Parameters) / xx), left);
    }
}
