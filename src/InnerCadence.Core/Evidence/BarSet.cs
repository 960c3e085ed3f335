namespace InnerCadence.Core.Evidence;

/// <summary>Bars of one recording, each once, as runs that neither touch nor overlap. Bars count from 1.</summary>
public sealed class BarSet
{
    private readonly (int From, int To)[] runs;

    private BarSet((int From, int To)[] runs)
    {
        this.runs = runs;
        Count = runs.Sum(r => r.To - r.From + 1);
    }

    public static BarSet Empty { get; } = new([]);

    public int Count { get; }
    /// <summary>First and last bar of each run, in order.</summary>
    public IReadOnlyList<(int From, int To)> Runs => runs;

    public static BarSet Of(int from, int bars) => Of([(from, bars)]);

    /// <summary>Spans laid over each other; those before bar 1 or without bars are left out.</summary>
    public static BarSet Of(IEnumerable<(int From, int Bars)> spans)
    {
        var joined = new List<(int From, int To)>();
        foreach (var (from, bars) in spans.Where(s => s.Bars > 0 && s.From >= 1).OrderBy(s => s.From))
        {
            var to = from + bars - 1;
            if (joined.Count > 0 && from <= joined[^1].To + 1) joined[^1] = (joined[^1].From, Math.Max(joined[^1].To, to));
            else joined.Add((from, to));
        }
        return joined.Count == 0 ? Empty : new([.. joined]);
    }

    public bool Contains(int bar)
    {
        var (low, high) = (0, runs.Length - 1);
        while (low <= high)
        {
            var middle = (low + high) / 2;
            if (runs[middle].To < bar) low = middle + 1;
            else if (runs[middle].From > bar) high = middle - 1;
            else return true;
        }
        return false;
    }

    public BarSet And(BarSet other) => Of(Spans.Concat(other.Spans));

    public BarSet Without(BarSet other) => Of(Joined(Bars.Where(bar => !other.Contains(bar))));

    /// <summary>No further than the last bar there is.</summary>
    public BarSet UpTo(int last) => Of(runs.Where(r => r.From <= last).Select(r => (r.From, Math.Min(r.To, last) - r.From + 1)));

    public IEnumerable<int> Bars => runs.SelectMany(r => Enumerable.Range(r.From, r.To - r.From + 1));

    /// <summary>1–16, 33–40</summary>
    public override string ToString() => string.Join(", ", runs.Select(r => r.From == r.To ? $"{r.From}" : $"{r.From}–{r.To}"));

    private IEnumerable<(int From, int Bars)> Spans => runs.Select(r => (r.From, r.To - r.From + 1));

    private static IEnumerable<(int From, int Bars)> Joined(IEnumerable<int> bars)
    {
        var (from, count) = (0, 0);
        foreach (var bar in bars)
        {
            if (count > 0 && bar == from + count) count++;
            else
            {
                if (count > 0) yield return (from, count);
                (from, count) = (bar, 1);
            }
        }
        if (count > 0) yield return (from, count);
    }
}
