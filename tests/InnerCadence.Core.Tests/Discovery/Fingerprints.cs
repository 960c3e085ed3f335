using InnerCadence.Core.Counting;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Core.Tests.Discovery;

public class Fingerprints
{
    private static IEnumerable<Bar> Bars(string text, int times) => Enumerable.Range(0, times).SelectMany(i => Bar.Of(CountLines.Parse(text).Passage, i));

    [Fact]
    public void What_stands_out_is_said_in_words_in_both_directions()
    {
        var subject = Bars("SP: 1a\nSN: 2 4\n", 38).Concat(Bars("SN: 2 4\nBD: 1\n", 58));
        var others = Bars("SP: 1a\nSN: 2 4\nBD: 1\n", 3).Concat(Bars("SN: 2 4\nBD: 1\n", 207));
        var print = Fingerprint.Of(subject, others, Meter.CommonTime, 4);
        (print.Bars, print.OtherBars).ShouldBe((96, 210));
        print.Outstanding.Select(c => c.Words).ShouldBe(["no kick on 1: in 38 of 96 bars; others 0 of 210", "splash on the a of 1: in 38 of 96 bars; others 3 of 210"], ignoreOrder: true);
        print.Cells.Single(c => c.Voice == Voice.Splash && c.Contrast is not null).Contrast!.LogOdds.ShouldBe(3.66399986, 1e-7);
    }

    [Fact]
    public void A_bar_in_which_a_voice_was_not_heard_says_nothing_of_it()
    {
        var print = Fingerprint.Of(Bars("SN: 2 4\nBD: ?\n", 10).Concat(Bars("SN: 2 4\nBD: 1\n", 5)), Bars("BD: 1\n", 4), Meter.CommonTime, 4);
        print.Cells.First(c => c.Voice == Voice.Kick).Of.ShouldBe(5);
    }

    [Fact]
    public void Only_the_asked_strokes_on_the_asked_grid_count_and_other_meters_are_left_out()
    {
        var bars = Bars("SN: (2a) 4> 3t\n", 3).Concat(Bars("meter 3/4\nSN: 1\n", 9)).ToList();
        var ghosts = Fingerprint.Of(bars, [], Meter.CommonTime, 4, StrokeAspect.Ghost);
        ghosts.Bars.ShouldBe(3);
        ghosts.Cells.Where(c => c.With > 0).Select(c => (c.Count, c.With)).ShouldBe([("the a of 2", 3)]);
        ghosts.Outstanding.ShouldBeEmpty("there is nobody to compare with");
    }

    [Fact]
    public void Bars_stand_with_the_commonest_they_are_like()
    {
        var texts = new[] { "HH: 8ths\nSN: 2 4\nBD: 1 3", "HH: 8ths\nSN: 2 4\nBD: 1 3", "HH: 8ths\nSN: 2 4\nBD: 1 3 3&", "T1: 1 2 3 4", "HH: 8ths\nSN: 2 4\nBD: 1" };
        var families = BarFamilies.Of([.. texts.Select(t => CountLines.Parse(t).Passage).Select(p => (p.Meters.MeterOf(0), (IReadOnlyList<Stroke>)[.. p.Strokes]))]);
        families.Select(f => (f.Exemplar, string.Join(' ', f.Members.Select(m => $"{m.Bar}:{m.Cost}")))).ShouldBe([(0, "0:0 1:0 2:4 4:4"), (3, "3:0")]);
        BarFamilies.Of([]).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("T1: 1R 1e\nT2: 1& 1a\nFT: 2", "starts on 1 on the tom 1 with the right hand; lands on 2 on the floor tom; down the toms; linear; 5 strokes")]
    [InlineData("CR: 1\nSN: 1 2&f\nBD: 1", "starts on 1 on the crash; lands on the & of 2 on the snare; 1 double stop; flam; 4 strokes")]
    [InlineData("T1: 1 3\nFT: 2", "starts on 1 on the tom 1; lands on 3 on the tom 1; up and down the toms; linear; 3 strokes")]
    public void Traits_are_told_in_words(string text, string words) => Traits.Of(CountLines.Parse(text).Passage)!.Words.ShouldBe(words);

    [Fact]
    public void An_empty_passage_has_no_traits() => Traits.Of(Passage.Empty).ShouldBeNull();
}
