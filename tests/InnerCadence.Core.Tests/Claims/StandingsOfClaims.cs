using CsCheck;
using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using static InnerCadence.Core.Tests.Claims.Made;

namespace InnerCadence.Core.Tests.Claims;

/// <summary>evidence.md, "Claims": each of the fixed tests where it stands, where it falls, and where nothing can be said.</summary>
public class StandingsOfClaims
{
    private static Performance[] Many(int with, int without, string kind = "studio") =>
        [.. Enumerable.Range(1, with).Select(i => Recording(i, 2, kind: kind)), .. Enumerable.Range(with + 1, without)
            .Select(i => Recording(i, 0, kind: kind))];

    [Theory]
    [InlineData(6, 13, 0.10, Standing.Supported)]
    [InlineData(6, 13, 0.30, Standing.Open)]
    [InlineData(6, 13, 0.55, Standing.Open)] // 95 % lies below, 99 % does not.
    [InlineData(6, 13, 0.65, Standing.Contradicted)]
    public void Present_in_a_share_of_recordings_stands_by_its_interval(int with, int without, double least, Standing standing) =>
        Of(new PresentIn(Nell, Idea, least, null), Many(with, without)).Standing.ShouldBe(standing);

    [Fact]
    public void A_kind_of_recording_is_counted_by_itself()
    {
        var stand = Of(new PresentIn(Nell, Idea, 0.5, RecordingKind.Live),
            [.. Many(0, 10), .. Enumerable.Range(50, 9).Select(i => Recording(i, 1, kind: "live"))]);
        stand.Standing.ShouldBe(Standing.Supported);
        stand.Figures.ShouldBe("9 of 9 searched recordings");
    }

    [Fact]
    public void With_fewer_than_four_titles_nothing_leaves_open_and_the_reason_says_so()
    {
        Performance[] takes = [.. Enumerable.Range(1, 12).Select(i => Recording(i, 5, title: $"Title {i % 3}"))];
        foreach (var test in (ClaimTest[])[new PresentIn(Nell, Idea, 0.1, null), new RateAtLeast(Nell, Idea, 1),
            new RateAtLeast(Nell, Idea, 60)])
            Of(test, takes).ShouldSatisfyAllConditions(s => s.Standing.ShouldBe(Standing.Open), s =>
                s.Reason.ShouldContain("Only 3 titles are searched"), s => s.Settles!.ShouldContain("in at least 1 more titles"));
        Of(new RateAtLeast(Nell, Idea, 1), [.. takes, Recording(13, 5, title: "Title 4")]).Standing.ShouldBe(Standing.Supported);
        Of(new MoreThan(Nell, Idea, Oda), [.. takes, .. Enumerable.Range(21, 8)
            .Select(i => Recording(i, 0, player: Oda))]).Standing.ShouldBe(Standing.Open);
    }

    [Fact]
    public void Takes_of_a_title_that_carries_it_make_the_interval_wider()
    {
        Stand Rate(Func<int, string> title) => Of(new RateAtLeast(Nell, Idea, 2),
            [.. Enumerable.Range(1, 12).Select(i => Recording(i, i <= 3 ? 16 : 0, title: title(i)))]);
        Rate(i => $"{i}").Standing.ShouldBe(Standing.Open);
        var together = Rate(i => $"{(i + 2) / 3}");
        var apart = Of(new RateAtLeast(Nell, Idea, 2), [.. Enumerable.Range(1, 12).Select(i => Recording(i, 4))]);
        (together.Interval!.Value.Value, apart.Interval!.Value.Value).ShouldBe((6.25, 6.25));
        (together.Interval!.Value.High - together.Interval.Value.Low)
            .ShouldBeGreaterThan(2 * (apart.Interval!.Value.High - apart.Interval.Value.Low));
        (together.Standing, apart.Standing).ShouldBe((Standing.Open, Standing.Supported));
    }

