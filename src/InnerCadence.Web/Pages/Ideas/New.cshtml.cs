using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Pages with the fields of an idea.</summary>
public interface IIdeaForm
{
    IdeaInput Input { get; }
    /// <summary>What the rules as typed would find, where it was asked.</summary>
    TunedStudy? Tuned { get; }
}

internal static class TunedAnswers
{
    /// <summary>A script gets the part that changes, a browser without scripts the page.</summary>
    public static IActionResult WithTuned(this PageModel page, TunedStudy tuned) =>
        page.Request.Headers["X-Part"] == "tuned" ? page.Partial("Ideas/_Tuned", tuned) : page.Page();
}

/// <summary>A span of a passage becomes a named idea.</summary>
public sealed class NewIdeaModel(StudyStore studies, PassageStore passages, IdeaStore ideas, Tuning tuning) : StudyPage(studies), IIdeaForm
{
    [BindProperty]
    public IdeaInput Input { get; set; } = new();

    public PassageRow Passage { get; private set; } = null!;
    /// <summary>Why the span could not be cut; then the whole passage is proposed.</summary>
    public string? Refused { get; private set; }

    public async Task<IActionResult> OnGetAsync(PassageId passage, string? from, string? to, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        var whole = CountLines.Parse(Passage.Text).Passage;
        if (whole.Bars == 0) return Redirect($"/passages/{passage}");
        var start = Excerpt.Place(whole, from ?? "1.1");
        var end = to is null or "end" ? whole.Length : Excerpt.Place(whole, to);
        if (start is null || end is null || end <= start || !whole.Strokes.Any(s => s.At >= start && s.At < end))
        {
            Refused = $"From ‘{from}’ up to ‘{to}’ is no span with strokes in it; the whole passage is shown. Places are bar, point, "
                + $"count: 1.3&, 2.1, or end.";
            (start, end) = (Tick.Zero, whole.Length);
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        }
        Input = Propose(whole, start.Value, end.Value);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        if (Input.Read(ModelState) is not { } draft) return Again();
        if (await ideas.AddAsync(Study.Id, draft, stop) is { } id)
        {
            Kept();
            return Redirect($"/ideas/{id}");
        }
        ModelState.AddModelError("Input.Nickname", $"This study has an idea called {draft.Nickname} already: choose another nickname.");
        return Again();
    }

    public TunedStudy? Tuned { get; private set; }

    /// <summary>What it would find; nothing is kept.</summary>
    public async Task<IActionResult> OnPostTuneAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        if (Input.ReadIdea(ModelState) is not { } tried) return Again();
        Tuned = await tuning.TryAsync(Study.Id, tried, null, stop);
        return this.WithTuned(Tuned);
    }

    private IdeaInput Propose(Passage whole, Tick from, Tick to)
    {
        var cut = Excerpt.Cut(whole, from, to);
        var (lastBar, endInBar) = whole.Meters.Locate(to);
        var wholeBars = whole.Meters.Locate(from).InBar == Tick.Zero && endInBar == Tick.Zero;
        var end = to - whole.Meters.StartOf(whole.Meters.Locate(from).Bar);
        var (bar, inBar) = cut.Meters.Locate(end);
        var ends = end >= cut.Length ? "end" : $"{bar + 1}.{CountNames.Place(inBar, whole.Meters.MeterOf(lastBar))}";
        return IdeaInput.Proposed(cut, ends, Passage.Kind, wholeBars, Passage.ReadingId);
    }

    private async Task<bool> FindAsync(PassageId id, CancellationToken stop)
    {
        if (await passages.FindAsync(id, stop) is not { } found) return false;
        Passage = found;
        return await EnterAsync(found.StudyId, stop);
    }
}
