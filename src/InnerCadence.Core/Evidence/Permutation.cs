namespace InnerCadence.Core.Evidence;

/// <summary>Which of many shares differ between two sides, the unit being the title (evidence.md, "Fingerprint, habits, stock of bars,
/// traits").</summary>
public static class Permutation
{
    public const int Draws = 2000;

    /// <summary>With fewer titles on a side no exchange is rare enough for anything to stand out.</summary>
    public const int LeastTitles = 4;

    /// <summary>
    /// For each cell how often titles exchanged at random between the sides differ by as much anywhere: corrected for all cells by the
    /// greatest of their statistics (Westfall and
    /// Young, 1993). A statistic is the difference of the mean shares over what their spread would make of it.
    /// </summary>
    /// <param name="one">A row a title, a share a cell; NaN where a title says nothing of a cell.</param>
    /// <returns>Nothing where a side has too few titles; 1 for a cell that is the same everywhere.</returns>
    public static IReadOnlyList<double>? Corrected(IReadOnlyList<double[]> one, IReadOnlyList<double[]> two)
    {
        if (one.Count < LeastTitles || two.Count < LeastTitles) return null;
        double[][] all = [.. one, .. two];
        var cells = all[0].Length;
        var order = Enumerable.Range(0, all.Length).ToArray();
        var spread = Enumerable.Range(0, cells).Select(c => Spread([.. all.Select(row => row[c]).Where(x => !double.IsNaN(x))])).ToArray();
        double[] Statistics()
        {
            var statistics = new double[cells];
            for (var c = 0; c < cells; c++)
            {
                if (spread[c] == 0) continue;
                var (n, m, sum, other) = (0, 0, 0.0, 0.0);
                for (var i = 0; i < order.Length; i++)
                {
                    var share = all[order[i]][c];
                    if (double.IsNaN(share)) continue;
                    if (i < one.Count) (n, sum) = (n + 1, sum + share);
                    else (m, other) = (m + 1, other + share);
                }
                if (n > 0 && m > 0) statistics[c] = Math.Abs(sum / n - other / m) / (spread[c] * Math.Sqrt(1.0 / n + 1.0 / m));
            }
            return statistics;
        }
        var seen = Statistics();
        var greatest = new double[Draws];
        var random = new Random(Resampling.Seed);
        for (var draw = 0; draw < Draws; draw++)
        {
            random.Shuffle(order);
            greatest[draw] = Statistics().Max();
        }
        Array.Sort(greatest);
        return [.. seen.Select(s => (1.0 + Draws - FirstAtLeast(greatest, s - 1e-9)) / (Draws + 1))];
    }

    private static double Spread(double[] shares)
    {
        if (shares.Length < 2) return 0;
        var mean = shares.Average();
        var square = shares.Sum(s => (s - mean) * (s - mean)) / (shares.Length - 1);
        return square < 1e-12 ? 0 : Math.Sqrt(square);
    }

    private static int FirstAtLeast(double[] sorted, double value)
    {
        var (low, high) = (0, sorted.Length);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (sorted[middle] >= value) high = middle;
            else low = middle + 1;
        }
        return low;
    }
}