    [Theory]
    [InlineData(1.0, Standing.Supported)]
    [InlineData(3.0, Standing.Open)]
    [InlineData(20.0, Standing.Contradicted)]
    public void A_rate_stands_by_its_interval(double least, Standing standing) =>
        Of(new RateAtLeast(Nell, Idea, least), [.. Enumerable.Range(1, 5).Select(i => Recording(i, 2))]).Standing.ShouldBe(standing);

    [Fact]
    public void Nothing_searched_leaves_a_claim_open_without_a_number()
    {
        var stand = Of(new RateAtLeast(Nell, Idea, 1), Recording(1, 0, bars: 0));
        (stand.Standing, stand.Interval).ShouldBe((Standing.Open, null));
        stand.Reason.ShouldContain("Not searched");
    }

    [Fact]
    public void Only_above_a_tempo_stands_after_a_strong_silence_falls_by_one_and_waits_for_what_has_no_tempo()
    {
        var test = new OnlyTempo(Nell, Idea, 100, true);
        Performance[] quick = [.. Enumerable.Range(1, 4).Select(i => Recording(i, 4, tempo: 120))];
        Performance[] slow = [.. Enumerable.Range(11, 4).Select(i => Recording(i, 0, tempo: 80))];
        var stands = Of(test, [.. quick, .. slow]);
        stands.Standing.ShouldBe(Standing.Supported);
        stands.Breaks.ShouldBe("One confirmed sighting below 100.");
        var falls = Of(test, [.. quick, .. slow, Recording(20, 1, tempo: 99.9)]);
        falls.Standing.ShouldBe(Standing.Contradicted);
        falls.Counter.ShouldHaveSingleItem().Words.ShouldBe("Piece 20, bar 1");
        Of(test, [.. quick, .. slow, Recording(20, 1, tempo: null)])
            .ShouldSatisfyAllConditions(s => s.Standing.ShouldBe(Standing.Open), s => s.Unclear.Count.ShouldBe(1));
        Of(test, [.. quick, .. slow, Recording(20, 1, tempo: 80, sure: false)]).Reason.ShouldContain("not certain who drums");
        Of(test, [.. quick, Recording(11, 0, bars: 10, tempo: 80)])
            .ShouldSatisfyAllConditions(s => s.Standing.ShouldBe(Standing.Open), s =>
            s.Settles!.ShouldContain("more bars searched below 100"));
        Of(test, quick).Reason.ShouldContain("means nothing");
        Of(test, slow).Reason.ShouldBe("It is not found at all yet.");
        Of(new OnlyTempo(Nell, Idea, 100, false), [.. quick, .. slow]).Standing.ShouldBe(Standing.Contradicted);
    }

    [Fact]
    public void Never_before_a_date_weighs_date_ranges()
    {
        var test = new NeverBefore(Nell, Idea, PartialDate.Parse("1966")!.Value);
        Performance[] later = [.. Enumerable.Range(1, 4).Select(i => Recording(i, 4, recorded: "1967"))];
        Performance[] earlier = [.. Enumerable.Range(11, 4).Select(i => Recording(i, 0, recorded: "1964"))];
        Of(test, [.. later, .. earlier]).Standing.ShouldBe(Standing.Supported);
        Of(test, [.. later, .. earlier, Recording(20, 1, recorded: "1965-12")]).Standing.ShouldBe(Standing.Contradicted);
        Of(test, [.. later, .. earlier, Recording(20, 1, recorded: "1965 to 1967")]).Standing.ShouldBe(Standing.Open,
            "it may lie before or after");
    }

