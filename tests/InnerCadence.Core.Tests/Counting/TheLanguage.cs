using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>count-lines.md rule by rule: what is read, and what is told when it cannot be.</summary>
public class TheLanguage
{
    [Theory]
    [InlineData("SN: 1 e & a 2", "1 1e 1& 1a 2")]
    [InlineData("SN: 3e &", "3e 3&")]
    [InlineData("SN: 4 2a 3", "2a 3 4")]
    [InlineData("SN: 1 + and'", "1 1& 1&'")]
    [InlineData("SN: 2ah 3uh 4+", "2a 3a 4&")]
    [InlineData("SN: 1trip 1let 2t l", "1t 1l 2t 2l")]
    [InlineData("SN: 1& ti ta", "1& 1l 1&ta")]
    [InlineData("SN: 4a'", "4a'")]
    [InlineData("SN: 4a':", null)]
    [InlineData("SN: 4ths", "1 2 3 4")]
    [InlineData("SN: 8ths@3-4", "3 3& 4 4&")]
    [InlineData("SN: 8ths@2&-3e", "2& 3")]
    [InlineData("SN: 8ths@3", "3 3& 4 4&")]
    [InlineData("SN: 2x4ths", "1 3")]
    [InlineData("SN: 8t@4", "4 4t 4l")]
    [InlineData("SN: 4ths -2 -4", "1 3")]
    [InlineData("SN: 8ths -@2-3", "1 1& 4 4&")]
    [InlineData("SN: 8ths -@3", "1 1& 2 2&")]
    [InlineData("SN: 2[3]", "2 2t 2l")]
    [InlineData("SN: 2[ 4 : 1, 3 - 4 ]", "2 2& 2a")]
    [InlineData("SN: 1[3/2]", "1 1l 2t")]
    [InlineData("SN: | 1 |", "1")]
    [InlineData("count triplet\nSN: 1 & a", "1 1t 1l")]
    [InlineData("SN:", "")]
    [InlineData("", "")]
    public void Places(string text, string? places)
    {
        var read = CountLines.Parse(text);
        read.HasErrors.ShouldBe(places is null, string.Join('\n', read.Problems));
        if (places is not null) string.Join(' ', read.Passage.Strokes.Select(s => CountNames.Place(s.At, Meter.CommonTime)))
            .ShouldBe(places);
    }

    [Theory]
    [InlineData("SN: 1", 1)]
    [InlineData("SN: 1 | 2", 2)]
    [InlineData("SN: 1 | | 2", 3)]
    [InlineData("SN: | | 2", 2)]
    [InlineData("SN: || 2", 1)]
    [InlineData("SN: 1 || 2 ||", 2)]
    [InlineData("SN: 1 | %x3", 4)]
    [InlineData("SN: 1 | %*", 1)]
    [InlineData("SN: 1 | %*\nBD: 1 | %x7", 8)]
    [InlineData("SN:", 1)]
    [InlineData("SN: -", 1)]
    [InlineData("# SN: 1", 0)]
    public void Bars(string text, int bars) => CountLines.Parse(text).Passage.Bars.ShouldBe(bars);

    [Theory]
    [InlineData("SN: 8ths> 2f | % -1 3", "1& 2f 2& 3 3& 4 4&")]
    [InlineData("SN: 2 | % (2a) | %", "2 2a")]
    [InlineData("SN: (8ths) | %x2", "1 1& 2 2& 3 3& 4 4&")]
    [InlineData("meter 4/4 2/4\nSN: 4ths | %", "1 2")]
    [InlineData("meter 2/4 4/4\nSN: 8ths | %", "1 1& 2 2& 3 3& 4 4&")]
    public void A_repeat_is_the_bar_before_read_in_its_own_meter(string text, string lastBar)
    {
        var passage = CountLines.Parse(text).Passage;
        var start = passage.Meters.StartOf(passage.Bars - 1);
        var places = passage.Strokes.Where(s => s.At >= start)
            .Select(s => CountNames.Place(s.At - start, passage.Meters.MeterOf(passage.Bars - 1))
            + (s.Ornaments.HasFlag(Ornaments.Flam) ? "f" : ""));
        string.Join(' ', places).ShouldBe(lastBar);
    }

