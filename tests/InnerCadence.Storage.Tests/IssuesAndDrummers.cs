using InnerCadence.Core.Evidence;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Storage.Tests;

/// <summary>Issues of a recording and who drums where, as they are typed and kept.</summary>
public class IssuesAndDrummers : StorageTests
{
    [Fact]
    public async Task An_issue_is_kept_with_its_clock_and_can_be_put_in_again()
    {
        var recording = await RecordAsync("Piece", 64);
        await Attributions.AddIssueAsync(recording, Read("Saltgate Sound", "SG 1", "101.8", "1.4")!, Stop);
        var issue = (await Attributions.IssuesAsync(recording, Stop)).Single();
        issue.Name.ShouldBe("Saltgate Sound SG 1");
        issue.Clock.ShouldBe(new IssueClock(1.018, 1400));
        (await Attributions.RemoveIssueAsync(await RecordAsync("Other", 64), issue.Id, Stop)).ShouldBeNull("it is another recording’s");
        (await Attributions.RemoveIssueAsync(recording, issue.Id, Stop))!.OffsetMs.ShouldBe(1400);
        (await Attributions.IssuesAsync(recording, Stop)).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("", "", "", "", "Label")]
    [InlineData("a", "", "fast", "", "Speed")]
    [InlineData("a", "", "300", "", "Speed")]
    [InlineData("a", "", "", "late", "Offset")]
    [InlineData("a", "", "", "99999", "Offset")]
    public void What_cannot_be_is_told_beside_its_field(string label, string number, string speed, string offset, string field)
    {
        var told = new List<string>();
        IssueText.Read(label, number, "", "", speed, offset, "", (at, message) => told.Add($"{at}: {message}")).ShouldBeNull();
        told.ShouldHaveSingleItem().ShouldStartWith(field);
    }

    [Fact]
    public async Task Spans_of_another_drummer_are_kept_in_the_order_of_bars()
    {
        var recording = await RecordAsync("Piece", 64);
        var study = (await Studies.FindAsync(Study, Stop))!;
        await Attributions.AddSpanAsync(recording, study.Comparison.Single().Id, Certainty.Likely, 33, 8, "overdub", Stop);
        await Attributions.AddSpanAsync(recording, study.Subject.Id, Certainty.Disputed, 9, 4, "", Stop);
        var spans = await Attributions.SpansAsync(recording, Stop);
        spans.Select(s => (s.FromBar, s.Player, s.Sure.Word)).ShouldBe([(9, "Nell Tarrow", "disputed"), (33, "Oda Finch", "likely")]);
        (await Attributions.RemoveSpanAsync(recording, spans[1].Id, Stop))!.Note.ShouldBe("overdub");
    }

    private static IssueDraft? Read(string label, string number, string speed, string offset) =>
        IssueText.Read(label, number, "", "1965", speed, offset, "", (field, message) =>
            throw new InvalidOperationException($"{field}: {message}"));
}
