namespace InnerCadence.Core.Evidence;

/// <summary>A table of two by two: the player with and without, the others with and without.</summary>
public readonly record struct Table(int A, int B, int C, int D)
{
    public int Total => A + B + C + D;

    /// <summary>Both sides were searched, so that there is something to compare.</summary>
    public bool IsSearched => A + B > 0 && C + D > 0;
}

/// <summary>How much more often one side has something: a log-odds ratio, how sure it is, and how likely chance alone would give
/// it.</summary>
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

    /// <summary>Each row against chance, corrected for all searched rows together; nothing for a row of which one side was not
    /// searched.</summary>
    /// <remarks>Half an event is added to each cell of the log-odds ratio (Haldane, Anscombe); its standard error is the root of the summed
    /// reciprocals.</remarks>
    public static IReadOnlyList<Contrast?> Of(IReadOnlyList<Table> rows, CancellationToken stop = default)
    {
        var searched = rows.Select((row, i) => (row, i)).Where(r => r.row.IsSearched).ToList();
        var p = searched.Select(r => Fisher(r.row, stop)).ToList();
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
    /// <remarks>
    /// Likelihoods fall from the commonest table outward on both sides, so each side is walked until its terms vanish: a few thousand steps
    /// for millions. Each is got from its
    /// neighbour by one multiplication.
    /// </remarks>
    public static double Fisher(Table t, CancellationToken stop = default)
    {
        int row = t.A + t.B, other = t.C + t.D, column = t.A + t.C;
        var (first, last) = (Math.Max(0, column - other), Math.Min(row, column));
        var commonest = Math.Clamp((int)((column + 1L) * (row + 1L) / (row + (long)other + 2)), first, last);
        double Step(int a, int step) => step > 0
            ? (row - a) * (double)(column - a) / ((a + 1.0) * (other - column + a + 1.0))
            : a * (double)(other - column + a) / ((row - a + 1.0) * (column - a + 1.0));

        // Against the commonest table, which is 1.
        var seen = 1.0;
        for (var a = commonest; a != t.A && seen >= Vanished; a += Math.Sign(t.A - commonest)) seen *= Step(a, Math.Sign(t.A - commonest));
        var (noLikelier, all) = (0.0, 0.0);
        void Walk(int step)
        {
            var likely = 1.0;
            for (var a = commonest; a >= first && a <= last && likely >= Vanished; likely *= Step(a, step), a += step)
            {
                if ((a & 0xFFFF) == 0) stop.ThrowIfCancellationRequested();
                if (a == commonest && step < 0) continue;
                all += likely;
                if (likely <= seen * (1 + Alike)) noLikelier += likely;
            }
        }
        Walk(1);
        Walk(-1);
        return Math.Min(1, noLikelier / all);
    }

    /// <summary>A table so much rarer than the commonest one counts as never.</summary>
    private const double Vanished = 1e-300;

    /// <summary>Benjamini and Hochberg (1995): in the order given, each the least false-discovery rate at which it would still be
    /// called.</summary>
    public static IReadOnlyList<double> Adjust(IReadOnlyList<double> p)
    {
        var q = new double[p.Count];
        var least = 1.0;
        var rank = p.Count;
        foreach (var i in Enumerable.Range(0, p.Count).OrderByDescending(i => p[i]))
            q[i] = least = Math.Min(least, p[i] * p.Count / rank--);
        return q;
    }

    /// <summary>The split between neighbouring tempos with the smallest Fisher p, the slower of equals; nothing with fewer than two
    /// different tempos.</summary>
    public static TempoThreshold? Threshold(IEnumerable<(double Tempo, int With, int Without)> rows)
    {
        var tempos = rows.GroupBy(r => r.Tempo).OrderBy(g => g.Key)
            .Select(g => (Tempo: g.Key, With: g.Sum(r => r.With), Without: g.Sum(r => r.Without))).ToList();
        TempoThreshold? best = null;
        for (var i = 1; i < tempos.Count; i++)
        {
            var (slow, fast) = (tempos.Take(i).ToList(), tempos.Skip(i).ToList());
            var p = Fisher(new(slow.Sum(t => t.With), slow.Sum(t => t.Without), fast.Sum(t => t.With), fast.Sum(t => t.Without)));
            if (best is null || p < best.P) best = new(slow[^1].Tempo, fast[0].Tempo, p, Math.Min(1, p * (tempos.Count - 1)));
        }
        return best;
    }

    /// <summary>Silence before a first sighting: how many the searched amount would show at a rate, and how likely none is
    /// (Poisson).</summary>
    /// <param name="per100">The lower end of the rate seen elsewhere.</param>
    public static (double Expected, double None) Silence(double per100, double bars) =>
        (per100 * bars / 100, Math.Exp(-per100 * bars / 100));
}
