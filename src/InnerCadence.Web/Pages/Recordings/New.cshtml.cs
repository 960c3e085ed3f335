using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>Pages with the fields of a recording.</summary>
public interface IRecordingForm
{
    RecordingInput Input { get; }
    Study Study { get; }
    bool AsksSearched { get; }
}

public sealed class NewRecordingModel(StudyStore studies, RecordingStore recordings) : StudyPage(studies), IRecordingForm
{
    [BindProperty]
    public RecordingInput Input { get; set; } = new();

    public bool AsksSearched => true;

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop) =>
        await EnterAsync(study, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnPostAsync(StudyId study, string? another, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var draft = Input.Read(ModelState, Study);
        var searched = Input.ReadSearched(ModelState, DateOnly.FromDateTime(DateTime.Now));
        if (draft is null || !ModelState.IsValid) return Again();
        var id = await recordings.AddAsync(study, draft, searched, stop);
        Kept();
        if (another is null) return Redirect($"/recordings/{id}");
        Tell($"{draft.Title} is added.");
        return Redirect($"/studies/{study}/recordings/new");
    }
}