    [Fact]
    public void Only_in_a_section_or_in_a_bar_of_the_phrase_counts_the_bars_that_were_searched()
    {
        // Twelve in the verse of the first 48 bars; the chorus of 16 is searched without it.
        const string form = "verse 48, chorus 16";
        Performance[] found = [.. Enumerable.Range(1, 6).Select(i => Recording(i, 12, form: form))];
        Of(new OnlyInSection(Nell, Idea, "verse"), found)
            .ShouldSatisfyAllConditions(s => s.Standing.ShouldBe(Standing.Supported), s =>
            s.Figures.ShouldBe("72 of 72 inside, 96 bars searched outside the verse"));
        Of(new OnlyInSection(Nell, Idea, "verse"), [.. found, Recording(7, 1, section: "chorus 2")]).Standing.ShouldBe(
            Standing.Contradicted);
        Of(new OnlyInSection(Nell, Idea, "verse"), [.. found, Recording(7, 1, section: "")]).Standing.ShouldBe(Standing.Open);
        Of(new OnlyInPhraseBar(Nell, Idea, 1, 4), found).Standing.ShouldBe(Standing.Supported);
        Of(new OnlyInPhraseBar(Nell, Idea, 4, 4), Recording(1, 12))
            .ShouldSatisfyAllConditions(s => s.Standing.ShouldBe(Standing.Contradicted), s =>
            s.Reason.ShouldStartWith("12 of 12 sightings lie"));
    }

    [Fact]
    public void More_than_another_player_stands_by_the_ratio_of_rates()
    {
        Performance[] own = [.. Enumerable.Range(1, 4).Select(i => Recording(i, 5))];
        Performance[] theirs = [.. Enumerable.Range(11, 4).Select(i => Recording(i, 0, player: Oda))];
        var stand = Of(new MoreThan(Nell, Idea, Oda), [.. own, .. theirs]);
        stand.Standing.ShouldBe(Standing.Supported);
        stand.Reason.ShouldContain("At least");
        Of(new MoreThan(Oda, Idea, Nell), [.. own, .. theirs]).Standing.ShouldBe(Standing.Contradicted);
        Of(new MoreThan(Nell, Idea, Oda), own).Reason.ShouldContain("not searched");
        Of(new MoreThan(Nell, Idea, Oda), [.. own, .. Enumerable.Range(11, 4).Select(i => Recording(i, 5, player: Oda))]).Settles.ShouldBe(
            "would take more than 1,000 bars");
    }

    /// <summary>Grown together both sides stay open; the other player alone is what is missing.</summary>
    [Fact]
    public void What_would_settle_more_than_is_said_of_each_side_alone()
    {
        Performance[] own = [.. Enumerable.Range(1, 16).Select(i => Recording(i, 2))];
        var stand = Of(new MoreThan(Nell, Idea, Oda), [.. own, .. Enumerable.Range(21, 4)
            .Select(i => Recording(i, i % 4 == 0 ? 1 : 0, bars: 20, player: Oda))]);
        stand.Standing.ShouldBe(Standing.Open);
        stand.Settles!.ShouldMatch(@"^about \d+ more bars of Oda at the present rate$");
        stand.SettledBy.ShouldBe([Oda]);
        stand.Look.ShouldAllBe(w => w.Recording > 20);
    }

    [Fact]
    public void A_voice_at_a_place_is_counted_over_the_bars_of_its_meter_in_which_it_could_be_heard()
    {
        // The same kick in every third bar of each of six titles: a groove kept up is one decision, so titles count and not bars.
        var bars = Enumerable.Range(0, 6).SelectMany(t => Enumerable.Range(1, 10)
            .Select(n => Bar(n, n % 3 == 0 ? "SN: 2 4\nBD: 1 4&" : n == 1 ? "SN: 2 4\nBD: ?" : "SN: 2 4\nBD: 1", $"Piece {t}")))
            .Append(Bar(61, "meter 3/4\nBD: 1 3&")).ToList();
        var stand = Standings.Of(new VoiceAt(Nell, Voice.Kick, Meter.CommonTime, new(4 * Tick.PerQuarter - 5040), 0.15), With([], bars));
        stand.Figures.ShouldBe("18 of 54 written bars");
        stand.Reason.ShouldContain("the mean of the titles");
        stand.Standing.ShouldBe(Standing.Supported);
        var one = Standings.Of(new VoiceAt(Nell, Voice.Kick, Meter.CommonTime, new(4 * Tick.PerQuarter - 5040), 0.2),
            With([], [.. bars.Where(b => b.Title == "Piece 1")]));
        (one.Standing, one.Reason.Contains("as if bars were independent")).ShouldBe((Standing.Open, true));
    }

