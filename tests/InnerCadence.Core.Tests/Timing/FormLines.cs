using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Timing;

/// <summary>Form lines as people say them.</summary>
public class FormLines
{
    [Theory]
    [InlineData("Verse 16", "verse 1-16")]
    [InlineData("verse: 16 bars", "verse 1-16")]
    [InlineData("pre-chorus 4, guitar solo 12", "pre-chorus 1-4 | guitar solo 5-16")]
    [InlineData("verse 2 8", "verse 2 1-8")]
    [InlineData("verse 2: 8", "verse 2 1-8")]
    [InlineData("chorus 8 x2", "chorus 1 1-8 | chorus 2 9-16")]
    [InlineData("verse 8; chorus 8\nbridge 4.", "verse 1-8 | chorus 9-16 | bridge 17-20")]
    [InlineData("stop of 1 beat, verse 4", "stop 1-1 | verse 2-5")]
    [InlineData("intro 1, , verse 2,", "intro 1-1 | verse 2-3")]
    public void Sections_get_their_bars(string text, string expected)
    {
        var form = Form.Parse(text, MeterCycle.CommonTime);
        form.Problems.ShouldBeEmpty();
        string.Join(" | ", form.Sections.Select(s => $"{s.Name} {s.FirstBar}-{s.LastBar}")).ShouldBe(expected);
    }

    [Fact]
    public void An_odd_bar_counts_in_the_recordings_own_beat()
    {
        var sevens = new MeterCycle([Meter.Parse("7/8")!]);
        new BarGrid(sevens, Form.Parse("verse 2, stop of 3 beats", sevens).Sections).MeterOf(3).ToString().ShouldBe("3/8");
    }

    [Fact]
    public void Meters_in_turn_go_on_after_the_last_section_as_the_recording_says()
    {
        var cycle = new MeterCycle([Meter.Parse("5/8")!, Meter.Parse("7/8")!]);
        var grid = new BarGrid(cycle, Form.Parse("theme 4, bridge 2 of 4/4", cycle).Sections);
        Enumerable.Range(1, 9).Select(bar => grid.MeterOf(bar).ToString())
            .ShouldBe(["5/8", "7/8", "5/8", "7/8", "4/4", "4/4", "5/8", "7/8", "5/8"]);
        grid.StartOf(9).ShouldBe(2 * 6 + 8 + 6);
    }

    [Fact]
    public void The_clock_of_a_section_is_a_mark_of_its_first_bar()
    {
        var form = Form.Parse("intro 4 @ 0:02, verse 8 @ 0:10", MeterCycle.CommonTime);
        form.Sections.Select(s => s.At).ShouldBe([new ClockTime(2000), new ClockTime(10000)]);
        form.SectionOf(13).ShouldBeNull();
        form.Bars.ShouldBe(12);
    }

    [Fact]
    public void A_form_too_long_is_told_and_its_beginning_counts()
    {
        var form = Form.Parse(string.Join(", ", Enumerable.Repeat("verse 99999", 3)), MeterCycle.CommonTime);
        form.Bars.ShouldBe(99_999);
        form.Problems.Count.ShouldBe(2);
        Form.Parse(new string('x', Form.MostLength + 1), MeterCycle.CommonTime).Problems[0].Message.ShouldContain("at most");
    }
}
