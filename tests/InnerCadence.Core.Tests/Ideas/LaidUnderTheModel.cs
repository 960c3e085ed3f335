using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Ideas;

/// <summary>What is told while a place is judged.</summary>
public class LaidUnderTheModel
{
    private static (LaidUnder Laid, Sighting Found) Lay(string model, string passage, int span, Rules? rules = null)
    {
        var idea = new Idea(CountLines.Parse(model).Passage, new(span), null, rules ?? Rules.Default);
        var there = CountLines.Parse(passage).Passage;
        var found = new Matcher(idea).FindIn(there).OrderBy(s => s.Start).ThenBy(s => s.Cost).First();
        return (LaidUnder.Of(idea, there, found.Start, found.Factor, found.Transforms, found.Edits)!, found);
    }

    private const int Beat = Tick.PerQuarter;

    [Theory]
    // Paired in order it would be an eighth late twice; a listener hears one missing and one too many.
    [InlineData("HH: 1 & 2o & 3\nBD: 1 2 2&", "HH: 1 & 2o & 3\nBD: 1 2& 3", "no kick under the open hat, one too many on 3")]
    [InlineData("SN: 1 e & a\nFT: 2", "SN: 1 e & a\nFT: 2e", "floor tom a sixteenth late: on the e of 2, not 2")]
    [InlineData("SN: 1 e & a\nFT: 2", "SN: 1 e & a", "no floor tom on 2")]
    [InlineData("SN: 1 e & a\nFT: 2", "SN: 1 e & a\nFT: 2 2&", "one floor tom too many on the & of 2")]
    [InlineData("SN: 1 e & a\nFT: 2", "SN: 1> e & a\nT2: 2", "tom 2 for floor tom on 2|snare on 1 accented, the model plain")]
    [InlineData("SN: 1 e & a\nFT: 2", "SN: 2 e & a\nFT: 3", "on 2; the model on 1")]
    [InlineData("SN: 1 e & a\nFT: 2", "SN: 1 e & a\nFT: 2", "")]
    public void Differences_are_said_as_music(string model, string passage, string said) =>
        string.Join('|', Lay(model, passage, 3 * Beat).Laid.Said()).ShouldBe(said);

    [Fact]
    public void Where_its_place_is_a_rule_that_is_said_first() =>
        Lay("SN: 1 e & a\nFT: 2", "SN: 2 e & a\nFT: 3", 3 * Beat, new() { Placement = PlacementRule.SamePlaceInTheBar }).Laid.Said()[0]
            .ShouldBe("starts on 2, its place is 1");

    [Fact]
    public void Strokes_are_paired_as_they_are_told()
    {
        var (laid, _) = Lay("HH: 1 & 2o & 3\nBD: 1 2 2&", "HH: 1 & 2o & 3\nBD: 1 2& 3", 3 * Beat);
        var kicks = laid.Pairs.Where(p => p.Own.Voice == Voice.Kick).ToList();
        kicks.Select(p => (p.Expected.Value, p.There?.At.Value, p.Differs))
            .ShouldBe([(0, 0, false), (Beat, null, true), (Beat * 3 / 2, Beat * 3 / 2, false)]);
        laid.TooMany.Select(s => (s.At.Value, s.Voice)).ShouldBe([(2 * Beat, Voice.Kick)]);
        laid.Pairs.Where(p => p.Own.Voice == Voice.Hat).ShouldAllBe(p => p.There!.At == p.Expected && !p.Differs);
    }

    [Fact]
    public void A_stroke_that_moved_to_another_drum_of_its_family_is_one_stroke()
    {
        var (laid, _) = Lay("SN: 1 e & a\nFT: 2", "SN: 1 e & a\nT1: 2e", 3 * Beat,
            new() { Facets = new() { Voicing = VoicingRule.Family } });
        laid.Said().ShouldBe(["last stroke comes a sixteenth late (the e of 2, the model: 2)", "tom 1 for floor tom on the e of 2"]);
        laid.TooMany.ShouldBeEmpty();
        (laid.Pairs[^1].Own.Voice, laid.Pairs[^1].There!.Voice).ShouldBe((Voice.FloorTom, Voice.Tom1));
    }

    [Fact]
    public void At_another_rate_places_are_stretched()
    {
        var (laid, found) = Lay("SN: 1 e & a", "SN: 1 t l 2", Beat, new() { Rate = RateRule.Proportional });
        found.Factor.ToString().ShouldBe("4/3");
        laid.Pairs.ShouldAllBe(p => p.There != null);
        laid.Pairs[^1].Expected.Value.ShouldBe(Beat);
        Factor.Of("4/3").ShouldBe(found.Factor);
    }
}