    [Fact]
    public void A_trait_is_counted_over_the_fills_of_which_it_is_known()
    {
        PlayedFill Fill(int i, string text)
        {
            var passage = InnerCadence.Core.Counting.Reading.CountLines.Parse(text).Passage;
            return new(Nell, $"Piece {i % 7}", $"fill {i}", i, passage, Traits.Of(passage)!);
        }
        var fills = Enumerable.Range(1, 30).Select(i => Fill(i, i <= 24 ? "SN: 3L e & a" : i <= 28 ? "SN: 3R e" : "SN: 3 e")).ToList();
        var stand = Standings.Of(new TraitIn(Nell, Habit.Find("left-first")!, 0.5), With([], [], fills));
        (stand.Figures, stand.Standing).ShouldBe(("24 of 28 written fills", Standing.Supported));
        stand.Counter.Count.ShouldBe(4);
    }

    [Fact]
    public void What_would_settle_it_is_said_at_the_present_share_and_out_of_reach_over_a_thousand()
    {
        var open = Of(new PresentIn(Nell, Idea, 0.25, null), Many(6, 13));
        open.Settles.ShouldBe("about 148 more recordings at the present share");
        Estimates.Wilson(6 / 19.0 * 167, 167).Low.ShouldBeGreaterThanOrEqualTo(0.25);
        Estimates.Wilson(6 / 19.0 * 166, 166).Low.ShouldBeLessThan(0.25);
        Of(new PresentIn(Nell, Idea, 0.32, null), Many(6, 13)).Settles.ShouldBe("would take more than 1,000 bars");
        Of(new PresentIn(Nell, Idea, 0.25, null), Many(6, 13)).Titles.ShouldBe(19);
    }

    private static readonly Gen<Performance[]> AnyRecordings = Gen.Select(Gen.Int[0, 4], Gen.Int[0, 64], Gen.Int[60, 140],
        Gen.Int[1960, 1970], Gen.Int[1, 6]).Array[1, 14]
        .Select(rows => rows.Select((r, i) => Recording(i + 1, r.Item2 == 0 ? 0 : r.Item1, r.Item2, $"{r.Item4}", r.Item3,
            title: $"Title {r.Item5}")).ToArray());

    [Fact]
    public void Standings_agree_with_the_interval_they_rest_on() => Gen.Select(AnyRecordings, Gen.Double[0.01, 1])
        .Sample((recordings, least) =>
    {
        foreach (var stand in new[] { Of(new PresentIn(Nell, Idea, least, null), recordings),
            Of(new RateAtLeast(Nell, Idea, least * 20), recordings) })
        {
            if (stand.Interval is not { } i)
            {
                stand.Standing.ShouldBe(Standing.Open);
                continue;
            }
            // Contradicted takes more than the interval that is shown: the whole 99 %.
            if (stand.Titles < Estimate.FewTitles) stand.Standing.ShouldBe(Standing.Open);
            else if (i.Low >= stand.Against) stand.Standing.ShouldBe(Standing.Supported);
            else stand.Standing.ShouldBeOneOf(i.High < stand.Against ? [Standing.Contradicted, Standing.Open] : [Standing.Open]);
            (stand.Settles is not null).ShouldBe(stand.Standing == Standing.Open);
            (stand.Breaks is not null).ShouldBe(stand.Standing == Standing.Supported);
        }
    }, iter: 300);

    [Fact]
    public void A_counter_example_confirmed_and_rejected_again_restores_the_standing() => Gen.Select(AnyRecordings, Gen.Int[70, 130])
        .Sample((recordings, tempo) =>
    {
        var test = new OnlyTempo(Nell, Idea, tempo, true);
        var before = Of(test, recordings);
        Of(test, [.. recordings, Recording(99, 1, tempo: tempo - 1)]).Standing.ShouldBe(Standing.Contradicted);
        var after = Of(test, [.. recordings, Recording(99, 0, bars: 0, tempo: tempo - 1)]);
        (after.Standing, after.Reason).ShouldBe((before.Standing, before.Reason));
    }, iter: 300);

