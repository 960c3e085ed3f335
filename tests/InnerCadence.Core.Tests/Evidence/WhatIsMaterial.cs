using InnerCadence.Core.Discovery;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>Which written bars and fills are material, what was searched at all, and what silence and one-sidedness are worth.</summary>
public class WhatIsMaterial
{
    private static RecordingFacts Recording(long id, int? total, params (int? From, int Bars, bool ForEverything)[] listened) => new()
    {
        Id = id,
        Name = $"Piece {id}",
        Title = $"Title {id}",
        Player = 1,
        TotalBars = total,
        Searches = [.. listened.Select((s, i) => new Search(i, Closeness.Listened, s.From, s.Bars, s.ForEverything ? [] : [7L],
            new(2026, 6, 1)))],
    };

    [Fact]
    public void What_was_written_because_something_was_heard_is_material_only_where_all_was_listened_to()
    {
        RecordingFacts[] recordings = [Recording(1, 40, (10, 3, true), (20, 8, false))];
        WrittenMaterial Of(int? bar, bool becauseHeard) => WrittenMaterial.Of(recordings, [new(1, bar, 4, becauseHeard)])[0];
        void Is(WrittenMaterial material, int[] bars, bool whole) => (string.Join(' ', material.Bars), material.Whole)
            .ShouldBe((string.Join(' ', bars), whole));
        Is(Of(30, false), [0, 1, 2, 3], true);
        Is(Of(30, true), [], false);
        Is(Of(10, true), [0, 1, 2], false);
        Is(Of(20, true), [], false);
        Is(Of(null, true), [], false);
        Is(Of(null, false), [0, 1, 2, 3], true);
        Is(WrittenMaterial.Of([Recording(1, 40, (null, 40, true))], [new(1, null, 4, true)])[0], [0, 1, 2, 3], true);
    }

    [Fact]
    public void A_bar_of_a_recording_is_material_once_and_what_was_written_for_its_own_sake_goes_first()
    {
        var counted = WrittenMaterial.Of([Recording(1, 40, (1, 40, true)), Recording(2, 40)],
            [new(1, 5, 4, true), new(1, 7, 4, false), new(2, 5, 2, false)]);
        counted.Select(c => string.Join(' ', c.Bars)).ShouldBe(["0 1", "0 1 2 3", "0 1"]);
        counted.ShouldAllBe(c => c.Whole);
    }

    [Fact]
    public void What_was_searched_at_all_counts_each_bar_once_whatever_it_was_for()
    {
        var searched = SearchedAtAll.Of([Recording(1, 40, (1, 10, true), (6, 15, false)), Recording(2, 40, (1, 19, true)),
            Recording(3, null, (1, 8, true)), Recording(4, 40, (null, 30, true))]);
        searched.ShouldBe(new(4, 1, 47, 120));
        searched.IsFew.ShouldBeTrue();
    }

    [Fact]
    public void The_silence_before_a_first_sighting_is_weighed_against_all_the_rest()
    {
        Performance Played(long id, string recorded, int bars, int events) => new()
        {
            Recording = Recording(id, bars) with { Recorded = PartialDate.Parse(recorded) },
            Exposure = new(BarSet.Of(1, bars), BarSet.Empty, 0),
            Appearances = [.. Enumerable.Range(1, events).Select(n => new Appearance(n, null, "", n, "", null, null, true, true))],
        };
        Performance[] own = [Played(1, "1961", 200, 0), Played(2, "1963", 100, 8), Played(3, "1965", 100, 6)];
        var silence = Silence.Before(FirstOnRecord.Of(own), own)!;
        (silence.Bars, silence.Per100).ShouldBe((200, Answer.Of(own[1..]).Rate!.Interval.Low));
        Silence.Before(FirstOnRecord.Of(own[..1]), own[..1]).ShouldBeNull("nothing is found");
        Silence.Of([own[0]], Answer.Of(own[1..]))!.Bars.ShouldBe(200);
        Silence.Of([own[1]], Answer.Of(own[1..])).ShouldBeNull("that player has it");
    }

    [Fact]
    public void Of_its_fills_goes_by_titles_and_counts_only_what_is_in_the_rate()
    {
        Appearance At(long reading, bool counts) => new(reading, null, "", 1, "", null, null, counts, true) { Reading = reading };
        var performance = new Performance { Recording = Recording(1, 40), Appearances = [At(1, true), At(2, false)] };
        var fills = OfItsFills.Among([("A", 1), ("A", 2), ("B", 3)], [performance])!;
        (fills.With, fills.Of, fills.Share.Titles).ShouldBe((1, 3, 2));
        OfItsFills.Among([], [performance]).ShouldBeNull();
    }

    [Fact]
    public void A_cell_on_one_side_only_is_hers_where_chance_hardly_puts_it_there_corrected_for_all_that_was_found()
    {
        HersNeverTheirs.Corrected([(6, 0)], 10, 10)[0]!.Value.ShouldBeLessThan(0.05);
        // Twenty such finds, of which chance explains the rest well enough: the same cell says less.
        HersNeverTheirs.Corrected([(6, 0), .. Enumerable.Repeat((2, 2), 19)], 10, 10)[0]!.Value.ShouldBeGreaterThan(0.05);
        HersNeverTheirs.Corrected([(6, 0)], 10, 0).ShouldBe([null]);
        HersNeverTheirs.Corrected([], 10, 10).ShouldBeEmpty();
    }
}
