using MathNet.Numerics.Distributions;

namespace InnerCadence.Core.Evidence;

/// <summary>Events and searched bars of one title: its takes and repeats hang together, so they are drawn together.</summary>
public readonly record struct TitleCount(int Events, double Bars, int Found, int Searched);

/// <summary>Intervals by drawing titles with replacement (evidence.md, "Formulas"): takes of one title are not independent.</summary>
public static class Resampling
{
    public const int Draws = 2000;

    /// <summary>The seed of every interval that is shown, so that it is the same tomorrow.</summary>
    public const int Seed = 20240229;

    /// <summary>From so many titles on this interval is the main one.</summary>
    public const int LeastTitles = 8;

    /// <summary>Events per 100 bars, 95 % between the percentiles of the draws.</summary>
    /// <returns>Nothing where no bar was searched.</returns>
    public static Interval? Rate(IReadOnlyList<TitleCount> titles, int seed) => Of(titles, seed, t => (t.Sum(x => x.Events), t.Sum(x => x.Bars)), 100);

    /// <summary>Share of the searched recordings that have it.</summary>
    public static Interval? Presence(IReadOnlyList<TitleCount> titles, int seed) => Of(titles, seed, t => (t.Sum(x => x.Found), t.Sum(x => x.Searched)), 1);

    /// <summary>How many times as often per bar one side has it, both sides drawn anew each time.</summary>
    /// <returns>Nothing where a side was not searched, or nothing was found on either; an infinite end where the others have none in a draw.</returns>
    public static Interval? Times(IReadOnlyList<TitleCount> titles, IReadOnlyList<TitleCount> others, int seed)
    {
        var (one, two) = (titles.Where(t => t.Bars > 0).ToArray(), others.Where(t => t.Bars > 0).ToArray());
        if (one.Length == 0 || two.Length == 0 || one.Sum(t => t.Events) + two.Sum(t => t.Events) == 0) return null;
        var random = new Random(seed);
        double Drawn(TitleCount[] from)
        {
            var (events, bars) = (0.0, 0.0);
            for (var k = 0; k < from.Length; k++)
            {
                var title = from[random.Next(from.Length)];
                events += title.Events;
                bars += title.Bars;
            }
            return events / bars;
        }
        var draws = new List<double>(Draws);
        for (var i = 0; i < Draws; i++)
            if (Drawn(one) / Drawn(two) is var ratio && !double.IsNaN(ratio)) draws.Add(ratio);
        draws.Sort();
        var tail = Tail(Math.Min(one.Length, two.Length));
        return new(
            one.Sum(t => t.Events) / one.Sum(t => t.Bars) / (two.Sum(t => t.Events) / two.Sum(t => t.Bars)),
            draws[(int)(tail * draws.Count)], draws[draws.Count - 1 - (int)(tail * draws.Count)]);
    }

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