    [Fact]
    public void Every_sentence_says_what_it_tests()
    {
        ClaimTest[] tests =
        [
            new PresentIn(Nell, Idea, 0.3, RecordingKind.Live), new RateAtLeast(Nell, Idea, 2.5), new OnlyTempo(Nell, Idea, 100, true),
                new OnlyTempo(Nell, Idea, 100, false), new OnlyInSection(Nell, Idea, "verse"),
            new OnlyInPhraseBar(Nell, Idea, 4, 4), new NeverBefore(Nell, Idea, PartialDate.Parse("1966-03")!.Value),
                new MoreThan(Nell, Idea, Oda), new HadItFirst(Nell, Idea, Oda),
            new VoiceAt(Nell, Voice.Kick, Meter.CommonTime, new(5040), 0.5), new TraitIn(Nell, Habit.Find("linear")!, 0.1),
            new LateBy(Nell, Voice.Snare, Voice.Hat, 5, 0.5), new LateBy(Nell, Voice.Snare, Voice.Ride, -5, 0.5),
        ];
        var names = With().Names;
        tests.Select(t => t.Sentence(names)).ShouldBe(
        [
            "latch is in at least 30 % of Nell’s live recordings", "Nell plays latch at least 2.5 times in 100 bars",
                "Nell plays latch only from 100 up", "Nell plays latch only below 100",
            "Nell plays latch only in the verse", "Nell plays latch only in the 4th bar of four", "Nell never plays latch before 1966-03",
                "Nell plays latch more often than Oda", "Nell has latch before Oda",
            "Nell’s kick is on the & of 1 in at least 50 % of bars in 4/4", "At least 10 % of Nell’s fills are linear",
            "Nell’s snare lies at least 5 ms behind the hat on at least 50 % of recordings",
            "Nell’s snare lies at least 5 ms ahead of the ride on at least 50 % of recordings",
        ]);
        tests.Select(t => t.Word).Distinct().Count().ShouldBe(tests.Length - 1, "one is there twice, behind and ahead");
    }

    [Fact]
    public void A_late_back_beat_is_weighed_by_the_recordings_that_were_measured()
    {
        Material Measured(params double[] behind) => With() with
        {
            Gaps = [.. behind.Select((ms, i) => new RecordedGap(i, $"side {i}", $"side {i}", Nell, 1970, 100, Voice.Snare, Voice.Hat, ms,
                8, i)),
                new(99, "another", "another", Oda, 1970, 100, Voice.Snare, Voice.Hat, -20, 8, 99)],
        };
        var test = new LateBy(Nell, Voice.Snare, Voice.Hat, 5, 0.5);
        var late = Standings.Of(test, Measured(9, 12, 7, 14, 6, 8, 11, 2, 9, 10, 13));
        (late.Standing, late.For.Count, late.Counter.Single().Words).ShouldBe((Standing.Supported, 10, "side 7: 2 ms behind"));
        Standings.Of(test, Measured(1, -2, 3, 0, 2, 1, -4, 4, 1, 2, 0)).Standing.ShouldBe(Standing.Contradicted);
        Standings.Of(test, Measured(9, 1)).Standing.ShouldBe(Standing.Open);
    }

    [Fact]
    public void A_change_is_told_with_its_numbers_and_what_speaks_against_it()
    {
        var test = new OnlyTempo(Nell, Idea, 100, true);
        var before = Of(test, Recording(1, 2, tempo: 120));
        var after = Of(test, Recording(1, 2, tempo: 120), Recording(2, 1, tempo: 90));
        after.CauseAfter(before.Figures)
            .ShouldBe("2 of 3 inside, 64 bars searched below 100, where it was 2 of 2 inside, 0 bars searched below 100; against it: "
            + "Piece 2, bar 1");
        after.CauseAfter(after.Figures).ShouldStartWith("its test was changed");
    }
}
