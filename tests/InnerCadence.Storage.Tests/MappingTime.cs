using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Storage.Tests;

/// <summary>Forms, marks and what was searched by the clock, as they are kept.</summary>
public class MappingTime : StorageTests
{
    [Fact]
    public async Task A_form_says_how_many_bars_there_are_where_nobody_did()
    {
        var (open, said) = (await RecordAsync("Slack Water", null), await RecordAsync("Lee Shore", 40));
        foreach (var id in new[] { open, said }) await Timelines.SaveFormAsync(id, "intro 4, verse 16", 1, Stop, 20);
        (await Recordings.FindAsync(open, Stop))!.TotalBars.ShouldBe(20);
        (await Recordings.FindAsync(said, Stop))!.TotalBars.ShouldBe(40);
    }

    [Theory]
    [InlineData(null, "0:30.0", 15)]
    [InlineData(null, "0:33.4", 17)]
    [InlineData(30, "0:30.0", 30)]
    public async Task Marks_that_reach_the_end_say_how_many_bars_there_are_where_nobody_did(int? said, string length, int bars)
    {
        var id = await RecordAsync("Slack Water", said, lasting: ClockTime.Parse(length));
        await Timelines.SaveMarksAsync(id, [new(1, new(0)), new(5, new(8000))], 1, Stop);
        (await Recordings.FindAsync(id, Stop))!.TotalBars.ShouldBe(said, "two marks near the start say nothing of the end");
        await Timelines.SaveMarksAsync(id, [new(1, new(0)), new(5, new(8000)), new(15, new(28000))], 2, Stop);
        (await Recordings.FindAsync(id, Stop))!.TotalBars.ShouldBe(bars);
    }

    [Fact]
    public async Task What_was_searched_by_the_clock_gets_its_bars_when_bars_are_marked_and_follows_when_they_move()
    {
        var id = await RecordAsync("Piece", 64);
        await Coverages.AddAsync(id, new CoverageDraft(Closeness.Listened, null, 10, [],
            new(2026, 5, 1))
        { Clock = (new(8000), new(24000)), ByWhom = "me" }, Stop);
        (await Timelines.SaveMarksAsync(id, [new(1, new(0)), new(9, new(16000))], 1, Stop)).ShouldBeTrue();
        var row = (await Coverages.OfRecordingAsync(id, Stop)).Single();
        (row.FromBar, row.Bars, row.ByWhom).ShouldBe((5, 8, "me"));

        (await Timelines.SaveMarksAsync(id, [new(1, new(0)), new(9, new(32000))], 2, Stop)).ShouldBeTrue();
        row = (await Coverages.OfRecordingAsync(id, Stop)).Single();
        (row.FromBar, row.Bars).ShouldBe((3, 4));

        (await Timelines.SaveMarksAsync(id, [], 2, Stop)).ShouldBeFalse("another tab saved meanwhile");
        (await Timelines.OfAsync((await Recordings.FindAsync(id, Stop))!, Stop)).Marks.Count.ShouldBe(2);
    }

    [Fact]
    public async Task A_form_gives_sections_and_places_and_a_stop_moves_what_comes_after()
    {
        var id = await RecordAsync("Piece", 40);
        await Timelines.SaveFormAsync(id, "intro 4, verse 16, stop of 2 beats, chorus 8 @ 0:41", 1, Stop);
        var timeline = await Timelines.OfAsync((await Recordings.FindAsync(id, Stop))!, Stop);
        timeline.Map!.ClockOf(21).ShouldBe(new ClockTime(40000), "two beats before the chorus at 120");
        var placed = timeline.Place(new() { Kind = PassageKind.Fill, Text = "", Bars = 0, StartsAt = new(45000) });
        (placed.Bar, placed.Section).ShouldBe((24, "chorus"));
        timeline.Place(new() { Kind = PassageKind.Fill, Text = "", Bars = 0, Bar = 5, Section = "mine" })
            .ShouldBe(new() { Kind = PassageKind.Fill, Text = "", Bars = 0, Bar = 5, StartsAt = new(8000), Section = "mine" });
    }

    [Fact]
    public async Task A_removed_span_can_be_put_in_again_and_is_not_removed_under_another_tab()
    {
        var id = await RecordAsync("Piece", 40);
        var idea = await NameAsync("patter", "SN: 1 e & a");
        await Coverages.AddAsync(id, new(Closeness.Skimmed, 3, 4, [idea], new(2026, 5, 1)), Stop);
        var row = (await Coverages.OfRecordingAsync(id, Stop)).Single();
        (await Coverages.RemoveAsync(id, row.Id, row.Version + 1, Stop)).ShouldBeNull();
        (await Coverages.RemoveAsync(id, row.Id, row.Version, Stop))!.Ideas.ShouldBe(["patter"]);
        (await Coverages.OfRecordingAsync(id, Stop)).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("1 0:00\n9 0:16", 2)]
    [InlineData("9 0:16; 1 0:00.5", 2)]
    [InlineData("", 0)]
    public void Marks_are_read_in_any_order(string text, int count) =>
        BarMarks.Read(text, m => throw new InvalidOperationException(m))!.Count.ShouldBe(count);

    [Theory]
    [InlineData("nine 0:16", "is no mark")]
    [InlineData("1 0:10\n5 0:05", "does not come after")]
    [InlineData("1 0:10\n1 0:11", "stands twice")]
    [InlineData("0 0:10", "is no mark")]
    public void Marks_that_cannot_be_are_told(string text, string told)
    {
        var said = "";
        BarMarks.Read(text, m => said = m).ShouldBeNull();
        said.ShouldContain(told);
    }

    [Fact]
    public void Marks_that_were_typed_stay_and_only_those_that_fit_them_are_added()
    {
        BarMark[] typed = [new(1, new(0)), new(5, new(8000))];
        BarMarks.Fitting(typed, [new(3, new(9000)), new(5, new(7000)), new(6, new(9900)), new(7, new(9500)), new(8, new(14000))])
            .ShouldBe([new(6, new(9900)), new(8, new(14000))]);
        BarMarks.Fitting(typed, [new(2, new(2000)), new(4, new(6000))]).Count.ShouldBe(2);
        BarMarks.Fitting([], [new(1, new(5000)), new(2, new(4000))]).ShouldBe([new(1, new(5000))]);
    }
}