    [Theory]
    [InlineData("SN: 2 5", 7, "counts 1 to 4")]
    [InlineData("SN: 0", 5, "counts 1 to 4")]
    [InlineData("SN: e 1", 5, "before any beat number")]
    [InlineData("SN: 2 1", 7, "goes back")]
    [InlineData("SN: 2 2", 7, "written twice")]
    [InlineData("SN: 2a 2a", 8, "written twice")]
    [InlineData("SN: 8ths@5", 5, "no such span")]
    [InlineData("SN: 8ths@3-2", 5, "no such span")]
    [InlineData("SN: 8ths@", 5, "from where")]
    [InlineData("SN: 99x8ths", 5, "sixty-fourth")]
    [InlineData("SN: -3", 5, "nothing of a run")]
    [InlineData("SN: 3 -3", 7, "nothing of a run")]
    [InlineData("SN: 8ths -", 10, "stands alone")]
    [InlineData("SN: 1 ?", 7, "stands alone")]
    [InlineData("SN: %", 5, "this is the first")]
    [InlineData("SN: 1 | %y", 9, "no repeat")]
    [InlineData("SN: 1 | %x2 3", 13, "single %")]
    [InlineData("SN: 1 | 3 %", 11, "comes first")]
    [InlineData("SN: 1 | %* | 2", 9, "up to the end")]
    [InlineData("meter 4/4 2/4\nSN: 4 | %", 9, "does not fit")]
    [InlineData("SN: (2 (3) 4", 8, "do not nest")]
    [InlineData("SN: 2) 3", 6, "closes nothing")]
    [InlineData("SN: (2", 5, "not closed")]
    [InlineData("SN: 1x", 6, "is no mark")]
    [InlineData("SN: 1{}", 6, "16 letters")]
    [InlineData("SN: 1{far too long a note}", 6, "16 letters")]
    [InlineData("SN: 1~", 6, "loose hat")]
    [InlineData("HH: 1o~", 7, "not both")]
    [InlineData("SN: 1RL", 7, "one hand")]
    [InlineData("EN: 1R", 6, "no hands")]
    [InlineData("SN: 1z_", 7, "to which the stroke lasts")]
    [InlineData("SN: 2[11]", 5, "2 to 10")]
    [InlineData("SN: 4[3/2]", 5, "does not fit")]
    [InlineData("SN: 1[5:6]", 5, "strokes 1 to 5")]
    [InlineData("SN: 4a':", 5, "past the bar line")]
    [InlineData("count triplet\nSN: 1e", 5, "1 & a")]
    [InlineData("pickup 3\nSN: 2", 5, "before the pickup")]
    [InlineData("SN: 2\nSN: 2", 5, "Another line")]
    [InlineData("XX: 1", 1, "is no voice")]
    [InlineData("P1: 1", 1, "not introduced")]
    [InlineData("2 4", 1, "neither a voice line")]
    [InlineData("meter 4/5", 7, "is no meter")]
    [InlineData("meter", 1, "Which meter")]
    [InlineData("tempo 10", 7, "20 to 400")]
    [InlineData("tempo 3/0=60", 7, "20 to 400")]
    [InlineData("feel swing 90%", 12, "is no feel")]
    [InlineData("count quintuplet", 7, "standard")]
    [InlineData("hands both", 7, "right, left or open")]
    [InlineData("pickup 9", 8, "place of the first bar")]
    [InlineData("voice P1 gong", 7, "a name, a comma")]
    [InlineData("tempo 96\ntempo 97", 1, "stands already in line 1")]
    public void A_mistake_is_told_at_its_place_with_the_remedy(string text, int column, string told)
    {
        var problem = CountLines.Parse(text).Problems.ShouldHaveSingleItem();
        problem.Severity.ShouldBe(Severity.Error);
        problem.At.Line.ShouldBe(text.Count(c => c == '\n') + 1);
        problem.At.Column.ShouldBe(column);
        problem.Message.ShouldContain(told);
    }

    [Fact]
    public void All_mistakes_are_told_in_the_order_in_which_they_stand()
    {
        var problems = CountLines.Parse("tempo 0\nSN: 1 9 zz\nQQ: 1\nHH: 8ths").Problems;
        problems.Select(p => p.At.Line).ShouldBe([1, 2, 2, 3]);
        CountLines.Parse("tempo 0\nSN: 1 9 zz\nQQ: 1\nHH: 8ths").Passage.Strokes.Count.ShouldBe(9);
    }

    [Theory]
    [InlineData("title  The long way  # round", "The long way")]
    [InlineData("TITLE: x", "x")]
    [InlineData("title", null)]
    public void A_title(string text, string? title) => CountLines.Parse(text).Title.ShouldBe(title);

    [Fact]
    public void Directives_hold_for_the_whole_text_wherever_they_stand()
    {
        var passage = CountLines.Parse("SN: 7\nfeel half-time swing 16ths 58%\nhands open\nmeter 7/8\ntempo 1/2=60").Passage;
        passage.Meters.ToString().ShouldBe("7/8");
        passage.Tempo!.Value.Value.ShouldBe(120);
        passage.Feel.ShouldBe(new Feel(true, true, 0.58, FeelTime.Half));
        passage.Hands.ShouldBe(Handedness.Open);
    }

