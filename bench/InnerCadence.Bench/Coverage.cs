using InnerCadence.Core.Evidence;
using MathNet.Numerics.Distributions;

namespace InnerCadence.Bench;

/// <summary>Simulated studies whose true rates are known: in how many of them does the 95 % interval hold the truth?</summary>
public static class Coverage
{
    private const int Studies = 2000, Titles = 24;

    /// <summary>Uneven searching of every recording; takes of one title share its own rate, drawn around the player's.</summary>
    public static void Run()
    {
        foreach (var spread in new[] { 0.0, 0.5 })
        {
            var random = new Random(11);
            var (poisson, titles) = (0, 0);
            for (var study = 0; study < Studies; study++)
            {
                var rate = 0.02 + 0.06 * random.NextDouble();
                var counts = new List<TitleCount>();
                for (var title = 0; title < Titles; title++)
                {
                    // A gamma of mean 1: spread 0 is every title alike.
                    var own = rate * (spread == 0 ? 1 : Gamma.Sample(random, 1 / (spread * spread), 1 / (spread * spread)));
                    var (events, bars) = (0, 0);
                    for (var take = random.Next(1, 4); take > 0; take--)
                    {
                        var searched = random.Next(10, 160);
                        bars += searched;
                        events += Poisson.Sample(random, own * searched);
                    }
                    counts.Add(new(events, bars, events > 0 ? 1 : 0, 1));
                }
                if (Holds(Estimates.Rate(counts.Sum(c => c.Events), counts.Sum(c => c.Bars)), rate)) poisson++;
                if (Holds(Resampling.Rate(counts, study), rate)) titles++;
            }
            Console.WriteLine($"titles differ by {spread:0.0}: bar by bar {100.0 * poisson / Studies:0.0} %, by titles {100.0 * titles / Studies:0.0} % of {Studies} intervals hold the true rate");
        }
    }

    private static bool Holds(Interval? interval, double rate) => interval is { } x && x.Low <= 100 * rate && 100 * rate <= x.High;
}
