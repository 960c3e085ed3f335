using MathNet.Numerics.Distributions;

namespace InnerCadence.Core.Evidence;

/// <summary>A ratio of rates by drawing titles with replacement (evidence.md, "Against others"): shown beside the interval by titles, which
/// does not rest on it.</summary>
public static class Resampling
{
    public const int Draws = 2000;

    /// <summary>The seed of every interval that is shown, so that it is the same tomorrow.</summary>
    public const int Seed = 20240229;

    /// <summary>From so many titles on each side it is shown beside.</summary>
    public const int LeastTitles = 8;

    /// <summary>How many times as often per bar one side has it, both sides drawn anew each time.</summary>
    /// <returns>Nothing where a side was not searched, or nothing was found on either; an infinite end where the others have none in a
    /// draw.</returns>
    public static Interval? Times(IReadOnlyList<TitleAmount> titles, IReadOnlyList<TitleAmount> others, int seed)
    {
        var (one, two) = (titles.Where(t => t.Amount > 0).ToArray(), others.Where(t => t.Amount > 0).ToArray());
        if (one.Length == 0 || two.Length == 0 || one.Sum(t => t.Events) + two.Sum(t => t.Events) == 0) return null;
        var random = new Random(seed);
        double Drawn(TitleAmount[] from)
        {
            var (events, bars) = (0.0, 0.0);
            for (var k = 0; k < from.Length; k++)
            {
                var title = from[random.Next(from.Length)];
                events += title.Events;
                bars += title.Amount;
            }
            return events / bars;
        }
        var draws = new List<double>(Draws);
        for (var i = 0; i < Draws; i++)
            if (Drawn(one) / Drawn(two) is var ratio && !double.IsNaN(ratio)) draws.Add(ratio);
        draws.Sort();
        var tail = Tail(Math.Min(one.Length, two.Length));
        return new(
            one.Sum(t => t.Events) / one.Sum(t => t.Amount) / (two.Sum(t => t.Events) / two.Sum(t => t.Amount)),
            draws[(int)(tail * draws.Count)], draws[draws.Count - 1 - (int)(tail * draws.Count)]);
    }

    /// <summary>
    /// Share of the draws left out at either end. Plain percentiles are too narrow for few titles; Hesterberg, "What teachers should know
    /// about the bootstrap"
    /// (2015), expands them to the normal tail of Student's t times the root of n / (n - 1).
    /// </summary>
    private static double Tail(int titles) =>
        titles < 2 ? 0 : Normal.CDF(0, 1, -Math.Sqrt(titles / (titles - 1.0)) * StudentT.InvCDF(0, 1, titles - 1, 0.975));
}
