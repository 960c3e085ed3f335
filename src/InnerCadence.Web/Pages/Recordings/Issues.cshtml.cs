using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>An issue as typed.</summary>
public sealed class IssueInput
{
    public string? Label { get; set; }
    public string? Number { get; set; }
    public string? Transfer { get; set; }
    public string? Issued { get; set; }
    public string? Speed { get; set; }
    public string? Offset { get; set; }
    public string? Note { get; set; }
}

/// <summary>A span of bars and who drums in it, as typed.</summary>
public sealed class DrummedInput
{
    public string? Player { get; set; }
    public string? Sure { get; set; } = Certainty.Certain.Word;
    public string? Bars { get; set; }
    public string? Note { get; set; }
}

/// <summary>Under which numbers a recording is to be had, how their clocks run against it, and who drums where.</summary>
public sealed class IssuesModel(StudyStore studies, RecordingStore recordings, TimelineStore timelines, AttributionStore attributions)
    : RecordingPage(studies, recordings, timelines)
{
    [BindProperty]
    public IssueInput Issue { get; set; } = new();

    [BindProperty]
    public DrummedInput Drummed { get; set; } = new();

    public IReadOnlyList<IssueRow> Issues { get; private set; } = [];
    public IReadOnlyList<DrummedRow> Spans { get; private set; } = [];

    /// <summary>A clock time of the recording, or of one of its issues, to be told in all of them.</summary>
    public string? Clock { get; private set; }
    public IssueId? ClockOf { get; private set; }
    public ClockTime? At { get; private set; }

    public async Task<IActionResult> OnGetAsync(RecordingId recording, string? clock, IssueId? of, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        (Clock, ClockOf) = (clock, of);
        if (ClockTime.Parse(clock ?? "") is { } at) At = Issues.FirstOrDefault(i => i.Id == of) is { } issue ? issue.Clock.OnRecording(at)
            : at;
        return Page();
    }

    public async Task<IActionResult> OnPostIssueAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (IssueText.Read(Issue.Label, Issue.Number, Issue.Transfer, Issue.Issued, Issue.Speed, Issue.Offset, Issue.Note,
            (field, message) => ModelState.AddModelError("Issue." + field, message)) is not { } draft) return Again();
        await attributions.AddIssueAsync(recording, draft, stop);
        return Redirect($"/recordings/{recording}/issues");
    }

    public async Task<IActionResult> OnPostRemoveIssueAsync(RecordingId recording, IssueId issue, CancellationToken stop)
    {
        if (await attributions.RemoveIssueAsync(recording, issue, stop) is { } gone)
        {
            string Part(string name, string value) => $"&Issue.{name}={Uri.EscapeDataString(value)}";
            Tell($"{gone.Name} is taken out.", $"/recordings/{recording}/issues?handler=Issue" + Part("Label", gone.Label)
                + Part("Number", gone.Number) + Part("Transfer", gone.Transfer) + Part("Issued", gone.Issued?.ToString() ?? "")
                + Part("Speed", (gone.Speed * 100).ToString("0.####", CultureInfo.InvariantCulture))
                    + Part("Offset", (gone.OffsetMs / 1000.0).ToString("0.###", CultureInfo.InvariantCulture)) + Part("Note", gone.Note));
        }
        return Redirect($"/recordings/{recording}/issues");
    }

    public async Task<IActionResult> OnPostSpanAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        var player = Study.Players.FirstOrDefault(p => p.Id.ToString() == Drummed.Player);
        if (player is null) ModelState.AddModelError("Drummed.Player", "Choose one of the study’s players.");
        var sure = ModelState.Choice<Certainty>("Drummed.Sure", Drummed.Sure);
        var note = ModelState.Text("Drummed.Note", Drummed.Note);
        var span = Typed.BarSpan(Drummed.Bars, Recording.TotalBars ?? UploadLimits.Bars);
        if (span is null) ModelState.AddModelError("Drummed.Bars",
            $"Write bars of the recording, such as 33-64; it has "
            + $"{(Recording.TotalBars is { } t ? Words.Bars(t) : "an unknown number of bars")}.");
        if (!ModelState.IsValid) return Again();
        await attributions.AddSpanAsync(recording, player!.Id, sure, span!.Value.First, span.Value.Last - span.Value.First + 1, note, stop);
        return Redirect($"/recordings/{recording}/issues");
    }

    public async Task<IActionResult> OnPostRemoveSpanAsync(RecordingId recording, DrummedId span, CancellationToken stop)
    {
        if (await attributions.RemoveSpanAsync(recording, span, stop) is { } gone)
            Tell(
                $"Bars {gone.FromBar} to {gone.FromBar + gone.Bars - 1} are taken out.",
                $"/recordings/{recording}/issues?handler=Span&Drummed.Player={gone.PlayerId}&Drummed.Sure={gone.Sure}&Drummed.Bars="
                    + $"{gone.FromBar}-{gone.FromBar + gone.Bars - 1}&Drummed.Note={Uri.EscapeDataString(gone.Note)}");
        return Redirect($"/recordings/{recording}/issues");
    }

    private async Task<bool> FindAsync(RecordingId id, CancellationToken stop)
    {
        if (!await FindRecordingAsync(id, stop)) return false;
        (Issues, Spans) = (await attributions.IssuesAsync(id, stop), await attributions.SpansAsync(id, stop));
        return true;
    }
}
