using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Hearing;

/// <summary>Where a passage's bar lines lie under what is heard, roughly: what the fit begins with.</summary>
/// <remarks>sound.md, "Measured against the sound".</remarks>
internal sealed class BarAlignment
{
    /// <summary>How much slower or faster the whole may be, and how many seconds off its start.</summary>
    private const double Widest = 0.026, Farthest = 0.035;

    /// <summary>Seconds within which a heard stroke speaks for a place: one deviation.</summary>
    private const double Near = 0.014;

    /// <summary>What a stroke counts of another family, one that is now and then heard for it: a ride may be a bell throughout.</summary>
    private const double Alike = 0.5;

    /// <summary>A bar that is so much longer or shorter than the whole's pace lets expect costs half a stroke.</summary>
    private const double Uneven = 0.03, MostUneven = 3;

    /// <summary>Seconds from one place that is tried for a bar line to the next; and how far from the even grid they go, more with every
    /// bar.</summary>
    private const double Step = 0.005, FartherABar = 0.045, FarthestLine = 0.225;

    private readonly Passage passage;
    private readonly LaidBars prior;
    private readonly (int Bar, double Part, double[] Speaks)[] strokes;
    private readonly double begin;

    private BarAlignment(Passage passage, IReadOnlyList<Stroke> written, LaidBars prior, IReadOnlyList<HeardStroke> heard)
    {
        (this.passage, this.prior, begin) = (passage, prior, prior.Start - 1);
        var milliseconds = (int)((prior.End - prior.Start) * (1 + Widest) * 1000) + 2500;
        var speaking = written.Select(s => s.Voice.Family).Distinct().ToDictionary(family => family, family => Speaking(
            [.. heard.Where(h => StrokeMatch.Alike(h.Family) == StrokeMatch.Alike(family))
                .Select(h => (h.At - begin, h.Family == family ? 1 : Alike))], milliseconds));
        strokes = [.. written.Select(s => GridFit.Share(passage, prior, s) is var (bar, part) ? (bar, part, speaking[s.Voice.Family])
            : default)];
    }

    /// <summary>How well the passage lies under what is heard, and its bar lines there: at an even pace, some per cent slower or faster
    /// than the prior and some milliseconds off, wherever most strokes lie near what is heard of their family, or of one that is taken
    /// for it; then bar line by bar line by dynamic programming.</summary>
    public static (LaidBars Grid, double Score) Of(Passage passage, IReadOnlyList<Stroke> written, LaidBars prior,
        IReadOnlyList<HeardStroke> heard)
    {
        var alignment = new BarAlignment(passage, written, prior, heard);
        return alignment.BarByBar(alignment.Even());
    }

    private double[] Even()
    {
        double[] lines = [.. Enumerable.Range(0, passage.Bars + 1).Select(b => prior.At(passage.Meters.StartOf(b)) - prior.Start)];
        var (best, score) = (lines, double.NegativeInfinity);
        for (var scale = 1 - Widest; scale <= 1 + Widest + 1e-9; scale += 0.001)
            for (var off = -Farthest; off <= Farthest + 1e-9; off += 0.005)
            {
                double[] tried = [.. lines.Select(line => prior.Start + off + line * scale)];
                var sum = strokes.Sum(s => Speaks(s, tried[s.Bar], tried[s.Bar + 1])) - 2 * Math.Abs(off) - 4 * Math.Abs(scale - 1);
                if (sum > score) (score, best) = (sum, tried);
            }
        return best;
    }

    private (LaidBars Grid, double Score) BarByBar(double[] even)
    {
        double[][] places = [.. even.Select((line, bar) => Around(line, Math.Min(FarthestLine, Step + FartherABar * bar)))];
        var best = places.Select(p => new double[p.Length]).ToArray();
        var from = places.Select(p => new int[p.Length]).ToArray();
        for (var bar = 0; bar < passage.Bars; bar++)
        {
            var (inBar, length) = (strokes.Where(s => s.Bar == bar).ToArray(), even[bar + 1] - even[bar]);
            for (var to = 0; to < places[bar + 1].Length; to++)
            {
                best[bar + 1][to] = double.NegativeInfinity;
                for (var start = 0; start < places[bar].Length; start++)
                {
                    var (first, last) = (places[bar][start], places[bar + 1][to]);
                    var off = ((last - first) / length - 1) / Uneven;
                    var score = best[bar][start] - 0.5 * off * off;
                    if (Math.Abs(off) > MostUneven || score + inBar.Length <= best[bar + 1][to]) continue;
                    foreach (var stroke in inBar) score += Speaks(stroke, first, last);
                    if (score > best[bar + 1][to]) (best[bar + 1][to], from[bar + 1][to]) = (score, start);
                }
            }
        }
        var (lines, at) = (new Seconds[places.Length], Array.IndexOf(best[^1], best[^1].Max()));
        var highest = best[^1][at];
        for (var bar = passage.Bars; bar >= 0; at = from[bar][at], bar--) lines[bar] = new(places[bar][at]);
        return (new(lines, passage, prior.Tempos), highest);
    }

    private static double[] Around(double line, double most) =>
        [.. Enumerable.Range(-(int)(most / Step), 2 * (int)(most / Step) + 1).Select(i => line + i * Step)];

    private double Speaks((int Bar, double Part, double[] Speaks) stroke, double from, double to)
    {
        var at = (int)((from + stroke.Part * (to - from) - begin) * 1000 + 0.5);
        return at >= 0 && at < stroke.Speaks.Length ? stroke.Speaks[at] : 0;
    }

    /// <summary>Of every millisecond how much some times, each of its weight, speak for it, 0 to 1.</summary>
    private static double[] Speaking((double At, double Weight)[] times, int milliseconds)
    {
        var (speaks, reach) = (new double[milliseconds], (int)(4 * Near * 1000));
        foreach (var (time, weight) in times)
            for (var at = Math.Max(0, (int)(time * 1000) - reach); at < Math.Min(milliseconds, (int)(time * 1000) + reach); at++)
            {
                var off = (at / 1000.0 - time) / Near;
                speaks[at] = Math.Max(speaks[at], weight * Math.Exp(-0.5 * off * off));
            }
        return speaks;
    }
}
