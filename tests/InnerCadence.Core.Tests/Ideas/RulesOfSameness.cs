using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;

namespace InnerCadence.Core.Tests.Ideas;

/// <summary>ideas.md rule by rule, in small figures a drummer can check by ear.</summary>
public class RulesOfSameness
{
    private static readonly Look Stumble = Look.For("SN: 1 e & a\nFT: 2", 20160);

    [Theory]
    [InlineData("SN: 1 e & a\nFT: 2", "0 exact 0")]
    [InlineData("SN: 3 e & a\nFT: 4", "20160 exact 0")]
    [InlineData("SN: 1 e & a 3 e & a\nFT: 2 4", "0 exact 0; 20160 exact 0")]
    [InlineData("SN: 1> e & a\nFT: 2", "0 variant 1")]
    [InlineData("SN: 1f e & a\nFT: 2d", "0 variant 2")]
    [InlineData("SN: 1 e & a\nT4: 2", "0 near-miss 1")]
    [InlineData("SN: 1 e & a\nTT: 2", "0 variant 0")]
    [InlineData("SN: 1 e & a 2", "0 near-miss 3")]
    [InlineData("SN: 1 e & a\nFT: 2e", "0 near-miss 2")]
    [InlineData("SN: 1 e & a\nFT: 2&", "0 near-miss 3")]
    [InlineData("SN: 1 e & a", "0 near-miss 4")]
    [InlineData("SN: 1 e &", "")]
    [InlineData("SN: 1 e & a 2& a\nFT: 2", "")]
    public void Verdict_and_cost_follow_the_table(string passage, string found) => Stumble.In(passage).ShouldBe(found);

    [Fact]
    public void An_idea_of_four_strokes_misses_none_of_them_and_one_of_five_may()
    {
        Look.For("SN: 1 e & a", 10080).In("SN: 1 e &").ShouldBe("");
        Look.For("SN: 1 e & a 2", 20160).In("SN: 1 e & a").ShouldBe("0 near-miss 4");
    }

    [Fact]
    public void A_near_miss_costs_no_more_than_it_has_strokes()
    {
        var eight = Look.For("SN: 1 e & a 2 e & a", 20160);
        eight.In("SN: 1 e & a 2 e").ShouldBe("0 near-miss 8");
        eight.In("SN: 1 e & a 2").ShouldBe("");
        // Nine strokes and more: at most 8, or half of them.
        Look.For("SN: 1 e & a 2 e & a 3", 30240).In("SN: 1 e & a 2 e").ShouldBe("");
    }

    [Fact]
    public void Two_thirds_of_the_strokes_stand_in_their_place() =>
        Look.For("SN: 1 e & a 2 e", 20160).In("SN: 1 e & 2e 2& 2a").ShouldBe("");

    [Fact]
    public void A_hand_against_a_foot_of_another_family_does_not_stand_in_its_place()
    {
        Look.For("BD: 1 2 3", 30240).With(VoicingRule.HandOrFoot).In("BD: 1 2\nFT: 3").ShouldBe("0 near-miss 2");
        Look.For("BD: 1 2", 20160).With(VoicingRule.HandOrFoot).In("BD: 1\nFT: 2").ShouldBe("");
    }

    [Fact]
    public void Voicing_by_family_drum_or_hand()
    {
        Stumble.With(VoicingRule.Family).In("XS: 1 e & a\nT1: 2").ShouldBe("0 variant 0");
        Stumble.With(VoicingRule.HandOrFoot).In("CR: 1 e & a\nRD: 2").ShouldBe("0 variant 0");
        Stumble.With(VoicingRule.HandOrFoot).In("SN: 1 e & a\nBD: 2").ShouldBe("0 near-miss 2");
        Stumble.With(VoicingRule.Any).In("SN: 1 e & a\nBD: 2").ShouldBe("0 variant 0");
    }

    [Fact]
    public void With_another_scope_other_strokes_are_seen_or_not()
    {
        Look.For("SN: 1 e & a", 10080, "SN").In("SN: 1 e & a\nT1: 1& 1a").ShouldBe("0 exact 0");
        Look.For("SN: 1 e & a", 10080, "SN T1").In("SN: 1 e & a\nT1: 1&").ShouldBe("0 near-miss 4");
    }

    [Fact]
    public void A_scope_that_is_not_given_follows_from_the_exemplar()
    {
        Look.For("SN: 1 e & a\nFT: 2", 20160).In("SN: 1 e & a\nFT: 2\nT1: 2e").ShouldBe("0 near-miss 4 extended");
        Look.For("SN: 1 e & a", 10080).In("SN: 1 e & a\nT1: 1&\nBD: 1\nHH: 8ths").ShouldBe("0 exact 0");
        Look.For("SN: 1 e & a", 10080).With(transforms: Transform.Substituted).In("SN: 1 e & a\nBD: 1").ShouldBe("0 near-miss 4");
    }

