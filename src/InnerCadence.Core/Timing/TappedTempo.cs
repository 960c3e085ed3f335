using MathNet.Numerics;
using MathNet.Numerics.Distributions;

namespace InnerCadence.Core.Timing;

/// <summary>A tempo tapped along: beats a minute with its 95 % interval.</summary>
/// <param name="Used">Taps that count.</param>
/// <param name="Dropped">Doubles, slips, and what came before the taps were steady.</param>
public sealed record TappedTempo(double Bpm, double Low, double High, int Used, int Dropped)
{
    public const int Least = 4;
    public const int Most = 10_000;

    /// <summary>Reads taps at any speed; nothing when fewer than <see cref="Least"/> of them are steady.</summary>
    /// <param name="seconds">When each tap came, in any order.</param>
    /// <remarks>
    /// time.md, "Taps": begins with the first tap whose next gap is within a quarter of the median gap m; keeps a tap whose gap from the
    /// last kept one
    /// is within m/4 of m (one beat) or of 2m (two); then a least-squares line through beat and time, Student's t on its slope.
    /// </remarks>
    public static TappedTempo? Of(IEnumerable<double> seconds)
    {
        var taps = seconds.Order().ToArray();
        var kept = Steady(taps);
        if (kept.Count < Least) return null;
        var (beats, times) = (kept.Select(k => (double)k.Beat).ToArray(), kept.Select(k => k.At).ToArray());
        var (first, slope) = Fit.Line(beats, times);
        var middle = beats.Average();
        var rest = beats.Zip(times, (beat, at) => Math.Pow(at - first - slope * beat, 2)).Sum();
        var error = Math.Sqrt(rest / (kept.Count - 2) / beats.Sum(beat => Math.Pow(beat - middle, 2)));
        var half = StudentT.InvCDF(0, 1, kept.Count - 2, 0.975) * error;
        // Four wild taps can leave the fast end open: then it is what no drummer plays.
        return new(60 / slope, 60 / (slope + half), half < slope ? 60 / (slope - half) : double.PositiveInfinity, kept.Count,
            taps.Length - kept.Count);
    }

    private static List<(int Beat, double At)> Steady(double[] taps)
    {
        if (taps.Length < Least) return [];
        var m = Median([.. taps.Zip(taps.Skip(1), (a, b) => b - a)]);
        var start = Enumerable.Range(0, taps.Length - 1).FirstOrDefault(i => Within(taps[i + 1] - taps[i], m, m), -1);
        if (m <= 0 || start < 0) return [];
        var kept = new List<(int Beat, double At)> { (0, taps[start]) };
        foreach (var at in taps.Skip(start + 1))
        {
            var (beat, last) = kept[^1];
            if (Within(at - last, m, m)) kept.Add((beat + 1, at));
            else if (Within(at - last, 2 * m, m)) kept.Add((beat + 2, at));
        }
        return kept;
    }

    private static bool Within(double gap, double target, double m) => Math.Abs(gap - target) <= m / 4 + 1e-9;

    internal static double Median(double[] values)
    {
        Array.Sort(values);
        return values.Length % 2 == 1 ? values[values.Length / 2] : (values[values.Length / 2 - 1] + values[values.Length / 2]) / 2;
    }
}
