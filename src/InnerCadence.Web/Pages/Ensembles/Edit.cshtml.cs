using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ensembles;

/// <summary>The fields of an ensemble or a release as typed.</summary>
public sealed class NameInput
{
    public string? Name { get; set; }
    public string? Dates { get; set; }
    public string? Ensemble { get; set; }
    public string? Note { get; set; }
    public int Version { get; set; }
}

/// <summary>One ensemble: its name, its years, a note.</summary>
public sealed class EditEnsembleModel(StudyStore studies, Discography discography) : StudyPage(studies)
{
    [BindProperty]
    public NameInput Input { get; set; } = new();

    public Ensemble Ensemble { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(EnsembleId ensemble, CancellationToken stop)
    {
        if (!await FindAsync(ensemble, stop)) return NotFound();
        Input = Saved;
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(EnsembleId ensemble, CancellationToken stop)
    {
        if (!await FindAsync(ensemble, stop)) return NotFound();
        var name = ModelState.Text("Input.Name", Input.Name, "What is it called?");
        var (active, note) = (ModelState.Date("Input.Dates", Input.Dates),
            ModelState.Text("Input.Note", Input.Note, most: UploadLimits.Note));
        if (!ModelState.IsValid) return Again();
        switch (await discography.SaveAsync(ensemble, name, active, note, Input.Version, stop))
        {
            case NameResult.Saved:
                Kept();
                return Redirect($"/studies/{Study.Id}/ensembles");
            case NameResult.NameTaken:
                ModelState.AddModelError("Input.Name", $"The study has another ensemble called {name}.");
                return Again();
            default:
                ModelState.Remove("Input.Version");
                Input.Version = Ensemble.Version;
                return ChangedMeanwhile("The ensemble", Kept(Input, Saved));
        }
    }

    private NameInput Saved => new()
    {
        Name = Ensemble.Name,
        Dates = Ensemble.Active?.ToString(),
        Note = Ensemble.Note,
        Version = Ensemble.Version
    };

    private async Task<bool> FindAsync(EnsembleId id, CancellationToken stop)
    {
        if (await discography.FindAsync(id, stop) is not { } found) return false;
        Ensemble = found;
        return await EnterAsync(found.StudyId, stop);
    }
}
