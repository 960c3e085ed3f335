using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Practice;

namespace InnerCadence.Core.Tests.Practice;

/// <summary>hands.md, "Practice": the stated rules, and what must never happen.</summary>
public class Practising
{
    private static readonly DateOnly Today = new(2026, 11, 25);
    private static Passage Read(string text) => CountLines.Parse(text).Passage;
    private static Ladder Of(string text, double goal) => Ladder.For(Read(text), Bpm.Of(goal)!.Value);

    [Fact]
    public void Three_clean_ones_climb_by_four_percent_and_two_failures_fall()
    {
        var ladder = new Ladder(100, 120, 1, 0, 0, false);
        ladder.Tempo.ShouldBe(104);
        ladder.After(Outcome.Clean).After(Outcome.Clean).Tempo.ShouldBe(104);
        ladder.After(Outcome.Clean).After(Outcome.Clean).After(Outcome.Clean).Tempo.ShouldBe(108.2);
        ladder.After(Outcome.Failed).Tempo.ShouldBe(104);
        ladder.After(Outcome.Failed).After(Outcome.Failed).Tempo.ShouldBe(100);
        ladder.After(Outcome.Clean).After(Outcome.Clean).After(Outcome.Failed)
            .After(Outcome.Clean).Clean.ShouldBe(1, "a failure begins the count again");
    }

    [Fact]
    public void The_table_for_a_page_without_a_server_says_what_the_rules_say() => Climbs.Sample(x =>
    {
        var (ladder, table, at) = (x.Item1, x.Item1.Table, 0);
        table.Count.ShouldBeLessThan(400);
        foreach (var what in x.Item2)
        {
            ladder = ladder.After(what == 0 ? Outcome.Failed : Outcome.Clean);
            at = what == 0 ? table[at].AfterFailed : table[at].AfterClean;
            table[at].State.ShouldBe(ladder);
        }
    }, iter: 300);

    [Fact]
    public void It_begins_where_the_busiest_limb_has_four_strokes_a_second_and_ends_at_the_recorded_tempo()
    {
        Of("SN: 1R eR &R aR 2R eR &R aR", 120).Start.ShouldBe(60);
        Of("SN: 2 4", 120).Start.ShouldBe(96, "a calm figure begins at four fifths");
        var rungs = Of("SN: 16ths", 200).Rungs;
        (rungs[0], rungs[^1]).ShouldBe((120, 200), "each hand plays every other one");
        rungs.Zip(rungs.Skip(1)).ShouldAllBe(r => r.Second > r.First && r.Second <= r.First * 1.0401 + 0.05);
    }

    private static readonly Gen<(Ladder, int[])> Climbs = Gen.Select(Gen.Int[30, 150], Gen.Int[0, 150], Gen.Int[0, 4].Array[0, 80],
        (start, more, what) => (new Ladder(start, start + more, 0, 0, 0, false), what));

    [Fact]
    public void The_ladder_never_passes_the_recorded_tempo_nor_falls_under_its_start() => Climbs.Sample(x =>
    {
        var ladder = x.Item1;
        foreach (var what in x.Item2)
        {
            ladder = what == 0 ? ladder.After(Outcome.Failed) : ladder.After(Outcome.Clean);
            ladder.Tempo.ShouldBeInRange(ladder.Start, ladder.Goal);
        }
    }, iter: 2000);

    [Fact]
    public void A_pain_report_of_two_never_leads_to_more_tempo() => Gen.Select(Climbs, Gen.Int[2, 3], Gen.Int[0, 20])
        .Sample((x, pain, at) =>
    {
        var ladder = x.Item1;
        foreach (var what in x.Item2.Take(at)) ladder = ladder.After(what == 0 ? Outcome.Failed : Outcome.Clean);
        var hurt = ladder.AfterPain(pain);
        var after = x.Item2.Aggregate(hurt, (l, what) => l.After(what == 0 ? Outcome.Failed : Outcome.Clean));
        after.Tempo.ShouldBe(ladder.Tempo);
        after.Stopped.ShouldBeTrue();
        after.Anew().ShouldSatisfyAllConditions(l => l.Tempo.ShouldBe(l.Start), l => l.Stopped.ShouldBeFalse());
        ladder.AfterPain(1).ShouldBe(ladder);
    }, iter: 1000);

    [Fact]
    public void What_went_well_is_due_after_2_4_8_and_16_days_and_a_failure_starts_over()
    {
        var due = Due.New(Today);
        foreach (var days in (int[])[2, 4, 8, 16, 16])
        {
            due = due.After(Today, clean: true);
            due.On.ShouldBe(Today.AddDays(days));
        }
        due.After(Today, clean: false).ShouldBe(new(Today.AddDays(2), 2));
    }

