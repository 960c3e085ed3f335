using MathNet.Numerics.Distributions;

namespace InnerCadence.Core.Evidence;

/// <summary>Events and searched bars of one title: its takes and repeats hang together, so they are drawn together.</summary>
public readonly record struct TitleCount(int Events, double Bars, int Found, int Searched);

/// <summary>Intervals by drawing titles with replacement (evidence.md, "Formulas"): takes of one title are not independent.</summary>
public static class Resampling
{
    public const int Draws = 2000;

    /// <summary>From so many titles on this interval is the main one.</summary>
    public const int LeastTitles = 8;

    /// <summary>Events per 100 bars, 95 % between the percentiles of the draws.</summary>
    /// <returns>Nothing where no bar was searched.</returns>
    public static Interval? Rate(IReadOnlyList<TitleCount> titles, int seed) => Of(titles, seed, t => (t.Sum(x => x.Events), t.Sum(x => x.Bars)), 100);

    /// <summary>Share of the searched recordings that have it.</summary>
    public static Interval? Presence(IReadOnlyList<TitleCount> titles, int seed) => Of(titles, seed, t => (t.Sum(x => x.Found), t.Sum(x => x.Searched)), 1);

    /// <summary>
    /// Share of the draws left out at either end. Plain percentiles are too narrow for few titles; Hesterberg, "What teachers should know about the bootstrap"
    /// (2015), expands them to the normal tail of Student's t times the root of n / (n - 1).
    /// </summary>
    private static double Tail(int titles) =>
        titles < 2 ? 0 : Normal.CDF(0, 1, -Math.Sqrt(titles / (titles - 1.0)) * StudentT.InvCDF(0, 1, titles - 1, 0.975));

    private static Interval? Of(IReadOnlyList<TitleCount> titles, int seed, Func<IReadOnlyList<TitleCount>, (double Events, double Of)> sum, double per)
    {
        var searched = titles.Where(t => sum([t]).Of > 0).ToList();
        if (searched.Count == 0) return null;
        var (events, of) = sum(searched);
        var random = new Random(seed);
        var parts = searched.Select(t => sum([t])).ToArray();
        var draws = new double[Draws];
        for (var i = 0; i < Draws; i++)
        {
            var (drawn, bars) = (0.0, 0.0);
            for (var k = 0; k < parts.Length; k++)
            {
                var part = parts[random.Next(parts.Length)];
                drawn += part.Events;
                bars += part.Of;
            }
            draws[i] = per * drawn / bars;
        }
        Array.Sort(draws);
        var tail = Tail(parts.Length);
        return new(per * events / of, draws[(int)(tail * Draws)], draws[Draws - 1 - (int)(tail * Draws)]);
    }
}
