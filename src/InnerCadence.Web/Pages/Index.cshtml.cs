using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages;

/// <summary>All studies, and the deleted ones to bring back.</summary>
[RequestSizeLimit(StudyArchive.MostBytes + 64 * 1024), RequestFormLimits(MultipartBodyLengthLimit = StudyArchive.MostBytes + 64 * 1024)]
public sealed class IndexModel(Storage.Studies studies, StudyArchive archive) : PageModel
{
    public IReadOnlyList<StudyRow> Kept { get; private set; } = [];
    public IReadOnlyList<StudyRow> Deleted { get; private set; } = [];

    public string? Problem { get; private set; }

    /// <summary>Brings an archive in as a study of its own; nothing that is here is touched.</summary>
    public async Task<IActionResult> OnPostArchiveAsync(IFormFile? file, CancellationToken stop)
    {
        if (file is null) Problem = "Choose an archive first.";
        else
        {
            await using var bytes = file.OpenReadStream();
            var (unpacked, problem) = await archive.ReadAsync(bytes, null, stop);
            if (unpacked is not null)
            {
                TempData["Notice"] = $"{unpacked.Name} is here, with {string.Join(", ", unpacked.Tables.Where(r => r.Table is "recording" or "passage" or "idea" or "claim").Select(r => $"{r.Added} {r.Table}{(r.Added == 1 ? "" : "s")}"))}.";
                return Redirect($"/studies/{unpacked.Study}");
            }
            Problem = problem;
        }
        await OnGetAsync(stop);
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }

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
