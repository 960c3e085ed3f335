using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

public sealed class EditIdeaModel(StudyStore studies, IdeaStore ideas, LineageStore lineages, Tuning tuning) : StudyPage(studies), IIdeaForm
{
    [BindProperty]
    public IdeaInput Input { get; set; } = new();

    public IdeaRow Idea { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(IdeaId idea, CancellationToken stop)
    {
        if (!await FindAsync(idea, stop)) return NotFound();
        Input = IdeaInput.Of(Idea);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(IdeaId idea, CancellationToken stop)
    {
        if (!await FindAsync(idea, stop)) return NotFound();
        if (Input.Read(ModelState) is not { } draft) return Again();
        switch (await ideas.UpdateAsync(idea, draft, Input.Version, stop))
        {
            case SaveResult.Saved:
                Kept();
                var broken = (await lineages.PinsAsync(idea, stop)).Where(p => p.IsBroken).Select(p => p.Name).ToList();
                if (broken.Count > 0) Tell($"Saved. Pinned otherwise than found now: {string.Join("; ", broken)}.");
                return Redirect($"/ideas/{idea}");
            case SaveResult.ChangedMeanwhile:
                ModelState.Remove("Input.Version");
                Input.Version = Idea.Version;
                return ChangedMeanwhile("This idea", Kept(Input, IdeaInput.Of(Idea)));
            default:
                ModelState.AddModelError("Input.Nickname",
                    $"This study has an idea called {draft.Nickname} already: choose another nickname.");
                return Again();
        }
    }

    public TunedStudy? Tuned { get; private set; }

    /// <summary>What saving would change; nothing is saved. A script gets the part of the page that says it.</summary>
    public async Task<IActionResult> OnPostTuneAsync(IdeaId idea, CancellationToken stop)
    {
        if (!await FindAsync(idea, stop)) return NotFound();
        if (Input.ReadIdea(ModelState) is not { } tried) return Again();
        Tuned = await tuning.TryAsync(Study.Id, tried, idea, stop);
        return this.WithTuned(Tuned);
    }

    public async Task<IActionResult> OnPostDeleteAsync(IdeaId idea, CancellationToken stop)
    {
        if (!await FindAsync(idea, stop)) return NotFound();
        if (Input.Version is > 0 and var seen && seen != Idea.Version)
        {
            var kept = Kept(Input, IdeaInput.Of(Idea));
            Input = IdeaInput.Of(Idea);
            return NotDeleted("This idea", kept);
        }
        await ideas.DeleteAsync(idea, stop);
        Tell($"{Idea.Nickname} is deleted.", $"/studies/{Study.Id}/ideas?handler=Restore&idea={idea}");
        return Redirect($"/studies/{Study.Id}/ideas");
    }

    private async Task<bool> FindAsync(IdeaId id, CancellationToken stop)
    {
        if (await ideas.FindAsync(id, stop) is not { } found) return false;
        Idea = found;
        return await EnterAsync(found.StudyId, stop);
    }
}
