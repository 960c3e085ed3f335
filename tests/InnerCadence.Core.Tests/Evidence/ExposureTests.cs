using InnerCadence.Core.Evidence;
using static InnerCadence.Core.Tests.Claims.Made;

namespace InnerCadence.Core.Tests.Evidence;

public class ExposureTests
{
    private static readonly NamedIdea Latch = new(7, new(2026, 5, 1), NoticedBefore.NotAsked, []);

    private static Search Heard(int bars, int? from = null, Closeness how = Closeness.Listened, bool everything = true,
        bool forThis = false, int month = 6, long id = 1) =>
        new(id, how, from, bars, everything ? [] : forThis ? [7] : [8], new(2026, month, 1));

    private static Exposure Of(int? total, IReadOnlyCollection<Search> searches, params WrittenBars[] written) =>
        Exposure.Of(total, Latch, searches, written);
    private static int Bars(int? total, IReadOnlyCollection<Search> searches, params WrittenBars[] written) =>
        Of(total, searches, written).Bars.Count;

    [Fact]
    public void Bars_whose_place_is_known_count_once() =>
        Bars(100, [Heard(32, from: 1), Heard(32, from: 17)], new WrittenBars(40, 4, false), new WrittenBars(60, 2, false)).ShouldBe(50);

    [Fact]
    public void An_amount_counts_only_where_it_has_a_place_and_all_of_a_recording_has_one()
    {
        Of(100, [Heard(100)]).ShouldSatisfyAllConditions(e => e.Bars.ToString().ShouldBe("1–100"), e => e.NotPlaced.ShouldBe(0));
        Of(100, [Heard(40)], new WrittenBars(5, 8, false))
            .ShouldSatisfyAllConditions(e => e.Bars.ToString().ShouldBe("5–12"), e => e.NotPlaced.ShouldBe(32));
        Of(null, [Heard(40)]).ShouldSatisfyAllConditions(e => e.Bars.Count.ShouldBe(0), e => e.NotPlaced.ShouldBe(40));
    }

    [Fact]
    public void Passages_without_a_bar_number_have_no_place() =>
        Bars(null, [], new WrittenBars(null, 2, false), new WrittenBars(9, 3, false)).ShouldBe(3);

    [Fact]
    public void A_recording_has_no_more_bars_than_it_has()
    {
        Bars(10, [Heard(40)]).ShouldBe(10);
        Bars(10, [Heard(40, from: 5)]).ShouldBe(6);
    }

    [Fact]
    public void Skimming_counts_for_nothing() => Bars(100, [Heard(100, how: Closeness.Skimmed)]).ShouldBe(0);

    [Fact]
    public void What_was_heard_before_the_idea_had_a_name_was_not_searched_for_it()
    {
        Bars(100, [Heard(100, month: 3)]).ShouldBe(0);
        Bars(100, [Heard(100, month: 3, how: Closeness.Transcribed)]).ShouldBe(100);
        Bars(100, [Heard(100, month: 3, everything: false, forThis: true)]).ShouldBe(100);
        Bars(100, [Heard(100, month: 6, everything: false)]).ShouldBe(0);
        Exposure.Of(100, Latch, [new(1, Closeness.Listened, 1, 80, [], Latch.NamedOn)], []).Bars.Count.ShouldBe(80);
    }

    [Fact]
    public void A_listener_may_state_that_it_would_have_been_noticed_before_it_had_a_name()
    {
        Search[] early = [Heard(20, from: 1, month: 3, id: 1), Heard(20, from: 41, month: 3, id: 2), Heard(10, from: 91, id: 3)];
        Exposure Said(NoticedBefore noticed, params long[] where) =>
            Exposure.Of(100, Latch with { Noticed = noticed, NoticedIn = where }, early, []);
        Said(NoticedBefore.Everywhere).Bars.ToString().ShouldBe("1–20, 41–60, 91–100");
        Said(NoticedBefore.Somewhere, 2).Bars.ToString().ShouldBe("41–60, 91–100");
        Said(NoticedBefore.No).ShouldSatisfyAllConditions(e => e.Bars.ToString().ShouldBe("91–100"), e => e.Unasked.Count.ShouldBe(0));
        // Until it is answered only those bars are in no amount; all others keep their rate.
        Said(NoticedBefore.Asked).ShouldSatisfyAllConditions(e => e.Bars.ToString().ShouldBe("91–100"), e =>
            e.Unasked.ToString().ShouldBe("1–20, 41–60"));
    }

    [Fact]
    public void A_passage_written_because_the_idea_was_heard_adds_nothing() => Bars(100, [], new WrittenBars(5, 8, true)).ShouldBe(0);
}

public class AnswerTests
{
    [Fact]
    public void Presence_counts_recordings_searched_far_enough_and_the_rate_counts_every_bar()
    {
        var answer = Answer.Of([Recording(1, 2), Recording(2, 0, bars: 32), Recording(3, 1, bars: 20), Recording(4, 1, bars: 4)]);
        (answer.Found, answer.Searched, answer.Events, answer.Bars).ShouldBe((1, 2, 4, 120));
        answer.Rate!.Value.ShouldBe(100 * 4 / 120.0, 1e-12);
        (answer.FewRecordings, answer.FewBars).ShouldBe((true, false));
        Answer.Of([Recording(1, 1, bars: 14)], 0.2).Searched.ShouldBe(1, "the share that makes a recording searched is a setting");
    }

    [Fact]
    public void What_was_found_outside_what_was_searched_is_in_no_number()
    {
        // In bars 1, 5, 9, of which the first four are searched.
        var answer = Answer.Of([Recording(1, 3, bars: 4)]);
        (answer.Events, answer.Outside, answer.Confirmed).ShouldBe((1, 2, 3));
        Answer.Of([]).Rate.ShouldBeNull();
        Answer.Of([Recording(1, 2, bars: 0)]).ShouldSatisfyAllConditions(a => a.Rate.ShouldBeNull(), a => a.Outside.ShouldBe(2));
    }

    [Fact]
    public void One_title_of_two_players_is_two()
    {
        var titles = Performance.ByTitle([Recording(1, 1, title: "One"), Recording(2, 1, title: "One"),
            Recording(3, 1, title: "One", player: Oda)]);
        titles.Select(t => (t.Events, t.Bars)).ShouldBe([(2, 128), (1, 64)]);
    }
}
