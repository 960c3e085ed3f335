using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>The discography of a study.</summary>
public sealed class IndexModel(Storage.Studies studies, Storage.Recordings recordings) : StudyPage(studies)
{
    public IReadOnlyList<Recording> Recordings { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Recordings = await recordings.OfStudyAsync(study, stop);
        return Page();
    }

    public async Task<IActionResult> OnPostRestoreAsync(StudyId study, RecordingId recording, CancellationToken stop)
    {
        await recordings.RestoreAsync(recording, stop);
        return Redirect($"/recordings/{recording}");
    }
}
