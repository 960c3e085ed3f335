using InnerCadence.Core.Music;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Studies;

/// <summary>What was deleted from a study, to bring back.</summary>
public sealed class TrashModel(StudyStore studies, Storage.Studies.Trash trash) : StudyPage(studies)
{
    public IReadOnlyList<DeletedThing> Deleted { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Deleted = await trash.OfStudyAsync(study, stop);
        return Page();
    }
}
