using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Claims;

/// <summary>A share or a rate with the interval that claims use, and what it would be with more of the same.</summary>
/// <remarks>
/// evidence.md, "Formulas": by drawing titles from 8 titles on, else Wilson or Garwood. Where every draw says the same, as with none or all, the draws are surer than anybody
/// can be, and the plain interval stands. With more searched, intervals by titles are taken to narrow with the root of the amount.
/// </remarks>
public sealed record Measured
{
    /// <summary>More than this is not in reach.</summary>
    public const int Reach = 1000;

    private readonly double hits, of;
    private readonly bool isRate;

    private Measured(Interval interval, double hits, double of, bool isRate, bool byTitles) => (Interval, this.hits, this.of, this.isRate, ByTitles) = (interval, hits, of, isRate, byTitles);

    public Interval Interval { get; }
    public bool ByTitles { get; }

    /// <summary>Nothing where nothing was searched.</summary>
    /// <param name="titles">Found of searched of each title.</param>
    public static Measured? Share(int hits, int of, IReadOnlyList<TitleCount> titles) =>
        Estimates.Presence(hits, of) is { } plain ? Chosen(plain, Resampling.Presence, titles, hits, of, false) : null;

    public static Measured? Rate(int events, int bars, IReadOnlyList<TitleCount> titles) =>
        Estimates.Rate(events, bars) is { } plain ? Chosen(plain, Resampling.Rate, titles, events, bars, true) : null;

    private static Measured Chosen(Interval plain, Func<IReadOnlyList<TitleCount>, int, Interval?> draw, IReadOnlyList<TitleCount> titles, double hits, double of, bool isRate) =>
        titles.Count >= Resampling.LeastTitles && draw(titles, Resampling.Seed) is { } drawn && drawn.High > drawn.Low
            ? new(drawn, hits, of, isRate, true) : new(plain, hits, of, isRate, false);

    public Standing Against(double least) => Interval.Low >= least ? Standing.Supported : Interval.High < least ? Standing.Contradicted : Standing.Open;

    /// <summary>So much more searched, with as many found in it as so far; the present share is not rounded.</summary>
    public Interval WithMore(double extra)
    {
        var all = of + extra;
        if (!ByTitles) return isRate ? Estimates.Garwood(hits * all / of, all) : Estimates.Wilson(hits * all / of, all);
        var narrower = Math.Sqrt(of / all);
        return new(Interval.Value, Interval.Value - (Interval.Value - Interval.Low) * narrower, Interval.Value + (Interval.High - Interval.Value) * narrower);
    }

    /// <summary>So much more searched, with nothing found in it.</summary>
    public Interval WithNone(double extra)
    {
        var all = of + extra;
        return ByTitles ? new(Interval.Value * of / all, Interval.Low * of / all, Interval.High * of / all) : isRate ? Estimates.Garwood(hits, all) : Estimates.Wilson(hits, all);
    }

    /// <summary>How much more would settle it at the present share; nothing where it is out of reach.</summary>
    public int? ToSettle(double least) => Least(extra => WithMore(extra) is var i && (i.Low >= least || i.High < least));

    /// <summary>How much more without it would take the support away.</summary>
    public int? ToBreak(double least) => Least(extra => WithNone(extra).Low < least);

    /// <summary>The least amount from 1 to <see cref="Reach"/> for which something holds that then goes on holding.</summary>
    internal static int? Least(Func<int, bool> holds)
    {
        if (!holds(Reach)) return null;
        var (low, high) = (1, Reach);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (holds(middle)) high = middle;
            else low = middle + 1;
        }
        return low;
    }
}
