using InnerCadence.Core.Music;
using MathNet.Numerics.Statistics;

namespace InnerCadence.Core.Hearing;

/// <summary>Strokes that were played unlike the others of their voice.</summary>
/// <remarks>time.md, "Micro-timing": over 15 ms and over 3.5 robust deviations from the median of its voice at the same place in the other
/// bars, or of its voice in the whole passage where fewer than three other bars have it.</remarks>
internal static class OddStrokes
{
    private const double Least = 15, Deviations = 3.5, MadToDeviation = 1.4826, LeastOthers = 3;

    public static IReadOnlyList<MeasuredOdd> In(Passage passage, IReadOnlyList<MeasuredStroke> strokes)
    {
        var usual = strokes.Select(s => Usual(passage, strokes, s)).ToList();
        var off = strokes.Select((s, i) => usual[i] is { } there ? s.Offset - there : 0).ToList();
        var known = off.Where((_, i) => usual[i] is not null).ToList();
        if (known.Count < 4) return [];
        var deviation = MadToDeviation * known.Select(Math.Abs).Median();
        return [.. strokes.Select((s, i) => new MeasuredOdd(s.Stroke, off[i]))
            .Where((o, i) => usual[i] is not null && Math.Abs(o.Against) > Least && Math.Abs(o.Against) > Deviations * deviation)];
    }

    /// <summary>Nothing where no other stroke tells.</summary>
    private static double? Usual(Passage passage, IReadOnlyList<MeasuredStroke> strokes, MeasuredStroke of)
    {
        var (bar, inBar) = passage.Meters.Locate(of.Stroke.At);
        var others = strokes.Where(s => s != of && s.Stroke.Voice == of.Stroke.Voice).ToList();
        var same = others.Where(s => passage.Meters.Locate(s.Stroke.At) is var (b, p) && b != bar && p == inBar).ToList();
        var from = same.Count >= LeastOthers ? same : others;
        return from.Count < 2 ? null : from.Select(s => s.Offset).Median();
    }
}
