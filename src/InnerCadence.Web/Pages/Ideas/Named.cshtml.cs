using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Counts that no passage has yet become a named idea, such as what the ear found.</summary>
public sealed class NamedIdeaModel(StudyStore studies, IdeaStore ideas, Tuning tuning) : StudyPage(studies), IIdeaForm
{
    private const int MostText = 4000;

    [BindProperty]
    public IdeaInput Input { get; set; } = new();

    public TunedStudy? Tuned { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, string? text, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (text?.Length > MostText) return BadRequest();
        // Counts that stand in no bar of a recording may stand anywhere.
        Input = IdeaInput.Proposed(CountLines.Parse(text ?? "").Passage, "end", PassageKind.Fill, wholeBars: false, from: null);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (Input.Read(ModelState) is not { } draft) return Again();
        if (await ideas.AddAsync(study, draft, stop) is { } id)
        {
            Kept();
            return Redirect($"/ideas/{id}/look");
        }
        ModelState.AddModelError("Input.Nickname", $"This study has an idea called {draft.Nickname} already: choose another nickname.");
        return Again();
    }

    /// <summary>What it would find; nothing is kept.</summary>
    public async Task<IActionResult> OnPostTuneAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (Input.ReadIdea(ModelState) is not { } tried) return Again();
        Tuned = await tuning.TryAsync(study, tried, null, stop);
        return this.WithTuned(Tuned);
    }
}