    [Fact]
    public void Windows_line_ends_a_byte_order_mark_and_tabs_are_accepted() =>
        CountLines.Parse("\uFEFFmeter 3/4\r\nSN:\t1 2\r\n").Problems.ShouldBeEmpty();

    [Fact]
    public void A_text_over_the_limit_is_told_and_its_beginning_still_read()
    {
        var read = CountLines.Parse("SN: 2 4\n" + new string('#', 70_000));
        read.Problems.Single().Message.ShouldContain("64 KiB");
        read.Passage.Strokes.Count.ShouldBe(2);
    }

    [Theory]
    [InlineData("HH: 8ths@1-3", "Hat on every eighth from 1 up to the & of 3.")]
    [InlineData("SN: 2> 4>", "Snare on 2 and 4, accented.")]
    [InlineData("SN: (2a 3e)", "Snare ghosts on the a of 2 and the e of 3.")]
    [InlineData("BD: 1 3&?", "Kick on 1, perhaps on the & of 3.")]
    [InlineData("CR: 1c*", "Crash on 1, choked on 1, optional on 1.")]
    [InlineData("HF: 1o 3", "Hat foot on 1 and 3, splashed on 1.")]
    [InlineData("SN: 1 | - | 1", "Snare on 1 in bars 1 and 3.")]
    [InlineData("SN: 1 | % | % | 2", "Snare on 1 in bars 1 to 3; on 2 in bar 4.")]
    [InlineData("BD: ?", "Kick not heard.")]
    [InlineData("SN: 2[5:1,2]", "Snare on 2 and stroke 2 of 5 in beat 2.")]
    [InlineData("SN: 3e'", "Snare on just after the e of 3.")]
    public void Words(string text, string words) => ReadBack.Of(CountLines.Parse(text).Passage).ShouldBe([words]);

    [Theory]
    [InlineData("HH: 8ths -4& 4>\nBD: 1 3&", "HH: 8ths -4& 4>\nBD: 1 3&\n")]
    [InlineData("SN: 1 2 3 4", "SN: 4ths\n")]
    [InlineData("SN: (1) (e) 2", "SN: (1 e) 2\n")]
    [InlineData("meter 9/8\nSN: 8trip", "meter 9/8\nSN: 8trip\n")]
    [InlineData("feel swing 16ths 58%\nhands left\npickup 4\nSN: 4", "feel swing 16ths 58%\npickup 4\nhands left\nSN: 4\n")]
    [InlineData("voice P2 slap board, kick, foot\nP2: 1", "voice P2 slap board, kick, foot\nP2: 1\n")]
    [InlineData("SN: 1z_3", "SN: 1z_3\n")]
    [InlineData("HH: ? | 8ths", "HH: ? | 8ths\n")]
    [InlineData("SN: 2[7:3]{rim}", "SN: 2[7:3]{rim}\n")]
    public void Canonical(string text, string canonical) => CountWriter.Write(CountLines.Parse(text).Passage).ShouldBe(canonical);

    [Theory]
    [InlineData("1.1", 0)]
    [InlineData("2.3&", 65520)]
    [InlineData("3e", 22680)]
    [InlineData(" 2.1 ", 40320)]
    [InlineData("3.1", null)]
    [InlineData("1.5", null)]
    [InlineData("one", null)]
    [InlineData("1.e", null)]
    public void A_place_as_bar_and_count(string text, int? tick) =>
        Excerpt.Place(CountLines.Parse("SN: 1 | 1").Passage, text).ShouldBe(tick is { } t ? new Tick(t) : null);

    [Theory]
    [InlineData(10080, "a quarter")]
    [InlineData(15120, "three eighths")]
    [InlineData(3360, "a triplet eighth")]
    [InlineData(2520, "a sixteenth")]
    [InlineData(1260, "a 32nd")]
    [InlineData(2016, "1/5 of a quarter")]
    public void Lengths(int ticks, string said) => CountNames.Length(new(ticks)).ShouldBe(said);

    [Theory]
    [InlineData("SN: 2 f4", "SN: 2 4f")]
    [InlineData("HH: 1 o4&", "HH: 1 4&o")]
    [InlineData("SN: >2 >f4", "SN: 2> 4>f")]
    public void Marks_that_stand_before_their_count_come_after_it(string typed, string meant) => Fixing.Fixed(typed).ShouldBe(meant);
}
