using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Evidence;

public class ExposureTests
{
    private static readonly DateOnly Named = new(2026, 5, 1);

    private static Search Heard(int bars, int? from = null, Closeness how = Closeness.Listened, bool everything = true, bool forThis = false, int month = 6) =>
        new(how, from, bars, everything, forThis, new(2026, month, 1));

    private static int Bars(int? total, IEnumerable<Search> searches, params WrittenBars[] written) => Exposure.Bars(total, Named, searches, written);

    [Fact]
    public void Bars_whose_place_is_known_count_once() =>
        Bars(100, [Heard(32, from: 1), Heard(32, from: 17)], new WrittenBars(40, 4, false), new WrittenBars(60, 2, false)).ShouldBe(50);

    [Fact]
    public void An_amount_holds_what_was_written_down()
    {
        Bars(100, [Heard(40)], new WrittenBars(5, 8, false)).ShouldBe(40);
        Bars(100, [Heard(4)], new WrittenBars(5, 8, false)).ShouldBe(8);
    }

    [Fact]
    public void Passages_without_a_bar_number_add_up() => Bars(null, [], new WrittenBars(null, 2, false), new WrittenBars(null, 3, false)).ShouldBe(5);

    [Fact]
    public void A_recording_has_no_more_bars_than_it_has() => Bars(10, [Heard(40)]).ShouldBe(10);

    [Fact]
    public void Skimming_counts_for_nothing() => Bars(100, [Heard(100, how: Closeness.Skimmed)]).ShouldBe(0);

    [Fact]
    public void What_was_heard_before_the_idea_had_a_name_was_not_searched_for_it()
    {
        Bars(100, [Heard(100, month: 3)]).ShouldBe(0);
        Bars(100, [Heard(100, month: 3, how: Closeness.Transcribed)]).ShouldBe(100);
        Bars(100, [Heard(100, month: 3, everything: false, forThis: true)]).ShouldBe(100);
        Bars(100, [Heard(100, month: 6, everything: false)]).ShouldBe(0);
        Exposure.Bars(100, Named, [new(Closeness.Listened, null, 80, true, false, Named)], []).ShouldBe(80);
    }

    [Fact]
    public void A_passage_written_because_the_idea_was_heard_adds_nothing() => Bars(100, [], new WrittenBars(5, 8, true)).ShouldBe(0);
}

public class AnswerTests
{
    private static RecordingEvidence Of(int? total, int exposure, int confirmed, int outside = 0) => new(total, exposure, confirmed, confirmed, 0, 0, outside);

    [Fact]
    public void Presence_counts_recordings_searched_far_enough_and_the_rate_counts_every_bar()
    {
        var answer = Answer.Of([Of(100, 100, 2), Of(100, 50, 0), Of(100, 20, 1), Of(null, 30, 1)]);
        (answer.Found, answer.Searched, answer.Events, answer.Bars).ShouldBe((1, 2, 4, 200));
        answer.Rate!.Value.Value.ShouldBe(2.0);
        answer.FewRecordings.ShouldBeTrue();
        answer.FewBars.ShouldBeFalse();
    }

    [Fact]
    public void The_share_that_makes_a_recording_searched_is_a_setting() =>
        Answer.Of([Of(100, 20, 1)], 0.2).Searched.ShouldBe(1);

    [Fact]
    public void What_was_found_outside_what_was_searched_is_in_no_number()
    {
        var answer = Answer.Of([Of(100, 60, 2, outside: 2)]);
        (answer.Found, answer.Events).ShouldBe((0, 0));
        Answer.Of([]).Rate.ShouldBeNull();
    }

    [Fact]
    public void Sightings_within_a_bar_of_one_another_are_one_occasion()
    {
        (Tick, Tick) At(int start, int length) => (new(start), new(start + length));
        var bar = new Tick(40320);
        Occasions.Count([At(0, 10080), At(40320, 10080), At(80640, 10080)], bar).ShouldBe(1);
        Occasions.Count([At(0, 10080), At(10080 + 40321, 10080)], bar).ShouldBe(2);
        Occasions.Count([At(0, 10080), At(10080 + 40320, 10080)], bar).ShouldBe(1);
        Occasions.Count([], bar).ShouldBe(0);
    }
}
