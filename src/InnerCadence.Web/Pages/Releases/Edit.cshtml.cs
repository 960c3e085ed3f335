using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Ensembles;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Releases;

/// <summary>One release: its title, its ensemble, when it was issued.</summary>
public sealed class EditReleaseModel(StudyStore studies, Discography discography) : StudyPage(studies)
{
    [BindProperty]
    public NameInput Input { get; set; } = new();

    public Release Release { get; private set; } = null!;
    public IReadOnlyList<Ensemble> Ensembles { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(ReleaseId release, CancellationToken stop)
    {
        if (!await FindAsync(release, stop)) return NotFound();
        Input = Saved;
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(ReleaseId release, CancellationToken stop)
    {
        if (!await FindAsync(release, stop)) return NotFound();
        var title = ModelState.Text("Input.Name", Input.Name, "What is it called?");
        var (issued, note) = (ModelState.Date("Input.Dates", Input.Dates),
            ModelState.Text("Input.Note", Input.Note, most: UploadLimits.Note));
        if (!ModelState.IsValid) return Again();
        switch (await discography.SaveAsync(release, title, Ensembles.FirstOrDefault(e => e.Id.ToString() == Input.Ensemble)?.Id, issued,
            note, Input.Version, stop))
        {
            case NameResult.Saved:
                Kept();
                return Redirect($"/studies/{Study.Id}/ensembles");
            case NameResult.NameTaken:
                ModelState.AddModelError("Input.Name", $"The study has another release called {title}.");
                return Again();
            default:
                ModelState.Remove("Input.Version");
                Input.Version = Release.Version;
                return ChangedMeanwhile("The release", Kept(Input, Saved));
        }
    }

    private NameInput Saved => new()
    {
        Name = Release.Title,
        Dates = Release.Issued?.ToString(),
        Ensemble = Release.EnsembleId?.ToString(),
        Note = Release.Note,
        Version = Release.Version
    };

    private async Task<bool> FindAsync(ReleaseId id, CancellationToken stop)
    {
        if (await discography.FindAsync(id, stop) is not { } found) return false;
        Release = found;
        Ensembles = await discography.EnsemblesAsync(found.StudyId, stop);
        return await EnterAsync(found.StudyId, stop);
    }
}
