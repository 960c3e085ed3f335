using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>Everything that was written down.</summary>
public sealed class PassagesModel(StudyStore studies, PassageStore passages, EvidenceOfIdeas evidence) : StudyPage(studies)
{
    public const int PageRows = 200;

    public IReadOnlyList<PassageRow> Passages { get; private set; } = [];
    public PageOfList<(PassageId Id, int Bars)> List { get; private set; } = null!;
    public int Bars { get; private set; }
    public Account Account { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(StudyId study, string? after, string? before, CancellationToken stop,
        [FromQuery(Name = "page")] int page = 1)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var all = await passages.InOrderAsync(study, stop);
        Bars = all.Sum(p => p.Bars);
        List = PageOfList<(PassageId Id, int Bars)>.Of(all, p => p.Id.ToString(), PageRows, after, before, page);
        Passages = await passages.TheseAsync([.. List.Rows.Select(p => p.Id)], stop);
        Account = await evidence.AccountAsync(study, stop);
        return Page();
    }

    public async Task<IActionResult> OnPostRestoreAsync(StudyId study, PassageId passage, CancellationToken stop)
    {
        await passages.RestoreAsync(passage, stop);
        return Redirect($"/passages/{passage}");
    }
}
