using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Jobs;

/// <summary>How far a piece of long work is.</summary>
public sealed class ShowModel(Storage.Studies studies, Storage.Jobs jobs) : StudyPage(studies)
{
    public Job Job { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(JobId job, CancellationToken stop) => await FindAsync(job, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnPostCancelAsync(JobId job, CancellationToken stop)
    {
        if (!await FindAsync(job, stop)) return NotFound();
        await jobs.CancelAsync(job, stop);
        return Redirect($"/jobs/{job}");
    }

    private async Task<bool> FindAsync(JobId id, CancellationToken stop)
    {
        if (await jobs.FindAsync(id, stop) is not { } found) return false;
        Job = found;
        return found.StudyId is { } study && await EnterAsync(study, stop);
    }
}
