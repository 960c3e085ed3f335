using MathNet.Numerics;
using MathNet.Numerics.Distributions;

namespace InnerCadence.Core.Evidence;

/// <summary>A table of two by two: the player with and without, the others with and without.</summary>
public readonly record struct Table(int A, int B, int C, int D)
{
    public int Total => A + B + C + D;

    /// <summary>Both sides were searched, so that there is something to compare.</summary>
    public bool IsSearched => A + B > 0 && C + D > 0;
}

/// <summary>How much more often one side has something: a log-odds ratio, how sure it is, and how likely chance alone would give it.</summary>
/// <param name="P">Fisher's exact test, two-sided.</param>
/// <param name="Q">P corrected for all rows that were compared together.</param>
public sealed record Contrast(double LogOdds, double StandardError, double Low, double High, double P, double Q);

/// <summary>Where the tempo divides what is played from what is not.</summary>
/// <param name="Below">The fastest tempo of the slower side.</param>
/// <param name="Above">The slowest of the faster side.</param>
/// <param name="Corrected">P times the number of splits that were tried, at most 1.</param>
public sealed record TempoThreshold(double Below, double Above, double P, double Corrected);

/// <summary>Comparing counts of two sides (evidence.md, "Against others").</summary>
public static class Contrasts
{
    private const double Z = 1.959963984540054;

    /// <summary>One part in ten million: tables as likely as the one seen count, whatever the last digits say.</summary>
    private const double Alike = 1e-7;

    /// <summary>Each row against chance, corrected for all searched rows together; nothing for a row of which one side was not searched.</summary>
    /// <remarks>Half an event is added to each cell of the log-odds ratio (Haldane, Anscombe); its standard error is the root of the summed reciprocals.</remarks>
    public static IReadOnlyList<Contrast?> Of(IReadOnlyList<Table> rows)
    {
        var searched = rows.Select((row, i) => (row, i)).Where(r => r.row.IsSearched).ToList();
        var p = searched.Select(r => Fisher(r.row)).ToList();
        var q = Adjust(p);
        var contrasts = new Contrast?[rows.Count];
        for (var k = 0; k < searched.Count; k++)
        {
            var (row, i) = searched[k];
            double a = row.A + 0.5, b = row.B + 0.5, c = row.C + 0.5, d = row.D + 0.5;
            var odds = Math.Log(a * d / (b * c));
            var error = Math.Sqrt(1 / a + 1 / b + 1 / c + 1 / d);
            contrasts[i] = new(odds, error, odds - Z * error, odds + Z * error, p[k], q[k]);
        }
        return contrasts;
    }

    /// <summary>Fisher's exact p, two-sided: the sum of all tables with the same margins that are no likelier than the one seen.</summary>
    public static double Fisher(Table t)
    {
        int row = t.A + t.B, other = t.C + t.D, column = t.A + t.C;
        double Log(int a) => Choose(row, a) + Choose(other, column - a) - Choose(row + other, column);
        var seen = Log(t.A) + Math.Log(1 + Alike);
        var sum = 0.0;
        for (var a = Math.Max(0, column - other); a <= Math.Min(row, column); a++)
            if (Log(a) is var log && log <= seen) sum += Math.Exp(log);
        return Math.Min(1, sum);
    }

    /// <summary>Benjamini and Hochberg (1995): in the order given, each the least false-discovery rate at which it would still be called.</summary>
    public static IReadOnlyList<double> Adjust(IReadOnlyList<double> p)
    {
        var q = new double[p.Count];
        var least = 1.0;
        var rank = p.Count;
        foreach (var i in Enumerable.Range(0, p.Count).OrderByDescending(i => p[i]))
            q[i] = least = Math.Min(least, p[i] * p.Count / rank--);
        return q;
    }

    /// <summary>The split between neighbouring tempos with the smallest Fisher p, the slower of equals; nothing with fewer than two different tempos.</summary>
    public static TempoThreshold? Threshold(IEnumerable<(double Tempo, int With, int Without)> rows)
    {
        var tempos = rows.GroupBy(r => r.Tempo).OrderBy(g => g.Key).Select(g => (Tempo: g.Key, With: g.Sum(r => r.With), Without: g.Sum(r => r.Without))).ToList();
        TempoThreshold? best = null;
        for (var i = 1; i < tempos.Count; i++)
        {
            var (slow, fast) = (tempos.Take(i).ToList(), tempos.Skip(i).ToList());
            var p = Fisher(new(slow.Sum(t => t.With), slow.Sum(t => t.Without), fast.Sum(t => t.With), fast.Sum(t => t.Without)));
            if (best is null || p < best.P) best = new(slow[^1].Tempo, fast[0].Tempo, p, Math.Min(1, p * (tempos.Count - 1)));
        }
        return best;
    }

    /// <summary>
    /// How many times as often one side has it: the ratio of rates with its exact 95 % interval, Clopper and Pearson's for that side's share of all events,
    /// turned into a ratio by the exposures.
    /// </summary>
    /// <returns>Nothing where one side was not searched or nothing was found; an infinite upper end or value where the others have none.</returns>
    public static Interval? TimesAsOften(int events, double bars, int otherEvents, double otherBars)
    {
        return bars <= 0 || otherBars <= 0 || events + otherEvents == 0 ? null : Times(events, bars, otherEvents, otherBars);
    }

    /// <summary>The same where the events are thought on at the present rates and need not be whole.</summary>
    internal static Interval Times(double events, double bars, double otherEvents, double otherBars)
    {
        double Ratio(double share) => share >= 1 ? double.PositiveInfinity : share / (1 - share) * otherBars / bars;
        var n = events + otherEvents;
        var low = events == 0 ? 0 : Beta.InvCDF(events, otherEvents + 1, 0.025);
        var high = otherEvents == 0 ? 1 : Beta.InvCDF(events + 1, otherEvents, 0.975);
        return new(Ratio(events / n), Ratio(low), Ratio(high));
    }

    /// <summary>Silence before a first sighting: how many the searched amount would show at a rate, and how likely none is (Poisson).</summary>
    /// <param name="per100">The lower end of the rate seen elsewhere.</param>
    public static (double Expected, double None) Silence(double per100, double bars) => (per100 * bars / 100, Math.Exp(-per100 * bars / 100));

    private static double Choose(int n, int k) => SpecialFunctions.FactorialLn(n) - SpecialFunctions.FactorialLn(k) - SpecialFunctions.FactorialLn(n - k);
}
