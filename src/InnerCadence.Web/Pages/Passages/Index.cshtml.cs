using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>Everything that was written down.</summary>
public sealed class IndexModel(Storage.Studies studies, Storage.Passages passages) : StudyPage(studies)
{
    public IReadOnlyList<PassageRow> Passages { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Passages = await passages.OfStudyAsync(study, stop);
        return Page();
    }

    public async Task<IActionResult> OnPostRestoreAsync(StudyId study, PassageId passage, CancellationToken stop)
    {
        await passages.RestoreAsync(passage, stop);
        return Redirect($"/passages/{passage}");
    }
}
