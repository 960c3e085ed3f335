using InnerCadence.Core.Evidence;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Looking;

/// <summary>How often, from a list that misses some: the truth is in the interval about as often as it says.</summary>
public class RatesOfALookedList
{
    [Fact]
    public void The_rate_is_raised_by_what_is_missed_and_few_known_places_give_none()
    {
        // 14 of 17 known, 28 confirmed in 2,400 bars: 28 / (2400 x 14/17) in 100 bars.
        var through = new LookedThrough(2400, 17, 14, 28);
        through.Recall!.Value.Value.ShouldBe(14.0 / 17);
        through.Rate!.Value.Value.ShouldBe(100 * 28 / (2400 * 14.0 / 17), 1e-9);
        through.Rate!.Value.Low.ShouldBeLessThan(100 * 28 / 2400.0);
        new LookedThrough(2400, 7, 6, 28).Rate.ShouldBeNull();
        new LookedThrough(2400, 8, 0, 28).Rate.ShouldBeNull();
        new LookedThrough(2400, 0, 0, 0).Recall.ShouldBeNull();
    }

    [Fact]
    public void Where_known_and_random_places_tell_different_things_there_is_no_rate()
    {
        // 19 of 20 known ones stand above, but of 12 random ones below half were it: of 200 below some hundred.
        var apart = new LookedThrough(2400, 20, 19, 30, 200, 12, 6);
        apart.RecallBySample!.Value.Value.ShouldBe(30 / 130.0, 1e-9);
        apart.PartWays.ShouldBeTrue();
        apart.Rate.ShouldBeNull();
        var agreed = new LookedThrough(2400, 20, 16, 30, 200, 20, 1);
        agreed.PartWays.ShouldBeFalse();
        agreed.Rate.ShouldNotBeNull();
        new LookedThrough(2400, 20, 16, 30, 200, 3, 3).RecallBySample.ShouldBeNull("three say nothing");
    }

    [Theory]
    [InlineData(0.85, 20), InlineData(0.6, 25)]
    public void The_interval_holds_the_truth_in_most_simulated_studies(double recall, int known)
    {
        var random = new Random(4);
        var (held, told) = (0, 0);
        const double perBar = 0.015;
        for (var study = 0; study < 2000; study++)
        {
            var there = Enumerable.Range(0, 4000).Count(_ => random.NextDouble() < perBar);
            var confirmed = Enumerable.Range(0, there).Count(_ => random.NextDouble() < recall);
            var recalled = Enumerable.Range(0, known).Count(_ => random.NextDouble() < recall);
            if (new LookedThrough(4000, known, recalled, confirmed).Rate is not { } rate) continue;
            (held, told) = (held + (rate.Low <= 100 * perBar && 100 * perBar <= rate.High ? 1 : 0), told + 1);
        }
        (held / (double)told).ShouldBeInRange(0.93, 0.98);
    }

    [Fact]
    public void Old_tapes_on_which_much_is_missed_do_not_make_an_idea_look_rarer()
    {
        // The same idea in 100 bars, heard in 9 of 10 on one kind of recording and in half on the other.
        var (good, old) = (new LookedThrough(2000, 30, 27, 36), new LookedThrough(2000, 30, 15, 20));
        good.Rate!.Value.Value.ShouldBe(2, 1e-9);
        old.Rate!.Value.Value.ShouldBe(2, 1e-9);
        (old.Rate!.Value.High - old.Rate.Value.Low).ShouldBeGreaterThan(good.Rate.Value.High - good.Rate.Value.Low);
    }

    [Fact]
    public void Recordings_are_grouped_by_how_they_sound_and_never_pooled()
    {
        SoundingRecording[] all = [new(1, RecordingKind.Studio, 1964, null), new(2, RecordingKind.Studio, 1972, null),
            new(3, RecordingKind.Live, 1972, null), new(4, RecordingKind.Studio, 1964, 0.93), new(5, RecordingKind.Live, null, 0.4),
            new(6, RecordingKind.Studio, null, null)];
        SoundGroup.Of(all).ToDictionary(g => g.Key, g => g.Value.Words(2)).ShouldBe(new Dictionary<long, string>
        {
            [1] = "2 studio recordings before 1972",
            [2] = "2 studio recordings since 1972",
            [3] = "2 live recordings since 1972",
            [4] = "2 recordings the ear hears well",
            [5] = "2 recordings the ear hears badly",
            [6] = "2 studio recordings of no date",
        });
        SoundGroup.AgreementOf([Beside(20, 30)]).ShouldBe(2 / 3.0);
        SoundGroup.AgreementOf([Beside(4, 10), Beside(10, 13)]).ShouldBeNull("23 strokes are too few");

        static Core.Hearing.EarAgreement Beside(int found, int written) => new([new(Voice.Snare, found, written)], (0, 0), 0, []);
    }
}