    [Fact]
    public void A_week_holds_what_is_due_longest_first_and_no_more_minutes_than_there_are() =>
        Gen.Select(Gen.Select(Gen.Int[-10, 10], Gen.Int[2, 30], Gen.Bool).Array[0, 20], Gen.Int[0, 60].Array[7]).Sample((rows, minutes) =>
    {
        var items = rows.Select((r, i) => new Plannable(i, Today.AddDays(r.Item1), r.Item2, r.Item3)).ToList();
        var week = WeekPlan.Of(items, Today, minutes);
        week.Count.ShouldBe(7);
        week.Zip(minutes).ShouldAllBe(d => d.First.Minutes <= d.Second);
        week.SelectMany(d => d.Items).ShouldBeUnique();
        foreach (var day in week)
            foreach (var id in day.Items) items[(int)id].ShouldSatisfyAllConditions(i => i.Due.ShouldBeLessThanOrEqualTo(day.Day), i =>
                i.IsStopped.ShouldBeFalse());
    }, iter: 500);

    [Fact]
    public void Parts_join_at_a_change_of_drum_and_at_bar_lines_and_go_on_to_the_first_stroke_of_the_next()
    {
        var parts = TakenApart.Parts(Read("SN: 1 e & a | -\nT1: 2 e & a | -\nFT: - | 1"));
        parts.Select(p => (p.Name, p.From.Value, p.To.Value))
            .ShouldBe([("from bar 1, 1", 0, 10081), ("from bar 1, 2", 10080, 40321), ("from bar 2, 1", 40320, 80640)]);
        TakenApart.Parts(Read("SN: 2 4")).ShouldBeEmpty("there is no joint");
        TakenApart.Parts(Passage.Empty).ShouldBeEmpty();
    }

    [Fact]
    public void Layers_grow_from_the_feet_to_everything()
    {
        var layers = TakenApart.Layers(Read("SN: 2> (2a) 4>f\nT1: 3\nBD: 1 3"));
        layers.Select(l => l.Name).ShouldBe(["feet", "hands on one drum", "hands on their drums", "hands and feet",
            "with accents and ornaments", "with ghosts"]);
        layers[^1].Passage.Strokes.ShouldBe(Read("SN: 2> (2a) 4>f\nT1: 3\nBD: 1 3").Strokes);
        layers[1].Passage.Voices.ShouldBe([Voice.Snare]);
        TakenApart.Layers(Read("BD: 1 3")).ShouldHaveSingleItem();
    }

    [Fact]
    public void Variations_are_by_rule_and_seed_and_each_can_be_written_down() => Gen.Int[0, 500].Sample(seed =>
    {
        var figure = Read("SN: 3 e & a\nFT: 4 e & a\nBD: 1");
        var made = Variations.Of(figure, seed);
        made.Select(v => v.Rule).ShouldBe(["displaced", "orchestrated", "kick substituted", "inverted", "on and off the beat",
            "strokes on and off"]);
        Variations.Of(figure, seed).Select(v => v.Words).ShouldBe(made.Select(v => v.Words));
        foreach (var v in made) CountLines.Parse(CountWriter.Write(v.Passage))
            .ShouldSatisfyAllConditions(r => r.Problems.ShouldBeEmpty(), r => r.Passage.Strokes.ShouldBe(v.Passage.Strokes));
    }, iter: 100);

    [Fact]
    public void Ghosts_connect_only_where_there_is_room()
    {
        var ghosts = Variations.Of(Read("SN: 1 2"), 1).Single(v => v.Rule == "connecting ghosts").Passage;
        ghosts.Strokes.Select(s => (s.At.Value, s.Dynamic))
            .ShouldBe([(0, Dynamic.Normal), (2520, Dynamic.Ghost), (5040, Dynamic.Ghost), (7560, Dynamic.Ghost), (10080, Dynamic.Normal)]);
        Variations.Of(Passage.Empty, 1).ShouldBeEmpty();
    }

    [Fact]
    public void A_drill_begins_with_the_figure_and_is_silent_no_longer_than_said()
    {
        string.Concat(Drills.Of(8, 2, 2).Select(r => r.Sounds ? 'x' : '-')).ShouldBe("xx--xx--");
        Gen.Int[0, 1000].Sample(seed =>
        {
            var rounds = string.Concat(Drills.Of(24, 2, 3, seed).Select(r => r.Sounds ? 'x' : '-'));
            rounds.ShouldStartWith("x");
            rounds.ShouldNotContain("----");
        });
    }
}
