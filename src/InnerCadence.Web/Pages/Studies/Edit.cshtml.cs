using InnerCadence.Core.Music;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Studies;

public sealed class EditStudyModel(StudyStore studies) : StudyPage(studies), IStudyForm
{
    private readonly StudyStore studies = studies;

    [BindProperty]
    public StudyInput Input { get; set; } = new();

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Input = StudyInput.Of(Study);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (Input.Read(ModelState) is not { } draft) return Again();
        if (!await studies.UpdateAsync(study, draft, Input.Version, stop))
        {
            ModelState.Remove("Input.Version");
            Input.Version = Study.Version;
            return ChangedMeanwhile("The study", Kept(Input, StudyInput.Of(Study)));
        }
        Kept();
        return Redirect($"/studies/{study}");
    }

    public async Task<IActionResult> OnPostDeleteAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (Input.Version is > 0 and var seen && seen != Study.Version)
        {
            var kept = Kept(Input, StudyInput.Of(Study));
            Input = StudyInput.Of(Study);
            return NotDeleted("The study", kept);
        }
        await studies.DeleteAsync(study, stop);
        Tell($"{Study.Name} is deleted.", $"/?handler=Restore&study={study}");
        return Redirect("/");
    }
}
