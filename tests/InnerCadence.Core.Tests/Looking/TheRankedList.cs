using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Looking;

/// <summary>What a ranked list says goes down to where it was judged, and no further.</summary>
public class TheRankedList
{
    private static ILookup<long, Seconds> Known(params (long Recording, double At)[] places) =>
        places.ToLookup(p => p.Recording, p => new Seconds(p.At));

    private static RankedList Of(int count, Func<int, SaidThere?> said, ILookup<long, Seconds> known, int randomFrom = int.MaxValue) =>
        new([.. Enumerable.Range(0, count).Select(i => new Ranked(i % 2, new(i), 1 - i / 1000.0, said(i), i >= randomFrom))], known);

    [Fact]
    public void What_waits_are_the_best_twenty_and_four_from_far_below()
    {
        var list = Of(200, i => i < 3 ? SaidThere.No : null, Known((1, 3.2)));
        var waiting = list.Waiting.ToList();
        waiting.Count.ShouldBe(24);
        waiting[0].Place.ShouldBe(4, "three are judged, and one was known");
        list.IsKnown(3).ShouldBeTrue();
        waiting.Count(w => w.FromBelow).ShouldBe(4);
        waiting.Where(w => w.FromBelow).ShouldAllBe(w => w.Place > 23);
    }

    [Fact]
    public void Forty_in_vain_are_enough_and_a_yes_begins_again()
    {
        Of(100, i => i < 39 ? SaidThere.No : null, Known()).IsWorthNoMore.ShouldBeFalse();
        Of(100, i => i < 40 ? SaidThere.Maybe : null, Known()).IsWorthNoMore.ShouldBeTrue();
        Of(100, i => i < 50 ? i == 20 ? SaidThere.Yes : SaidThere.No : null, Known()).Vain.ShouldBe(29);
    }

    [Fact]
    public void Known_places_above_what_was_judged_are_recalled_and_those_below_are_not()
    {
        // Known: one in the judged part, one further down, one that the list has not at all.
        var known = Known((0, 2.1), (0, 60), (0, 999), (1, 5));
        var list = Of(100, i => i < 10 ? i == 4 ? SaidThere.Yes : SaidThere.No : null, known);
        var through = list.Through([0], 300);
        (through.Known, through.Recalled, through.Confirmed).ShouldBe((3, 1, 2), "the yes at 4 and the known one at 2");
        list.Through([1], 300).ShouldBe(new LookedThrough(300, 1, 1, 1, 45));
        list.IsBegun.ShouldBeTrue();
    }

    [Fact]
    public void Random_ones_below_say_how_much_is_missed()
    {
        // Judged down to 20; every tenth further down was heard at random, and one of them is it.
        var through = Of(200, i => i < 20 ? i % 2 == 0 ? SaidThere.Yes : SaidThere.No : i % 10 != 0 ? null : i == 100 ? SaidThere.Yes
            : SaidThere.No, Known(), randomFrom: 25).Through([0, 1], 500);
        (through.Confirmed, through.Below, through.Sampled, through.SampledThere).ShouldBe((10, 179, 17, 1));
        through.Missed!.Value.Value.ShouldBe(179 / 17.0, 0.01);
    }

    [Fact]
    public void What_was_judged_out_of_turn_is_no_random_one()
    {
        // The first was passed over; the next nineteen are it, for their rank.
        var through = Of(100, i => i is > 0 and < 20 ? SaidThere.Yes : null, Known()).Through([0, 1], 500);
        (through.Confirmed, through.Below, through.Sampled).ShouldBe((0, 81, 0));
        through.Missed.ShouldBeNull();
    }

    [Fact]
    public void A_list_that_nobody_began_says_nothing_yet()
    {
        var list = Of(10, _ => null, Known((0, 4)));
        list.IsBegun.ShouldBeFalse();
        list.Through([0], 100).ShouldBe(new LookedThrough(100, 1, 0, 0, 4));
        new RankedList([], Known()).Waiting.ShouldBeEmpty();
    }
}
