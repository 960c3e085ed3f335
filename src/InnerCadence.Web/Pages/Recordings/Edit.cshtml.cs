using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

public sealed class EditRecordingModel(StudyStore studies, RecordingStore recordings) : StudyPage(studies), IRecordingForm
{
    [BindProperty]
    public RecordingInput Input { get; set; } = new();

    public bool AsksSearched => false;
    public Recording Recording { get; private set; } = null!;

    /// <param name="tempo">Put into its field, to be looked at and saved.</param>
    public async Task<IActionResult> OnGetAsync(RecordingId recording, string? tempo, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        Input = RecordingInput.Of(Recording);
        if (tempo is not null) Input.Tempo = tempo;
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (Input.Read(ModelState, Study) is not { } draft) return Again();
        if (await recordings.UpdateAsync(Study.Id, recording, draft, Input.Version, stop))
        {
            Kept();
            return Redirect($"/recordings/{recording}");
        }
        ModelState.Remove("Input.Version");
        Input.Version = Recording.Version;
        return ChangedMeanwhile("The recording", Kept(Input, RecordingInput.Of(Recording)));
    }

    public async Task<IActionResult> OnPostDeleteAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (Input.Version is > 0 and var seen && seen != Recording.Version)
        {
            var kept = Kept(Input, RecordingInput.Of(Recording));
            Input = RecordingInput.Of(Recording);
            return NotDeleted("The recording", kept);
        }
        await recordings.DeleteAsync(recording, stop);
        Tell($"{Recording.Name} is deleted.", $"/studies/{Study.Id}/recordings?handler=Restore&recording={recording}");
        return Redirect($"/studies/{Study.Id}/recordings");
    }

    private async Task<bool> FindAsync(RecordingId id, CancellationToken stop)
    {
        if (await recordings.FindAsync(id, stop) is not { } found) return false;
        Recording = found;
        return await EnterAsync(found.StudyId, stop);
    }
}
