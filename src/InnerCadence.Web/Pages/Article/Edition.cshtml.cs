using InnerCadence.Core.Music;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Article;

/// <summary>A frozen edition, as it read on its day.</summary>
public sealed class EditionModel(StudyStore studies, ArticleStore articles) : StudyPage(studies)
{
    public Edition Edition { get; private set; } = null!;
    public int Newest { get; private set; }
    public string Paper { get; private set; } = "a4";

    public async Task<IActionResult> OnGetAsync(StudyId study, int number, string? paper, CancellationToken stop)
    {
        if (paper == "letter") Paper = paper;
        if (!await EnterAsync(study, stop)) return NotFound();
        var all = await articles.EditionsAsync(study, stop);
        if (all.FirstOrDefault(e => e.Number == number) is not { } found) return NotFound();
        (Edition, Newest) = (found, all[0].Number);
        return Page();
    }
}