    [Theory]
    [InlineData(FacetRule.May, "0 variant 2")]
    [InlineData(FacetRule.Must, "0 near-miss 2")]
    [InlineData(FacetRule.Ignore, "0 exact 0")]
    public void A_facet_may_differ_must_agree_or_is_not_looked_at(FacetRule rule, string found)
    {
        Look.For("SN: 1> e & a>", 10080).With(dynamics: rule).In("SN: 1 e & a")
            .ShouldBe(rule == FacetRule.Must ? "" : found, "half of the marked strokes must agree");
        Look.For("SN: 1> e> &> a>", 10080).With(dynamics: rule).In("SN: 1> e> & a").ShouldBe(found);
        Look.For("HH: 1o e & ao 2o e & ao", 20160).With(openness: rule).In("HH: 1o e & ao 2 e & a").ShouldBe(found);
        Look.For("SN: 1f e & af 2f e & af", 20160).With(ornaments: rule).In("SN: 1f e & af 2 e & a").ShouldBe(found);
        Look.For("SN: 1R eL &R aL", 10080).With(sticking: rule).In("SN: 1R eR &L aL").ShouldBe(found);
    }

    [Fact]
    public void For_ornaments_that_must_agree_it_is_enough_that_they_are_marked() =>
        Look.For("SN: 1f e & af", 10080).With(ornaments: FacetRule.Must).In("SN: 1d e & ad").ShouldBe("0 near-miss 2");

    [Fact]
    public void Hands_that_are_not_known_are_at_best_a_variant()
    {
        Look.For("SN: 1R eL &R aL", 10080).With(sticking: FacetRule.Must).In("SN: 1R e & aL").ShouldBe("0 variant 0");
        Look.For("SN: 1R eL &R aL", 10080).In("SN: 1R e & aL").ShouldBe("0 exact 0");
    }

    [Theory]
    [InlineData("SN: 2 e & a", "10080 exact 0", "10080 exact 0", "10080 near-miss 0")]
    [InlineData("SN: 1& 1a 2 2e", "5040 exact 0", "5040 near-miss 0", "5040 near-miss 0")]
    [InlineData("SN: - | 1 e & a", "40320 exact 0", "40320 exact 0", "40320 exact 0")]
    [InlineData("SN: 1&> 1a 2 2e", "5040 variant 1", "5040 near-miss 1", "5040 near-miss 1")]
    public void Placement_anywhere_in_the_beat_or_in_the_bar(string passage, string anywhere, string beat, string bar)
    {
        var look = Look.For("SN: 1 e & a", 10080);
        look.In(passage).ShouldBe(anywhere);
        look.With(placement: PlacementRule.SamePlaceInTheBeat).In(passage).ShouldBe(beat);
        look.With(placement: PlacementRule.SamePlaceInTheBar).In(passage).ShouldBe(bar);
    }

    [Fact]
    public void In_the_wrong_place_nothing_else_required_may_fail() =>
        Stumble.With(placement: PlacementRule.SamePlaceInTheBar).In("SN: 3 e & a\nT1: 4").ShouldBe("");

    [Theory]
    [InlineData("SN: 8ths@1-2", "0 variant 0 x2")]
    [InlineData("SN: 1 1' 1e 1e'", "0 variant 0 x1/2")]
    [InlineData("SN: 1 t l 2", "0 variant 0 x4/3")]
    [InlineData("SN: 1 ti ta &", "0 variant 0 x2/3")]
    [InlineData("SN: 8ths@1-2 -2&", "")]
    public void A_proportional_rate_scales_every_gap(string passage, string found) =>
        Look.For("SN: 1 e & a", 10080).With(rate: RateRule.Proportional).In(passage).ShouldBe(found);

    [Fact]
    public void At_another_rate_nothing_is_missing_extra_or_moved() =>
        Look.For("SN: 1 e & a 2 e", 20160).With(rate: RateRule.Proportional).In("SN: 1 & 2 & 3").ShouldBe("");

    [Fact]
    public void Ghosts_that_are_ignored_vanish_on_both_sides()
    {
        var look = Look.For("SN: (1) 2 4", 40320).With(ghosts: GhostRule.Ignore);
        look.In("SN: 2 (2a) (3e) 4").ShouldBe("10080 exact 0");
        Look.For("SN: 2 4", 30240).In("SN: 2 (2a) 4").ShouldBe("");
    }

    [Fact]
    public void Optional_strokes_may_be_left_out_and_unsure_ones_cost_nothing()
    {
        var look = Look.For("SN: 1 e &* a\nFT: 2", 20160);
        look.In("SN: 1 e & a\nFT: 2").ShouldBe("0 exact 0");
        look.In("SN: 1 1e 1a\nFT: 2").ShouldBe("0 exact 0");
        look.Sightings("SN: 1? e? & a\nFT: 2").Single().Unsure.ShouldBe(2);
    }

