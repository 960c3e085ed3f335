using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>One idea: how often it appears, and every place where it does.</summary>
public sealed class ShowModel(
    Storage.Studies studies, Storage.Ideas ideas, Storage.Sightings sightings, EvidenceOfIdeas evidence, Lineages lineages, HeardSightings heard) : StudyPage(studies)
{
    public IdeaRow Idea { get; private set; } = null!;
    public Concordance Concordance { get; private set; } = null!;
    public IReadOnlyList<IdeaInRecording> ByRecording { get; private set; } = [];
    public Answer Answer { get; private set; } = null!;
    public IReadOnlyList<(Player Player, Answer Answer)> Others { get; private set; } = [];
    public SightingId? FirstWaiting { get; private set; }
    public SightingView? First { get; private set; }
    public int EarlierWithout { get; private set; }
    public int Outside { get; private set; }
    public int Rejected { get; private set; }
    public IReadOnlyList<PinRow> Pins { get; private set; } = [];
    public IReadOnlyList<HeardRow> Heard { get; private set; } = [];
    public IReadOnlyList<SourceRow> Sources { get; private set; } = [];
    public IReadOnlyList<Descent> Descents { get; private set; } = [];
    public IReadOnlyList<IdeaRow> AllIdeas { get; private set; } = [];
    public IReadOnlyList<Recording> AllRecordings { get; private set; } = [];
    public string? Group { get; private set; }
    /// <summary>What was typed into a part of the page that could not be kept.</summary>
    [BindProperty]
    public IdeaPart Typed { get; set; } = new();
    public string? ShowOnly { get; private set; }
    public string? Sort { get; private set; }
    public RecordingId? Recording { get; private set; }
    public PlayerId? Player { get; private set; }

    /// <summary>How many sightings the filter lets through, and which page of them is shown.</summary>
    public int Shown { get; private set; }
    public int PageNumber { get; private set; }
    public const int PageRows = 40;

    /// <summary>What is shown, in words, when not everything is.</summary>
    public string? Filter { get; private set; }

    public string Svg => With() + (With().Contains('?') ? "&" : "?") + "handler=Svg";
    public string SheetAs(string format) => With() + (With().Contains('?') ? "&" : "?") + $"handler=Sheet&format={format}";

    public async Task<IActionResult> OnGetAsync(IdeaId idea, string? show, string? sort, RecordingId? recording, PlayerId? player, string? group, CancellationToken stop, [FromQuery(Name = "page")] int page = 1) =>
        await ReadAsync(idea, show, sort, recording, player, group, page, false, stop) ? Page() : NotFound();

    /// <summary>The concordance as a table to take away.</summary>
    public async Task<IActionResult> OnGetSheetAsync(IdeaId idea, string? show, string? sort, RecordingId? recording, PlayerId? player, string? group, string? format, CancellationToken stop)
    {
        if (!Sheet.Formats.Contains(format) || !await ReadAsync(idea, show, sort, recording, player, group, 1, true, stop)) return NotFound();
        return File(Concordance.AsSheet().As(format!), Sheet.MediaOf(format!), $"sightings.{format}");
    }

    /// <summary>The concordance as a picture of its own.</summary>
    public async Task<IActionResult> OnGetSvgAsync(IdeaId idea, string? show, string? sort, RecordingId? recording, PlayerId? player, string? group, CancellationToken stop)
    {
        if (!await ReadAsync(idea, show, sort, recording, player, group, 1, true, stop)) return NotFound();
        return File(System.Text.Encoding.UTF8.GetBytes(Drawing.StandaloneSvg.Of(Concordance.Whole(Idea.Nickname))), "image/svg+xml", "concordance.svg");
    }

    public async Task<IActionResult> OnPostLinkAsync(IdeaId idea, CancellationToken stop)
    {
        if (!await ReadAsync(idea, null, null, null, null, null, 1, false, stop)) return NotFound();
        if (Typed.Of is not { } of || !Lineage.Kinds.Contains(Typed.Kind ?? "")) return Refuse("Choose an idea and how this one comes from it.");
        return await lineages.LinkAsync(idea, of, Typed.Kind!, stop) ? Redirect($"/ideas/{idea}#lineage")
            : Refuse("That would make an idea its own ancestor: take the other link away first.");
    }

    public async Task<IActionResult> OnPostUnlinkAsync(IdeaId idea, IdeaId of, CancellationToken stop)
    {
        await lineages.UnlinkAsync(idea, of, stop);
        return Redirect($"/ideas/{idea}#lineage");
    }

    public async Task<IActionResult> OnPostBorrowAsync(IdeaId idea, CancellationToken stop)
    {
        if (!await ReadAsync(idea, null, null, null, null, null, 1, false, stop)) return NotFound();
        var who = ModelState.Text("Typed.Who", Typed.Who, "Whom was it borrowed from? Write a name.");
        var dated = ModelState.Date("Typed.Dated", Typed.Dated);
        var note = ModelState.Text("Typed.BorrowNote", Typed.BorrowNote, most: Limits.Note);
        if (!ModelState.IsValid) return Again();
        await lineages.BorrowAsync(idea, who, dated, note, stop);
        return Redirect($"/ideas/{idea}#lineage");
    }

    public async Task<IActionResult> OnPostReturnAsync(IdeaId idea, long source, CancellationToken stop)
    {
        await lineages.ReturnAsync(idea, source, stop);
        return Redirect($"/ideas/{idea}#lineage");
    }

    public async Task<IActionResult> OnPostHeardAsync(IdeaId idea, CancellationToken stop)
    {
        if (!await ReadAsync(idea, null, null, null, null, null, 1, false, stop)) return NotFound();
        var at = ModelState.Clock("Typed.At", Typed.At);
        var bar = ModelState.Number("Typed.Bar", Typed.Bar, 1, Limits.Bars, "a bar");
        var note = ModelState.Text("Typed.HeardNote", Typed.HeardNote, most: Limits.Note);
        if (ModelState.IsValid && at is null && bar is null) ModelState.AddModelError("Typed.At", "Where was it heard? Write a clock time or a bar.");
        if (!ModelState.IsValid) return Again();
        if (Typed.Recording is not { } recording || !await heard.AddAsync(idea, recording, at, bar, note, stop)) return Refuse("Choose a recording of this study.");
        return Redirect($"/ideas/{idea}#heard");
    }

    public async Task<IActionResult> OnPostUnheardAsync(IdeaId idea, long id, CancellationToken stop)
    {
        await heard.RemoveAsync(idea, id, stop);
        return Redirect($"/ideas/{idea}#heard");
    }

    public async Task<IActionResult> OnPostUnpinAsync(IdeaId idea, PassageId passage, CancellationToken stop)
    {
        await lineages.UnpinAsync(idea, passage, stop);
        return Redirect($"/ideas/{idea}#pins");
    }

    private Microsoft.AspNetCore.Mvc.RazorPages.PageResult Refuse(string why)
    {
        ModelState.AddModelError("", why);
        return Again();
    }

    /// <summary>The address of this page with one of its filters changed.</summary>
    public string With(string? sort = null, RecordingId? recording = null, int? page = null, string? grouped = null)
    {
        var parts = new List<string>();
        if (page is not null) parts.Add($"page={page}");
        if (ShowOnly is not null && recording is null) parts.Add($"show={ShowOnly}");
        if ((grouped ?? Group) is { Length: > 0 } groups) parts.Add($"group={groups}");
        if ((sort ?? Sort) is { } by) parts.Add($"sort={by}");
        if ((recording ?? Recording) is { } id) parts.Add($"recording={id}");
        if (Player is { } player && recording is null) parts.Add($"player={player}");
        return $"/ideas/{Idea.Id}{(parts.Count > 0 ? "?" + string.Join('&', parts) : "")}{(sort is null && recording is null && page is null && grouped is null ? "" : "#concordance")}";
    }

    private async Task<bool> ReadAsync(IdeaId id, string? show, string? sort, RecordingId? recording, PlayerId? player, string? group, int page, bool whole, CancellationToken stop)
    {
        if (await ideas.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        (Idea, Recording, Player) = (found, recording, player);
        ShowOnly = show is "confirmed" or "near-miss" or "waiting" or "rejected" ? show : null;
        Sort = sort is Concordance.ByTempo or Concordance.ByPlace or Concordance.ByVerdict or Concordance.ByDate ? sort : null;

        var all = await sightings.OfIdeaAsync(id, stop);
        ByRecording = await evidence.ByRecordingAsync(found, stop);
        Pins = await lineages.PinsAsync(id, stop);
        Heard = await heard.OfIdeaAsync(id, stop);
        Sources = await lineages.SourcesAsync(id, stop);
        Descents = await lineages.OfStudyAsync(found.StudyId, stop);
        AllIdeas = await ideas.OfStudyAsync(found.StudyId, stop);
        AllRecordings = [.. ByRecording.Select(r => r.Recording)];
        Answer = Answer.Of(ByRecording.Where(r => r.Recording.BySubject).Select(r => r.Evidence));
        Others = [.. Study.Comparison.Select(player => (player, Answer.Of(ByRecording.Where(r => r.Recording.PlayerId == player.Id).Select(r => r.Evidence))))];
        Outside = ByRecording.Sum(r => r.Evidence.Outside);
        Rejected = all.Count(s => s.Judgement == "rejected");
        FirstWaiting = Judging.Next(all, []);
        First = SightingView.Of(all.Where(s => s is { Judgement: "confirmed", BySubject: true, RecordedFrom: not null }).Take(1)).FirstOrDefault();
        if (First is { } first)
            EarlierWithout = ByRecording.Count(r => r.Recording.BySubject && r.Evidence.IsSearched(Answer.UsualShare) && r.Evidence.Confirmed == 0 && r.Recording.RecordedTo < first.Row.RecordedFrom);

        List<SightingRow> shown = [.. all.Where(s => (ShowOnly is null || (ShowOnly == "waiting" ? s.IsWaiting : s.Judgement == ShowOnly))
            && (recording is null || s.RecordingId == recording) && (player is null || s.PlayerId == player))];
        (Shown, PageNumber) = (shown.Count, Math.Clamp(page, 1, Math.Max(1, (shown.Count + PageRows - 1) / PageRows)));
        Group = group is "verdict" or "recording" or "year" ? group : null;
        var sorted = Concordance.Grouped(Concordance.Sorted(shown, Sort), Group);
        Concordance = new(found, whole ? [.. sorted] : [.. sorted.Skip((PageNumber - 1) * PageRows).Take(PageRows)]);
        string?[] filters = [
            ShowOnly?.Replace('-', ' '), ByRecording.FirstOrDefault(r => r.Recording.Id == recording)?.Recording.Name, Study.Players.FirstOrDefault(p => p.Id == player)?.Name,
        ];
        Filter = filters.Any(f => f is not null) ? string.Join(", ", filters.Where(f => f is not null)) : null;
        return true;
    }
}

/// <summary>The small forms of an idea's page as typed.</summary>
public sealed class IdeaPart
{
    public IdeaId? Of { get; set; }
    public string? Kind { get; set; }
    public string? Who { get; set; }
    public string? Dated { get; set; }
    public string? BorrowNote { get; set; }
    public RecordingId? Recording { get; set; }
    public string? At { get; set; }
    public string? Bar { get; set; }
    public string? HeardNote { get; set; }
}
