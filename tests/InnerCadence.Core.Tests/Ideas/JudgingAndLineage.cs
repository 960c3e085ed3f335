using CsCheck;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;

namespace InnerCadence.Core.Tests.Ideas;

public class JudgingAndLineage
{
    private static ToJudge One(long id, string difference = "no difference", long recording = 1, Verdict verdict = Verdict.Exact,
        int cost = 0, bool judged = false) => new(id, verdict, cost, difference, recording, judged);

    [Fact]
    public void A_difference_not_seen_yet_comes_before_one_that_was_judged() =>
        JudgingOrder.Of([One(1, judged: true), One(2), One(3, "snare early", verdict: Verdict.Variant, cost: 2)]).ShouldBe([3, 2]);

    [Fact]
    public void Among_equal_differences_a_recording_without_judgements_comes_first_and_exact_ones_last()
    {
        JudgingOrder.Of([One(1, recording: 1, judged: true), One(2, recording: 1), One(3, recording: 2)]).ShouldBe([3, 2]);
        JudgingOrder.Of([One(1, "a"), One(2, "b", verdict: Verdict.NearMiss, cost: 4), One(3, "c", verdict: Verdict.Variant, cost: 1)])
            .ShouldBe([2, 3, 1]);
    }

    [Fact]
    public void Every_waiting_sighting_comes_once_and_judged_ones_never() =>
        Gen.Select(Gen.Int[0, 3], Gen.Int[0, 3], Gen.Bool).Array[0, 30].Sample(made =>
        {
            var all = made.Select((m, i) => One(i + 1, $"d{m.Item1}", m.Item2, judged: m.Item3)).ToList();
            JudgingOrder.Of(all).Order().ShouldBe(all.Where(s => !s.Judged).Select(s => s.Id));
            JudgingOrder.Of(all, 1).ShouldBe(JudgingOrder.Of(all).Take(1));
        });

    [Fact]
    public void A_circle_is_seen_however_long_it_is()
    {
        Descent[] links = [new(2, 1, "variant of"), new(3, 2, "built from"), new(4, 3, "variant of")];
        Lineage.WouldClose(links, 1, 4).ShouldBeTrue();
        Lineage.WouldClose(links, 4, 1).ShouldBeFalse();
        Lineage.WouldClose(links, 5, 5).ShouldBeTrue();
    }

    [Fact]
    public void A_family_reaches_both_ways_and_stands_in_columns_of_descent()
    {
        Descent[] links = [new(2, 1, "variant of"), new(3, 1, "variant of"), new(3, 2, "built from"), new(9, 8, "variant of")];
        Lineage.Family(links, 2).ShouldBe([(1, 0), (2, 1), (3, 2)]);
        Lineage.Family(links, 7).ShouldBe([(7, 0)]);
    }

    /// <summary>The table of Cohen's article in its shape: 20 both yes, 5 and 10 apart, 15 both no.</summary>
    [Fact]
    public void Kappa_takes_chance_off()
    {
        var pairs = Enumerable.Repeat((true, true), 20).Concat(Enumerable.Repeat((true, false), 5))
            .Concat(Enumerable.Repeat((false, true), 10)).Concat(Enumerable.Repeat((false, false), 15)).ToList();
        var agreement = Agreement.Of(pairs)!;
        (agreement.Pairs, agreement.Same).ShouldBe((50, 35));
        agreement.Kappa!.Value.ShouldBe(0.4, 1e-12);
        Agreement.Of(Enumerable.Repeat((true, true), 4).ToList())!.Kappa.ShouldBeNull("chance alone would always agree");
        Agreement.Of(new List<(int, int)>()).ShouldBeNull();
    }
}
