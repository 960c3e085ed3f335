using CsCheck;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Evidence;

public class ResamplingAndChance
{
    [Fact]
    public void The_same_seed_draws_the_same_interval_and_its_value_is_the_plain_rate()
    {
        TitleCount[] titles = [new(4, 100, 1, 1), new(0, 80, 0, 1), new(2, 60, 1, 1), new(1, 120, 1, 2)];
        var interval = Resampling.Rate(titles, 7)!.Value;
        interval.Value.ShouldBe(100 * 7 / 360.0, 1e-12);
        (interval.Low < interval.Value && interval.Value < interval.High).ShouldBeTrue();
        Resampling.Rate(titles, 7).ShouldBe(interval);
        Resampling.Presence(titles, 7)!.Value.Value.ShouldBe(3 / 5.0, 1e-12);
        Resampling.Rate([], 7).ShouldBeNull();
        Resampling.Rate([new(0, 0, 0, 0)], 7).ShouldBeNull("nothing was searched");
    }

    [Fact]
    public void Titles_that_hang_together_make_the_interval_wider()
    {
        var alone = Enumerable.Range(0, 40).Select(i => new TitleCount(i % 2, 10, 0, 0)).ToList();
        var together = Enumerable.Range(0, 8).Select(i => new TitleCount(i % 2 * 5, 50, 0, 0)).ToList();
        double Width(IReadOnlyList<TitleCount> titles) => Resampling.Rate(titles, 3)!.Value is var x ? x.High - x.Low : 0;
        Width(together).ShouldBeGreaterThan(Width(alone) * 1.5);
    }

    [Fact]
    public void Twice_the_recordings_at_the_same_share_narrow_the_interval() => Gen.Select(Gen.Int[1, 60], Gen.Int[0, 60]).Where((n, k) => k <= n).Sample((n, k) =>
    {
        var (once, twice) = (Estimates.Presence(k, n)!.Value, Estimates.Presence(2 * k, 2 * n)!.Value);
        (twice.High - twice.Low).ShouldBeLessThan(once.High - once.Low);
    });

    [Fact]
    public void A_shuffle_keeps_every_stroke_in_its_bar_and_in_its_place_of_the_beat()
    {
        var passage = CountLines.Parse("meter 4/4\nSN: 2 (2a) 4 | 1e 3\nBD: 1 3& | 4\n").Passage;
        var shuffled = Chance.Shuffled(passage, new Random(5));
        shuffled.Strokes.Length.ShouldBe(passage.Strokes.Length);
        int[] Places(Passage p) => [.. p.Strokes.Select(s => p.Meters.Locate(s.At).Bar * 100_000 + p.Meters.Locate(s.At).InBar.Value % 10080 + s.Voice.Order).Order()];
        Places(shuffled).ShouldBe(Places(passage));
    }

    [Fact]
    public void A_figure_over_two_beats_is_rarer_when_the_beats_are_shuffled_and_a_single_beat_is_not()
    {
        var passages = Enumerable.Range(0, 30).Select(_ => CountLines.Parse("SN: 1 e & a 2\nFT: 3\nBD: 4\n").Passage).ToList();
        Idea One(string text) => new(CountLines.Parse(text).Passage, null, null, Rules.Default);
        var long_ = Chance.Of(One("SN: 1 e & a 2"), passages, 1, _ => true)!;
        long_.Observed.ShouldBe(30);
        long_.Expected.ShouldBeLessThan(15);
        long_.P.ShouldBeLessThan(0.01);
        var beat = Chance.Of(One("SN: 1 e & a"), passages, 1, _ => true)!;
        (beat.Observed, beat.P).ShouldBe((30, 1.0));
        Chance.Of(One("SN: 1 e & a"), passages, 1, done => done < 3).ShouldBeNull("it was told to stop");
    }
}
