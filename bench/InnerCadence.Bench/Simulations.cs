using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;
using MathNet.Numerics.Distributions;

namespace InnerCadence.Bench;

/// <summary>
/// Simulated studies whose truth is known: how often the intervals hold it, how often a signature or a standing is wrong. Titles have rates
/// of their own, lognormal about the
/// player's with a spread s, and one to four takes.
/// </summary>
public static class Simulations
{
    private const int Studies = 2000;
    private static readonly double[] Spreads = [0.8, 1.3];

    /// <summary>A made-up title: its takes with the bars of each and the events in them.</summary>
    private sealed record Title(IReadOnlyList<(int Events, int Bars)> Takes)
    {
        public TitleAmount Rate => new(Takes.Sum(t => t.Events), Takes.Sum(t => t.Bars));
        public TitleAmount Presence => new(Takes.Count(t => t.Events > 0), Takes.Count);
    }

    /// <param name="rate">Per bar, the mean over titles.</param>
    private static List<Title> Player(Random random, int titles, double rate, double spread, Func<int> bars) =>
        [.. Enumerable.Range(0, titles).Select(_ =>
    {
        var own = rate * LogNormal.Sample(random, -spread * spread / 2, spread);
        return new Title([.. Enumerable.Range(0, random.Next(1, 5)).Select(_ => bars()).Select(b => (Poisson.Sample(random, own * b), b))]);
    })];

    /// <summary>The share of studies whose interval holds the truth, by titles and as if each bar stood by itself.</summary>
    public static void Coverage()
    {
        foreach (var spread in Spreads)
            foreach (var titles in (int[])[3, 5, 8, 12, 20, 40])
            {
                var random = new Random(11);
                var (byTitles, alone, ratios, shares, told) = (0, 0, 0, 0, 0);
                for (var study = 0; study < Studies; study++)
                {
                    var (one, two) = (Player(random, titles, 0.03, spread, () => random.Next(30, 160)),
                        Player(random, titles, 0.02, spread, () => random.Next(30, 160)));
                    var rate = Estimate.Rate(one.Select(t => t.Rate))!;
                    if (Holds(rate.Interval, 3)) byTitles++;
                    if (Holds(rate.Alone, 3)) alone++;
                    if (Holds(Estimate.Share(one.Select(t => t.Presence))!.Interval, TruePresence(spread))) shares++;
                    if (TimesAsOften.Of(one.Select(t => t.Rate), two.Select(t => t.Rate)) is not { } times) continue;
                    told++;
                    if (Holds(times.Interval, 1.5)) ratios++;
                }
                Console.WriteLine($"s {spread:0.0}, {titles,2} titles: rate {Percent(byTitles, Studies)} (each bar by itself "
                    + $"{Percent(alone, Studies)}), ratio {Percent(ratios, told)}, share {Percent(shares, Studies)}");
            }
    }

    /// <summary>Recordings of a title that have it at all: simulated once with many titles.</summary>
    private static double TruePresence(double spread)
    {
        if (Known.TryGetValue(spread, out var known)) return known;
        var random = new Random(5);
        var all = Player(random, 100_000, 0.03, spread, () => random.Next(30, 160)).Select(t => t.Presence).ToList();
        return Known[spread] = all.Sum(t => t.Events) / all.Sum(t => t.Amount);
    }

    private static readonly Dictionary<double, double> Known = [];

    /// <summary>Three ideas with equal rates, or one of them three times as often: in how many studies one is called a signature.</summary>
    public static void Signature()
    {
        foreach (var spread in Spreads)
            foreach (var (bars, others) in ((int, int)[])[(200, 60), (120, 120), (60, 200)])
                foreach (var times in (int[])[1, 3])
                {
                    var random = new Random(7);
                    var (called, ideas) = (0, 0);
                    for (var study = 0; study < Studies / 2; study++)
                    {
                        var rows = Enumerable.Range(0, 3).Select(_ =>
                            (One: Player(random, 20, 0.02 * times, spread, () => bars),
                            Two: Player(random, 20, 0.02, spread, () => others))).ToList();
                        var sides = SideBySide.Of([.. rows.Select((r, i) =>
                            ((long)i, AsPerformances(r.One, 1), AsPerformances(r.Two, 2)))]);
                        ideas += sides.Count;
                        called += sides.Count(s => s.IsSignature);
                    }
                    Console.WriteLine($"s {spread:0.0}, {bars}/{others} bars, {(times == 1 ? "equal rates" : "three times as often")}: "
                        + $"signature in {Percent(called, ideas)} of ideas");
                }
    }

    private static IReadOnlyList<Performance> AsPerformances(List<Title> titles, long player) =>
        [.. titles.SelectMany((title, t) => title.Takes.Select((take, k) => new Performance
    {
        Recording = new() { Id = t * 10 + k, Name = $"{t} {k}", Title = $"{t}", Player = player, TotalBars = take.Bars },
        Exposure = new(BarSet.Of(1, take.Bars), BarSet.Empty, 0),
        Appearances = [.. Enumerable.Range(0, take.Events)
            .Select(i => new Appearance(i, null, "", i % take.Bars + 1, "", null, null, true, true) { Start = i * 400.0,
            End = i * 400.0 })],
    }))];

    /// <summary>A claim that is just true or just false: how often it stands supported where it is false, or contradicted where it is
    /// true.</summary>
    public static void Claims()
    {
        foreach (var spread in Spreads)
            foreach (var titles in (int[])[4, 6, 8, 12, 20])
            {
                var random = new Random(3);
                var (supported, contradicted, more, fewer, present, absent) = (0, 0, 0, 0, 0, 0);
                for (var study = 0; study < Studies; study++)
                {
                    var (one, two) = (Player(random, titles, 0.03, spread, () => random.Next(30, 160)),
                        Player(random, titles, 0.03, spread, () => random.Next(30, 160)));
                    // At least the true rate less, or more, a hair: supported is wrong above it, contradicted below it.
                    var rate = Estimate.Rate(one.Select(t => t.Rate))!;
                    if (rate.Against(3.0001) == Standing.Supported) supported++;
                    if (rate.Against(2.9999) == Standing.Contradicted) contradicted++;
                    var share = Estimate.Share(one.Select(t => t.Presence))!;
                    if (share.Against(TruePresence(spread) + 1e-4) == Standing.Supported) present++;
                    if (share.Against(TruePresence(spread) - 1e-4) == Standing.Contradicted) absent++;
                    if (TimesAsOften.Of(one.Select(t => t.Rate), two.Select(t => t.Rate)) is not { } times) continue;
                    if (times.MoreThanOnce() == Standing.Supported) more++;
                    if (times.MoreThanOnce() == Standing.Contradicted) fewer++;
                }
                Console.WriteLine($"s {spread:0.0}, {titles,2} titles, wrong verdicts: rate {Percent(supported, Studies)} supported, "
                    + $"{Percent(contradicted, Studies)} contradicted; present {Percent(present, Studies)}, {Percent(absent, Studies)}; "
                    + $"more than {Percent(more, Studies)}, {Percent(fewer, Studies)}");
            }
    }

    private static bool Holds(Interval interval, double truth) => interval.Low <= truth && truth <= interval.High;
    private static string Percent(int n, int of) => $"{100.0 * n / of:0.0} %";
}