    [Fact]
    public void The_first_strokes_may_be_left_out_as_far_as_it_is_allowed()
    {
        var look = Look.For("SN: 1 e & a 2 e", 20160);
        look.In("SN: 1e & a 2 e").ShouldBe("0 near-miss 4 elided");
        look.With(elision: 1).In("SN: 1e & a 2 e").ShouldBe("0 variant 4 elided");
        look.With(elision: 2).In("SN: 1& a 2 e").ShouldBe("0 variant 8 elided");
        look.With(elision: 1).In("SN: 1& a 2 e").ShouldBe("");
        look.With(elision: 4).In("SN: 2 e").ShouldBe("", "at least half is left");
    }

    [Fact]
    public void Mirrored_reversed_and_substituted_are_tried_only_if_listed()
    {
        var hands = Look.For("SN: 1R eL &L aR\nFT: 2R", 20160);
        hands.In("SN: 1L eR &R aL\nFT: 2L").ShouldBe("0 variant 5");
        hands.With(transforms: Transform.Mirrored).In("SN: 1L eR &R aL\nFT: 2L").ShouldBe("0 variant 0 mirrored");
        hands.With(transforms: Transform.Mirrored).In("SN: 1R eL &L aR\nFT: 2R").ShouldBe("0 exact 0");

        var down = Look.For("T1: 1 e\nT2: 1&\nFT: 2", 20160);
        down.With(transforms: Transform.Reversed).In("FT: 1\nT2: 1&\nT1: 1a 2").ShouldBe("0 variant 0 reversed");

        var roll = Look.For("SN: 1 e & a", 10080, "SN BD").With(transforms: Transform.Substituted);
        roll.In("SN: 1 1e 1a\nBD: 1&").ShouldBe("0 variant 0 substituted");
        roll.In("SN: 1 1a\nBD: 1e 1&").ShouldBe("0 variant 0 substituted");
        roll.In("SN: 1\nBD: 1e 1& 1a").ShouldBe("", "more than half are kicks");
    }

    [Fact]
    public void Of_windows_that_share_strokes_the_best_set_is_taken()
    {
        Look.For("SN: 1 e &", 7560).In("SN: 16ths").ShouldBe("0 exact 0; 7560 exact 0; 15120 exact 0; 22680 exact 0; 30240 exact 0");
        Look.For("SN: 1 e & a", 10080).In("SN: 1 e & a 2 e").ShouldBe("0 exact 0");
        // Equal but for the place in the pulse: the one on the beat is taken.
        Look.For("SN: 1 e", 5040).In("SN: 1& 1a 2").ShouldBe("5040 exact 0");
    }

    [Fact]
    public void A_loop_is_read_across_its_join_and_a_stroke_counts_once()
    {
        var look = Look.For("BD: 4& | 1", 10080);
        look.In("BD: 1 4&", looped: true).ShouldBe("35280 exact 0");
        look.In("BD: 1 4&").ShouldBe("");
        Look.For("SN: 2 4 | 2 4", 80640).In("SN: 2 4", looped: true).ShouldBe("10080 exact 0");
        Look.For("SN: 1 2 3 4", 40320).In("SN: 4ths", looped: true).ShouldBe("0 exact 0");
    }

    [Fact]
    public void A_window_may_start_before_the_passage_and_run_past_its_end()
    {
        var look = Look.For("SN: 1 e & a 2 e", 20160);
        look.In("SN: - | 3& a 4 e &").ShouldBe("63000 near-miss 4 elided", "as cheap as its last stroke missing, and earlier");
        look.In("SN: 1 e & a 2").ShouldBe("0 near-miss 4");
        Look.For("SN: 4a | 1 e & a 2", 22680).In("SN: 1 e & a 2").ShouldBe("-2520 near-miss 4 elided");
    }

    [Fact]
    public void A_bar_not_heard_costs_nothing_but_is_at_best_a_variant()
    {
        var look = Look.For("HH: 4ths\nSN: 2 4\nBD: 1 3", 40320);
        look.In("HH: 4ths\nSN: ?\nBD: 1 3").ShouldBe("0 variant 0");
        look.In("HH: ?\nSN: ?\nBD: 1 3").ShouldBe("", "at least half was heard");
    }

    [Fact]
    public void The_same_way_over_the_toms_is_enough_for_the_contour()
    {
        var look = Look.For("T1: 1 e\nT2: 1& a\nFT: 2", 20160).With(VoicingRule.Contour);
        look.In("T2: 1 e\nT3: 1& a\nF2: 2").ShouldBe("0 variant 0");
        look.In("T2: 1 e\nT3: 1& a\nT1: 2").ShouldBe("0 near-miss 1");
        look.In("TT: 1 e & a 2").ShouldBe("0 variant 0");
        look.In("T1: 1 e\nT2: 1& a\nFT: 2").ShouldBe("0 exact 0");
    }

