using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using MathNet.Numerics.LinearAlgebra;

namespace InnerCadence.Core.Hearing;

/// <summary>The bar lines under strokes that were played, each voice a little late or early of its own.</summary>
/// <remarks>time.md, "Micro-timing": the grid is the passage's bar lines joined by straight lines, fitted by least squares while each
/// voice's mean is taken out in turn and odd strokes are left out.</remarks>
internal static class GridFit
{
    internal readonly record struct Point(Stroke Stroke, Seconds At, double Weight);

    /// <summary>How far a bar may be slower or faster than its neighbours before it costs as much as a stroke that is so far off.</summary>
    private static readonly Seconds Steady = Seconds.OfMilliseconds(30);

    /// <summary>A stroke so much further off than the middle one counts no more.</summary>
    private const double Beyond = 3.5;

    public static LaidBars Of(Passage passage, LaidBars start, IReadOnlyList<Point> points, Voice timekeeper)
    {
        var (bars, voices) = (passage.Bars + 1, points.Select(p => p.Stroke.Voice).Distinct().Where(v => v != timekeeper).Order().ToList());
        var shares = points.Select(p => Share(passage, start, p.Stroke)).ToArray();
        var weights = points.Select(p => p.Weight).ToArray();
        var lines = Enumerable.Range(0, bars).Select(b => start.At(passage.Meters.StartOf(b)).Value).ToArray();
        double[] written = [.. Enumerable.Range(0, bars).Select(b => (double)passage.Meters.StartOf(b).Value)];
        for (var round = 0; round < 4; round++)
        {
            var (rows, values) = (new List<double[]>(), new List<double>());
            for (var i = 0; i < points.Count; i++)
            {
                if (weights[i] <= 0) continue;
                var row = new double[bars + voices.Count];
                var w = Math.Sqrt(weights[i]);
                (row[shares[i].Bar], row[shares[i].Bar + 1]) = (w * (1 - shares[i].Part), w * shares[i].Part);
                if (voices.IndexOf(points[i].Stroke.Voice) is >= 0 and var voice) row[bars + voice] = w;
                rows.Add(row);
                values.Add(w * points[i].At);
            }
            // A bar is about as fast as the next, and a voice about on time: what few strokes leave open stays where it was.
            for (var bar = 1; bar + 1 < bars; bar++)
            {
                var row = new double[bars + voices.Count];
                var (before, after) = (written[bar] - written[bar - 1], written[bar + 1] - written[bar]);
                var w = Seconds.OfMilliseconds(6) / Steady;
                (row[bar - 1], row[bar], row[bar + 1]) = (-w / before * before, w * (1 + before / after), -w * before / after);
                rows.Add(row);
                values.Add(0);
            }
            for (var line = 0; line < bars; line++) Add(rows, values, bars + voices.Count, line, 0.02, lines[line]);
            for (var voice = 0; voice < voices.Count; voice++) Add(rows, values, bars + voices.Count, bars + voice, 0.05, 0);
            var solved = Matrix<double>.Build.DenseOfRowArrays(rows).QR().Solve(Vector<double>.Build.DenseOfEnumerable(values));
            lines = [.. solved.Take(bars)];
            var off = points.Select((p, i) => p.At - (lines[shares[i].Bar] * (1 - shares[i].Part)
                + lines[shares[i].Bar + 1] * shares[i].Part)
                - (voices.IndexOf(p.Stroke.Voice) is >= 0 and var v ? solved[bars + v] : 0)).ToArray();
            var spread = Math.Max(0.003, 1.4826 * MathNet.Numerics.Statistics.Statistics.Median(off.Select(Math.Abs)));
            weights = [.. points.Select((p, i) => Math.Abs(off[i]) > Beyond * spread ? 0 : p.Weight)];
        }
        return new([.. Anchored(passage, points, shares, lines, weights, timekeeper).Select(l => new Seconds(l))], passage);
    }

    /// <summary>The grid on which the timekeeper's mean is 0; with two or fewer of its strokes, on which all strokes' mean is.</summary>
    private static IEnumerable<double> Anchored(Passage passage, IReadOnlyList<Point> points, (int Bar, double Part)[] shares,
        double[] lines,
        double[] weights, Voice timekeeper)
    {
        var own = Enumerable.Range(0, points.Count).Where(i => weights[i] > 0 && points[i].Stroke.Voice == timekeeper).ToList();
        if (own.Count <= 2) own = [.. Enumerable.Range(0, points.Count).Where(i => weights[i] > 0)];
        var mean = own.Count == 0 ? 0
            : own.Average(i => points[i].At - (lines[shares[i].Bar] * (1 - shares[i].Part) + lines[shares[i].Bar + 1] * shares[i].Part));
        return lines.Select(line => line + mean);
    }

    private static void Add(List<double[]> rows, List<double> values, int width, int column, double weight, double value)
    {
        var row = new double[width];
        row[column] = weight;
        rows.Add(row);
        values.Add(weight * value);
    }

    /// <summary>In which bar a stroke lies, and how far through it is in time.</summary>
    internal static (int Bar, double Part) Share(Passage passage, LaidBars laid, Stroke stroke)
    {
        var at = Swing.Played(stroke.At, passage);
        var bar = Math.Clamp(passage.Meters.Locate(at).Bar, 0, passage.Bars - 1);
        var (from, to) = (laid.At(passage.Meters.StartOf(bar)), laid.At(passage.Meters.StartOf(bar + 1)));
        return (bar, (laid.At(at) - from) / (to - from));
    }
}
