using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;

namespace InnerCadence.Core.Tests.Ideas;

/// <summary>Why a hit is or is not the idea, in words.</summary>
public class Explanations
{
    [Theory]
    [InlineData("SN: 1 e & a\nFT: 2", "no difference")]
    [InlineData("SN: 2& 2a 3 3e\nFT: 3&", "starts on the & of 2, three eighths later than the exemplar")]
    [InlineData("SN: 1 e & a\nT2: 2", "tom 2 for floor tom on 2")]
    [InlineData("SN: 1 e & a\nTT: 2", "which tom is not known, on 2")]
    [InlineData("SN: 1 e & a\nFT: 2e", "last stroke comes a sixteenth late (the e of 2, exemplar: 2)")]
    [InlineData("SN: 1 e & a", "last stroke missing (floor tom on 2)")]
    [InlineData("SN: 1> e & a\nFT: 2", "snare on 1 accented, exemplar plain")]
    [InlineData("SN: 1 e & a\nFT: 2>?", "floor tom on 2 accented, exemplar plain, unsure")]
    [InlineData("SN: 1 e & a\nFT: 2 2&", "one floor tom stroke more, on the & of 2")]
    [InlineData("SN: 1f e & a\nFT: 2", "snare on 1 with flam, exemplar plain")]
    public void The_difference_is_said(string passage, string said) => Look.For("SN: 1 e & a\nFT: 2", 20160).Sightings(passage)
        .Single().Summary.ShouldBe(said);

    [Fact]
    public void A_transform_a_rate_and_a_wrong_place_are_said()
    {
        Look.For("SN: 1R eL &R aR", 10080).With(transforms: Transform.Mirrored).Sightings("SN: 1L eR &L aL")
            .Single().Summary.ShouldBe("sticking mirrored");
        Look.For("SN: 1 e & a", 10080).With(rate: RateRule.Proportional).Sightings("SN: 1 t l 2")
            .Single().Summary.ShouldBe("gaps 4/3 as long");
        Look.For("SN: 1 e & a", 10080).With(placement: PlacementRule.SamePlaceInTheBar).Sightings("SN: 2 e & a")
            .Single().Summary.ShouldBe("starts on 2, but its place is 1");
        Look.For("HH: 4ths\nSN: 2 4", 40320).Sightings("HH: 4ths\nSN: ?").Single().Summary.ShouldBe("partly not heard");
        Look.For("SN: 1R eL &R aR", 10080).With(sticking: FacetRule.Must).Sightings("SN: 1 e & a")
            .Single().Summary.ShouldBe("hands not known");
    }

    [Fact]
    public void The_data_of_an_edit_names_both_strokes()
    {
        var edit = Look.For("SN: 1 e & a\nFT: 2", 20160).Sightings("SN: 3 e & a\nFT: 4e").Single().Edits.Single();
        (edit.Kind, edit.PatternTick!.Value.Value, edit.PassageTick!.Value.Value, edit.Voice.Code).ShouldBe(("moved", 10080, 32760, "FT"));
        var missing = Look.For("SN: 1 e & a\nFT: 2", 20160).Sightings("SN: 3 e & a").Single().Edits.Single();
        (missing.Kind, missing.PatternTick!.Value.Value, missing.PassageTick).ShouldBe(("missing", 10080, null));
    }

    [Fact]
    public void Many_differences_are_summed_up()
    {
        var sighting = Look.For("SN: 1 e & a 2 e & a", 20160).Sightings("SN: 1> e> &> a> 2> e & a").Single();
        sighting.Edits.Count.ShouldBe(5);
        sighting.Summary.ShouldEndWith("and two more differences");
    }

    [Fact]
    public void Rules_are_said_in_one_line()
    {
        Rules.Default.Sentence().ShouldBe("same drum · anywhere in the bar");
        new Rules
        {
            Facets = new() { Voicing = VoicingRule.Contour, Dynamics = FacetRule.Must },
            Ghosts = GhostRule.Ignore,
            Rate = RateRule.Proportional,
            Elision = 1,
            Transforms = [Transform.Mirrored]
        }
            .Sentence().ShouldBe("same contour over the toms · anywhere in the bar · proportional rate · ghosts ignored · dynamics must agree · "
                + "also mirrored · first 1 may be left out");
    }

    [Theory]
    [InlineData(true, false, false, VoicingRule.Family, GhostRule.Ignore, PlacementRule.Anywhere)]
    [InlineData(false, true, true, VoicingRule.Drum, GhostRule.Count, PlacementRule.SamePlaceInTheBar)]
    public void Cutting_proposes_rules(bool fill, bool ghosts, bool wholeBars, VoicingRule voicing, GhostRule rule, PlacementRule placement)
    {
        var rules = Rules.ProposedFor(fill, fill, ghosts, wholeBars);
        rules.Ending.ShouldBe(fill ? EndingRule.CrashToo : EndingRule.AsWritten);
        (rules.Facets.Voicing, rules.Ghosts, rules.Placement).ShouldBe((voicing, rule, placement));
    }
}
