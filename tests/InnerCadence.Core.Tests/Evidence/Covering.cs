using CsCheck;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>Searched spans laid over each other: no bar is lost and none counts twice.</summary>
public class Covering
{
    private static readonly Gen<CoveredRun[]> Spans =
        Gen.Select(Gen.Int[1, 60], Gen.Int[1, 30], Gen.Enum<Closeness>(), (from, bars, how) => new CoveredRun(from, bars, how)).Array[0,
            12];

    [Fact]
    public void Every_bar_is_there_once_as_closely_as_it_was_searched() => Spans.Sample(spans =>
    {
        var runs = Covered.Runs(spans);
        var bars = runs.SelectMany(r => Enumerable.Range(r.From, r.Bars).Select(bar => (bar, r.Closeness))).ToList();
        bars.Select(b => b.bar).ShouldBe(spans.SelectMany(s => Enumerable.Range(s.From, s.Bars)).Distinct().Order());
        foreach (var (bar, closeness) in bars) closeness.ShouldBe(spans.Where(s => bar >= s.From && bar <= s.Last).Max(s => s.Closeness));
    });

    [Fact]
    public void Neighbours_of_one_closeness_are_one_run_and_laying_them_again_changes_nothing() => Spans.Sample(spans =>
    {
        var runs = Covered.Runs(spans);
        runs.Zip(runs.Skip(1)).ShouldAllBe(pair => pair.First.Last + 1 < pair.Second.From || pair.First.Closeness != pair.Second.Closeness);
        Covered.Runs(runs).ShouldBe(runs);
    });

    [Fact]
    public void A_transcribed_stretch_lies_over_a_listened_one() =>
        Covered.Runs([new(1, 70, Closeness.Listened), new(33, 8, Closeness.Transcribed)])
            .ShouldBe([new(1, 32, Closeness.Listened), new(33, 8, Closeness.Transcribed), new(41, 30, Closeness.Listened)]);

    [Fact]
    public void What_counts_as_searched_is_the_bars_of_its_runs() => Spans.Sample(spans =>
    {
        var searches = spans.Select((s, i) => new Search(i, s.Closeness, s.From, s.Bars, [], new DateOnly(2026, 5, 1))).ToList();
        var exposure = Exposure.Of(null, new(1, new(2026, 4, 1), NoticedBefore.NotAsked, []), searches, []);
        exposure.Bars.Bars.ShouldBe(Covered.Runs(spans.Where(s => s.Closeness != Closeness.Skimmed))
            .SelectMany(r => Enumerable.Range(r.From, r.Bars)));
    });

    [Fact]
    public void A_set_of_bars_knows_its_bars_and_takes_others_in_and_out() => Gen.Select(Spans, Spans).Sample((one, two) =>
    {
        static BarSet Set(CoveredRun[] spans) => BarSet.Of(spans.Select(s => (s.From, s.Bars)));
        var (a, b) = (Set(one), Set(two));
        var (bars, others) = (a.Bars.ToHashSet(), b.Bars.ToHashSet());
        a.Count.ShouldBe(bars.Count);
        Enumerable.Range(0, 100).ShouldAllBe(bar => a.Contains(bar) == bars.Contains(bar));
        a.And(b).Bars.ShouldBe(bars.Union(others).Order());
        a.Without(b).Bars.ShouldBe(bars.Except(others).Order());
        a.UpTo(40).Bars.ShouldBe(bars.Where(x => x <= 40).Order());
    });
}
