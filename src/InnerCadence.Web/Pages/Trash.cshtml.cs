using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages;

/// <summary>What was deleted from a study, to bring back.</summary>
public sealed class TrashModel(Storage.Studies studies, Storage.Trash trash) : StudyPage(studies)
{
    public IReadOnlyList<DeletedThing> Deleted { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Deleted = await trash.OfStudyAsync(study, stop);
        return Page();
    }
}
