using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ensembles;

/// <summary>The ensembles and releases that recordings name.</summary>
public sealed class EnsemblesModel(StudyStore studies, Discography discography) : StudyPage(studies)
{
    public IReadOnlyList<Ensemble> Ensembles { get; private set; } = [];
    public IReadOnlyList<Release> Releases { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        (Ensembles, Releases) = (await discography.EnsemblesAsync(study, stop), await discography.ReleasesAsync(study, stop));
        return Page();
    }
}
