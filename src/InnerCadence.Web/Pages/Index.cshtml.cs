using InnerCadence.Core.Music;
using InnerCadence.Storage.Studies;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages;

/// <summary>All studies, and the deleted ones to bring back.</summary>
public sealed class IndexModel(StudyStore studies) : PageModel
{
    public IReadOnlyList<StudyRow> Kept { get; private set; } = [];
    public IReadOnlyList<StudyRow> Deleted { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken stop)
    {
        var all = await studies.AllAsync(stop);
        Kept = [.. all.Where(s => !s.Deleted)];
        Deleted = [.. all.Where(s => s.Deleted)];
    }

    public async Task<IActionResult> OnPostRestoreAsync(StudyId study, CancellationToken stop)
    {
        await studies.RestoreAsync(study, stop);
        return Redirect($"/studies/{study}");
    }
}
