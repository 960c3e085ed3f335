namespace InnerCadence.Core.Evidence;

/// <summary>A run of bars searched equally closely.</summary>
/// <param name="From">First bar, from 1.</param>
public readonly record struct CoveredRun(int From, int Bars, Closeness Closeness)
{
    public int Last => From + Bars - 1;
}

/// <summary>Searched spans laid over each other.</summary>
public static class Covered
{
    /// <summary>Every bar once, with the closest search that took it in; in order, neighbours of one closeness joined.</summary>
    public static IReadOnlyList<CoveredRun> Runs(IEnumerable<CoveredRun> spans)
    {
        var all = spans.Where(s => s.Bars > 0).ToList();
        // Between two edges nothing changes.
        var edges = all.SelectMany(s => (int[])[s.From, s.From + s.Bars]).Distinct().Order().ToList();
        var runs = new List<CoveredRun>();
        foreach (var (from, to) in edges.Zip(edges.Skip(1)))
        {
            var over = all.Where(s => s.From <= from && s.Last >= to - 1).ToList();
            if (over.Count == 0) continue;
            var closest = over.Max(s => s.Closeness);
            if (runs.Count > 0 && runs[^1].Last + 1 == from && runs[^1].Closeness == closest) runs[^1] =
                runs[^1] with { Bars = to - runs[^1].From };
            else runs.Add(new(from, to - from, closest));
        }
        return runs;
    }
}