    [Theory]
    [InlineData("feel swing 66%", "20160 exact 0")]
    [InlineData("feel swing 60%", "20160 exact 0")]
    [InlineData("feel swing 55%", "")]
    [InlineData("feel straight", "")]
    public void Swung_off_beats_sound_as_the_let_of_a_triplet(string feel, string found) =>
        Look.For($"{feel}\nSN: 1 & 2 &", 20160).With(swing: SwingRule.AsSounding).In("SN: 3 3l 4 4l").ShouldBe(found);

    [Theory]
    [InlineData("SN: 4 e & a | -\nCR: - | 1\nBD: - | 1", "30240 variant 0")]
    [InlineData("SN: 4 e & a | -\nCR: - | 1", "30240 variant 0")]
    [InlineData("SN: 4 e & a | 1", "30240 exact 0")]
    [InlineData("SN: 4 e & a | 1\nCR: - | 1", "30240 exact 0")]
    [InlineData("SN: 4 e & a | -\nCR: - | 1e", "30240 near-miss 4")]
    [InlineData("SN: 4 e & a | -\nRD: - | 1", "30240 near-miss 4")]
    public void A_fill_may_end_on_a_crash(string passage, string found) =>
        Look.For("SN: 4 e & a | 1").With(ending: EndingRule.CrashToo).In(passage).ShouldBe(found);

    [Theory]
    [InlineData("CR: 2\nBD: 2", "10080 variant 0")]
    [InlineData("CR: 2", "10080 variant 0")]
    [InlineData("CR: 2\nFT: 2\nBD: 2", "10080 exact 0")]
    [InlineData("FT: 2", "10080 near-miss 4")]
    public void Of_a_drum_and_a_kick_at_the_end_the_drum_gives_way_and_the_kick_may_be_there(string ending, string found)
    {
        var look = Look.For("SN: 1 e & a\nFT: 2\nBD: 2", 20160).With(ending: EndingRule.CrashToo);
        look.In("SN: 1 e & a\n" + ending).ShouldBe(found.Replace("10080", "0"));
        look.Sightings("SN: 1 e & a\nCR: 2").Single().Summary.ShouldBe("ends on the crash");
    }

    [Theory]
    [InlineData("", "")]
    [InlineData("BD", "0 exact 0")]
    [InlineData("BD HH", "0 exact 0")]
    public void A_bed_counts_only_where_the_idea_has_a_stroke_of_it(string bed, string found) =>
        Look.For("SN: 1 e & a\nBD: 1", 10080).With(bed: bed).In("SN: 1 e & a\nBD: 16ths@1 -1a").ShouldBe(found);

    [Fact]
    public void A_stroke_of_the_bed_that_the_idea_has_may_not_be_moved_or_missing() =>
        Look.For("SN: 1 e & a 2\nBD: 1", 20160).With(bed: "BD").In("SN: 1 e & a 2\nBD: 1e").ShouldBe("0 near-miss 4");

    [Theory]
    [InlineData(EchoRule.Ignore, "SN: 1 & 1e=", "0 exact 0")]
    [InlineData(EchoRule.Count, "SN: 1 & 1e=", "0 near-miss 4")]
    [InlineData(EchoRule.Ignore, "SN: 1 &=", "")]
    [InlineData(EchoRule.Count, "SN: 1 &=", "0 exact 0")]
    public void An_echo_is_not_there_unless_it_counts(EchoRule echoes, string passage, string found) =>
        Look.For("SN: 1 &", 10080).With(echoes: echoes).In(passage)
            .ShouldBe(found.Replace("0 near-miss 4", Look.For("SN: 1 &", 10080).In("SN: 1 e &")));

    [Theory]
    [InlineData(LevelRule.Ignore, "LV: 1 f > 2 p", "0 exact 0")]
    [InlineData(LevelRule.May, "LV: 1 f > 2 p", "0 variant 0")]
    [InlineData(LevelRule.Must, "LV: 1 f > 2 p", "0 near-miss 0")]
    [InlineData(LevelRule.Must, "LV: 1 mf", "0 near-miss 0")]
    [InlineData(LevelRule.Must, "LV: 1 mp < 2 mf", "0 exact 0")]
    public void Growth_over_the_idea_goes_the_same_way(LevelRule rule, string levels, string found) =>
        Look.For("SN: 1 e & a 2\nLV: 1 p < 2 f", 20160).With(levels: rule).In($"SN: 1 e & a 2\n{levels}").ShouldBe(found);
}
