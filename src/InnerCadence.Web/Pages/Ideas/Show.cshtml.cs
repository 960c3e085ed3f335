using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Telling;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>One idea: how often it appears, and every place where it does.</summary>
public sealed class IdeaModel(
    StudyStore studies, IdeaStore ideas, SightingStore sightings, PlacesOfIdeas places, EvidenceOfIdeas evidence, LineageStore lineages,
        HeardStore heard, CoverageStore coverages, SoundStore sounds, LookedIdeas lookedIdeas) : StudyPage(studies)
{
    public IdeaRow Idea { get; private set; } = null!;
    public Concordance Concordance { get; private set; } = null!;
    /// <summary>What the ear looked through for it, kind by kind, in words.</summary>
    public IReadOnlyList<string> Looked { get; private set; } = [];
    /// <summary>Recordings whose sound can be heard here.</summary>
    public IReadOnlySet<RecordingId> Sounding { get; private set; } = new HashSet<RecordingId>();
    public IReadOnlyList<IdeaInRecording> ByRecording { get; private set; } = [];
    public Answer Answer { get; private set; } = null!;
    public IReadOnlyList<(Player Player, Answer Answer)> Others { get; private set; } = [];
    public SightingId? FirstWaiting { get; private set; }
    public FirstOnRecord First { get; private set; } = null!;
    /// <summary>All players together.</summary>
    public Answer Everybody { get; private set; } = null!;
    /// <summary>What it is, before any number: how often, where, when.</summary>
    public IReadOnlyList<string> Sentences { get; private set; } = [];
    /// <summary>Listened to for everything before the idea had its name.</summary>
    public IReadOnlyList<CoverageRow> Before { get; private set; } = [];
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
    public PlaceQuery Query { get; private set; } = null!;
    public string? Sort { get; private set; }

    /// <summary>The places that the filter lets through, a page of them.</summary>
    public PageOfList<ListedPlace> List { get; private set; } = null!;
    public const int PageRows = 40;

    public int ShownRecordings { get; private set; }

    public string Svg => With() + (With().Contains('?') ? "&" : "?") + "handler=Svg";
    public string SheetAs(string format) => With() + (With().Contains('?') ? "&" : "?") + $"handler=Sheet&format={format}";

    public async Task<IActionResult> OnGetAsync(IdeaId idea, string? sort, string? group, CancellationToken stop, string? after = null,
        string? before = null, [FromQuery(Name = "page")] int page = 1) =>
        await ReadAsync(idea, sort, group, false, stop, after, before, page) ? Page() : NotFound();

    /// <summary>The concordance as a table to take away.</summary>
    public async Task<IActionResult> OnGetSheetAsync(IdeaId idea, string? sort, string? group, string? format, CancellationToken stop)
    {
        if (!Sheet.Formats.Contains(format) || !await ReadAsync(idea, sort, group, true, stop)) return NotFound();
        return File(Concordance.AsSheet().As(format!), Sheet.MediaOf(format!), $"sightings.{format}");
    }

    /// <summary>The concordance as a picture of its own.</summary>
    public async Task<IActionResult> OnGetSvgAsync(IdeaId idea, string? sort, string? group, CancellationToken stop)
    {
        if (!await ReadAsync(idea, sort, group, true, stop)) return NotFound();
        return File(System.Text.Encoding.UTF8.GetBytes(Drawing.StandaloneSvg.Of(Concordance.Whole(Idea.Nickname))), "image/svg+xml",
            "concordance.svg");
    }

    public async Task<IActionResult> OnPostLinkAsync(IdeaId idea, CancellationToken stop)
    {
        if (!await ReadAsync(idea, null, null, false, stop)) return NotFound();
        if (Typed.Of is not { } of || !Lineage.Kinds.Contains(Typed.Kind ?? "")) return Refuse(
            "Choose an idea and how this one comes from it.");
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
        if (!await ReadAsync(idea, null, null, false, stop)) return NotFound();
        var who = ModelState.Text("Typed.Who", Typed.Who, "Whom was it borrowed from? Write a name.");
        var dated = ModelState.Date("Typed.Dated", Typed.Dated);
        var note = ModelState.Text("Typed.BorrowNote", Typed.BorrowNote, most: UploadLimits.Note);
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
        if (!await ReadAsync(idea, null, null, false, stop)) return NotFound();
        var at = ModelState.Clock("Typed.At", Typed.At);
        var bar = ModelState.Number("Typed.Bar", Typed.Bar, 1, UploadLimits.Bars, "a bar");
        var note = ModelState.Text("Typed.HeardNote", Typed.HeardNote, most: UploadLimits.Note);
        if (ModelState.IsValid && at is null && bar is null) ModelState.AddModelError("Typed.At",
            "Where was it heard? Write a clock time or a bar.");
        if (!ModelState.IsValid) return Again();
        if (Typed.Recording is not { } recording || !await heard.AddAsync(idea, recording, at, bar, note, stop)) return Refuse(
            "Choose a recording of this study.");
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

    /// <summary>Would it have been noticed before it had its name? The listener's statement, with its date.</summary>
    public async Task<IActionResult> OnPostNoticedAsync(IdeaId idea, string? noticed, long[] where, CancellationToken stop)
    {
        if (!await ReadAsync(idea, null, null, false, stop)) return NotFound();
        if (noticed is not ("everywhere" or "somewhere" or "no")) return Refuse(
            "Say whether you would have noticed it then: in all of it, in some, or not.");
        if (noticed == "somewhere" && where.Length == 0) return Refuse("Tick where you would have noticed it.");
        await ideas.StateNoticedAsync(idea, NoticedWords.Read(noticed), [.. where.Select(c => new CoverageId(c))], stop);
        return Redirect($"/ideas/{idea}#noticed");
    }

    private Microsoft.AspNetCore.Mvc.RazorPages.PageResult Refuse(string why)
    {
        ModelState.AddModelError("", why);
        return Again();
    }

    /// <summary>The address of this page with one of its filters changed.</summary>
    public string With(string? sort = null, string? after = null, string? before = null, string? grouped = null)
    {
        var parts = Query.Address.ToList();
        if (after is not null) parts.Add($"after={after}");
        if (before is not null) parts.Add($"before={before}");
        if ((grouped ?? Group) is { Length: > 0 } groups) parts.Add($"group={groups}");
        if ((sort ?? Sort) is { } by) parts.Add($"sort={by}");
        return $"/ideas/{Idea.Id}{(parts.Count > 0 ? "?" + string.Join('&', parts) : "")}"
            + $"{((sort ?? after ?? before ?? grouped) is null ? "" : "#concordance")}";
    }

    private async Task<bool> ReadAsync(IdeaId id, string? sort, string? group, bool whole, CancellationToken stop, string? after = null,
        string? before = null, int page = 1)
    {
        if (await ideas.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        Idea = found;
        Looked = [.. (await lookedIdeas.OfAsync(found, stop)).Words];
        Sort = sort is Concordance.ByTempo or Concordance.ByPlace or Concordance.ByVerdict or Concordance.ByDifference
            or Concordance.ByDate ? sort : null;
        Group = group is "verdict" or "recording" or "year" ? group : null;

        var all = await places.OfIdeaAsync(found.StudyId, id, stop);
        ByRecording = await evidence.ByRecordingAsync(found, stop);
        AllRecordings = [.. ByRecording.Select(r => r.Recording)];
        Query = PlaceQuery.Of(Request.Query, Study, AllRecordings);
        Pins = await lineages.PinsAsync(id, stop);
        Heard = await heard.OfIdeaAsync(id, stop);
        Sources = await lineages.SourcesAsync(id, stop);
        Descents = await lineages.OfStudyAsync(found.StudyId, stop);
        AllIdeas = await ideas.OfStudyAsync(found.StudyId, stop);
        Before = [.. (await coverages.OfStudyAsync(found.StudyId, stop)).Where(c => Exposure.IsBefore(c.AsSearch(), found.AsNamed()))];
        IReadOnlyList<Performance> Of(Player player) =>
            [.. ByRecording.Where(r => r.Recording.PlayerId == player.Id).Select(r => r.Performance)];
        var own = Of(Study.Subject);
        var known = await evidence.OfStudyAsync(found.StudyId, stop);
        Answer = known.AnswerOf(id, Study.Subject.Id);
        Others = [.. Study.Comparison.Select(player => (player, known.AnswerOf(id, player.Id)))];
        Everybody = known.AnswerOf(id);
        First = FirstOnRecord.Of(own);
        Sentences = IdeaInThree.Of([.. ByRecording.Select(r => r.Performance)], Study.Subject.Id.Value);
        Rejected = all.Count(s => s.Judged == Judged.Rejected);
        FirstWaiting = Judging.Next(all, []);

        var shown = Listed(all, Query.Scope.Cautious ? (await evidence.ByRecordingAsync(found.StudyId, [found], stop, cautious: true))[id]
            : ByRecording);
        ShownRecordings = shown.Select(p => p.RecordingId).Distinct().Count();
        IReadOnlyList<ListedPlace> sorted = [.. Concordance.Grouped(Concordance.Sorted(shown, Sort), Group)];
        List = PageOfList<ListedPlace>.Of(sorted, p => p.Key, PageRows, after, before, page);
        Sounding = await sounds.ReadInAsync(found.StudyId, stop);
        Concordance = new(found, await ListedPlace.ShownAsync(whole ? sorted : List.Rows, sightings, stop));
        return true;
    }

    /// <summary>The places that the query lets through: what the account counts, or what is kept in that state.</summary>
    private List<ListedPlace> Listed(IReadOnlyList<PlaceOfIdea> all, IReadOnlyList<IdeaInRecording> account)
    {
        var taken = account.Where(r => Query.Takes(r.Recording)).ToList();
        var recordings = taken.Select(r => r.Recording.Id).ToHashSet();
        var byId = all.ToDictionary(s => s.Id.Value);
        var byHand = Heard.ToDictionary(h => h.Id);
        IEnumerable<ListedPlace> Found(Func<PlaceOfIdea, bool> which) => all.Where(s => recordings.Contains(s.Recording.Id) && which(s))
            .Select(s => new ListedPlace(s, null));
        IEnumerable<ListedPlace> Counted(Func<Performance, IEnumerable<Appearance>> which) =>
            taken.SelectMany(r => which(r.Performance).Where(a => Query.Takes(r.Performance, a)))
            .Select(a => a.Sighting is { } sighting ? new ListedPlace(byId[sighting], null)
                : new ListedPlace(null, byHand[a.Heard!.Value]));
        return Query.Show switch
        {
            "counted" => [.. Counted(p => p.Counted)],
            "confirmed" => [.. Counted(p => p.Appearances)],
            "outside" => [.. Counted(p => p.Appearances.Where(a => !a.Counts))],
            "near-miss" => [.. Counted(p => p.Near)],
            "waiting" => [.. Found(s => s.IsWaiting)],
            "rejected" => [.. Found(s => s.Judged == Judged.Rejected)],
            _ => [.. Found(_ => true), .. taken.SelectMany(r => Heard.Where(h => h.RecordingId == r.Recording.Id))
                .Select(h => new ListedPlace(null, h))],
        };
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
