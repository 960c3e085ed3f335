using InnerCadence.Core.Music;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>Everything that was written down.</summary>
public sealed class PassagesModel(StudyStore studies, PassageStore passages) : StudyPage(studies)
{
    public const int PageRows = 200;

    public IReadOnlyList<PassageRow> Passages { get; private set; } = [];
    public (int Passages, int Bars) Total { get; private set; }
    public int PageNumber { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop, [FromQuery(Name = "page")] int page = 1)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Total = await passages.CountAsync(study, stop);
        PageNumber = Math.Clamp(page, 1, Math.Max(1, (Total.Passages + PageRows - 1) / PageRows));
        Passages = await passages.OfStudyAsync(study, (PageNumber - 1) * PageRows, PageRows, stop);
        return Page();
    }

    public async Task<IActionResult> OnPostRestoreAsync(StudyId study, PassageId passage, CancellationToken stop)
    {
        await passages.RestoreAsync(passage, stop);
        return Redirect($"/passages/{passage}");
    }
}
