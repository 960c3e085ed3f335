using InnerCadence.Core.Counting;
using InnerCadence.Storage;
using InnerCadence.Web.Drawing;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>Pages on which a passage is written down.</summary>
public interface IPassageForm
{
    PassageInput Input { get; }
    CountText Read { get; }
    Shape Picture { get; }
    int FirstBar { get; }
    RecordingId RecordingId { get; }
    /// <summary>Tempo of the recording, where the text names none.</summary>
    double? Tempo { get; }
    /// <summary>What another tab saved meanwhile, if it did.</summary>
    string? KeptText { get; }
    /// <summary>After a merge: at how many places both had changed a line.</summary>
    int? Merged { get; }
}

public sealed class NewModel(Storage.Studies studies, Storage.Recordings recordings, Storage.Passages passages, Timelines timelines, Storage.Sessions sessions) : StudyPage(studies), IPassageForm
{
    [BindProperty]
    public PassageInput Input { get; set; } = new();

    public Recording Recording { get; private set; } = null!;
    public CountText Read => CountLines.Parse(Input.Text ?? "");
    public Shape Picture => Strands.Draw(Read.Passage, new());
    public int FirstBar => 1;
    public RecordingId RecordingId => Recording.Id;
    public double? Tempo => Recording.Tempo;
    public string? KeptText => null;
    public int? Merged => null;

    public async Task<IActionResult> OnGetAsync(RecordingId recording, string? at, string? bar, string? kind, bool because, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        (Input.Text, Input.StartsAt, Input.Bar, Input.BecauseHeard) = (Head(Recording), at, bar, because);
        if (PassageDraft.Kinds.Contains(kind)) Input.Kind = kind;
        return Page();
    }

    // The stamp is that of a listening session which is written down here.
    public async Task<IActionResult> OnPostAsync(RecordingId recording, StampId? stamp, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (Input.Read(ModelState) is not { } draft) return Again();
        Kept();
        var id = await passages.AddAsync(recording, (await timelines.OfAsync(Recording, stop)).Place(draft), stop);
        if (stamp is { } made) await sessions.LocateAsync(made, id, stop);
        return Redirect($"/passages/{id}");
    }

    /// <summary>The meter and tempo that are known already.</summary>
    private static string Head(Recording recording) =>
        FormattableString.Invariant($"meter {recording.Meter}\n{(recording.Tempo is { } tempo ? $"tempo {tempo:0.###}\n" : "")}");

    /// <summary>Turns drum-tab text in the field into count lines; nothing is saved.</summary>
    public async Task<IActionResult> OnPostTabAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        return Input.ReadTab(ModelState) ? Page() : Again();
    }

    private async Task<bool> FindAsync(RecordingId id, CancellationToken stop)
    {
        if (await recordings.FindAsync(id, stop) is not { } found) return false;
        Recording = found;
        return await EnterAsync(found.StudyId, stop);
    }
}
