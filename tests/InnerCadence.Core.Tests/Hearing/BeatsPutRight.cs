using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>Beats that were heard wrongly are put right by saying in what.</summary>
public class BeatsPutRight
{
    /// <summary>Twelve beats of half a second from 1.0 s, a bar line at the second and every fourth after it.</summary>
    private static readonly HeardBeat[] Heard = [.. Enumerable.Range(0, 12).Select(i => new HeardBeat(new(1 + i * 0.5), i % 4 == 1))];

    private static double[] Lines(BeatCorrection correction) => [.. correction.Of(Heard).Where(b => b.Bar).Select(b => b.At.Value)];

    [Fact]
    public void Nothing_said_nothing_is_changed() => new BeatCorrection().Of(Heard).ShouldBe(Heard);

    [Fact]
    public void Later_bars_of_other_lengths_and_a_one_of_ones_own()
    {
        Lines(new(Later: 1)).ShouldBe([2, 4, 6]);
        Lines(new(Later: 3)).ShouldBe([3, 5]);
        Lines(new(Beats: 3)).ShouldBe([1.5, 3, 4.5, 6]);
        Lines(new(Beats: 7, One: new(2.1))).ShouldBe([2, 5.5]);
        Lines(new(Beats: 3, Later: 2)).ShouldBe([1, 2.5, 4, 5.5], "two later is one earlier: the first whole bar counts");
        Lines(new(One: new(2.6))).ShouldBe([2.5, 3.5, 5.5], "what was heard before it is none");
    }

    [Fact]
    public void Twice_and_half_as_fast_keep_as_many_beats_a_bar()
    {
        var twice = new BeatCorrection(Pace: 2).Of(Heard);
        twice.Count.ShouldBe(23);
        twice[1].At.Value.ShouldBe(1.25);
        Lines(new(Pace: 2)).ShouldBe([1.5, 2.5, 3.5, 4.5, 5.5, 6.5]);
        Lines(new(Pace: -2)).ShouldBe([1.5, 5.5]);
        Lines(new(Pace: 2, Beats: 8)).ShouldBe([1.5, 3.5, 5.5]);
    }

    [Fact]
    public void Where_no_bar_was_heard_somebody_says_how_long_it_is()
    {
        HeardBeat[] none = [.. Heard.Select(b => b with { Bar = false })];
        new BeatCorrection(Later: 1).Of(none).ShouldBe(none);
        new BeatCorrection(Beats: 4).Of(none).Count(b => b.Bar).ShouldBe(3);
        new BeatCorrection(Beats: 4).Of([]).ShouldBeEmpty();
    }
}
