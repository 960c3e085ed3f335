using CsCheck;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Timing;

public class Quantising
{
    private static readonly Tick Beat = new(Tick.PerQuarter);

    private static IEnumerable<int> Ticks(params double[] beats) => Quantise.Place([.. beats.Select(b => b * 0.6)], Beat, new(0.6))
        .Select(p => p.At.Value);

    [Fact]
    public void Taps_a_little_early_and_late_land_on_their_places() =>
        Ticks(-0.01, 0.26, 0.49, 0.76, 1.02, 1.98).ShouldBe([0, 2520, 5040, 7560, 10080, 20160]);

    [Fact]
    public void A_triplet_is_a_triplet_and_not_sixteenths() =>
        Ticks(0, 0.33, 0.67, 1, 1.34, 1.66).ShouldBe([0, 3360, 6720, 10080, 13440, 16800]);

    [Fact]
    public void A_change_of_division_is_taken_where_the_taps_ask_for_it() =>
        Ticks(0, 0.5, 1, 1.333, 1.667, 2, 2.5).ShouldBe([0, 5040, 10080, 13440, 16800, 20160, 25200]);

    [Fact]
    public void A_tap_between_two_divisions_is_weak_and_a_clear_one_is_not()
    {
        var placed = Quantise.Place([0, 0.29 * 0.5], Beat, new(0.5));
        placed[0].Weak.ShouldBeFalse();
        placed[1].Weak.ShouldBeTrue();
    }

    [Fact]
    public void Two_taps_on_one_place_are_one_and_a_tap_long_before_the_first_beat_is_none() =>
        Quantise.Place([-0.5, 0, 0.004, 0.6], Beat, new(0.6)).Select(p => p.Onset).ShouldBe([1, 3]);

    [Fact]
    public void No_taps_give_no_strokes() => Quantise.Place([], Beat, new(0.5)).ShouldBeEmpty();

    [Fact]
    public void Exact_places_of_one_division_come_back_as_they_were() =>
        Gen.Select(Among.These(2, 3, 4), Gen.Double[0.3, 1.5], Gen.Int[1, 8].Array[1, 12]).Sample((division, seconds, places) =>
        {
            var steps = Enumerable.Range(0, 4 * division).Where(i => places.Contains(i % 8 + 1)).ToList();
            var found = Quantise.Place([.. steps.Select(s => s * seconds / division)], Beat, new(seconds));
            found.Select(p => p.At.Value).ShouldBe(steps.Select(s => s * Beat.Value / division));
        }, iter: 300);
}
