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
    /// <summary>Tempo of the recording, where the text names none.</summary>
    double? Tempo { get; }
    /// <summary>What another tab saved meanwhile, if it did.</summary>
    string? KeptText { get; }
}

public sealed class NewModel(Storage.Studies studies, Storage.Recordings recordings, Storage.Passages passages) : StudyPage(studies), IPassageForm
{
    [BindProperty]
    public PassageInput Input { get; set; } = new();

    public Recording Recording { get; private set; } = null!;
    public CountText Read => CountLines.Parse(Input.Text ?? "");
    public Shape Picture => Strands.Draw(Read.Passage, new());
    public int FirstBar => 1;
    public double? Tempo => Recording.Tempo;
    public string? KeptText => null;

    public async Task<IActionResult> OnGetAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        Input.Text = Head(Recording);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (Input.Read(ModelState) is not { } draft) return Again();
        Kept();
        return Redirect($"/passages/{await passages.AddAsync(recording, draft, stop)}");
    }

    /// <summary>The meter and tempo that are known already.</summary>
    private static string Head(Recording recording) =>
        FormattableString.Invariant($"meter {recording.Meter}\n{(recording.Tempo is { } tempo ? $"tempo {tempo:0.###}\n" : "")}");

    private async Task<bool> FindAsync(RecordingId id, CancellationToken stop)
    {
        if (await recordings.FindAsync(id, stop) is not { } found) return false;
        Recording = found;
        return await EnterAsync(found.StudyId, stop);
    }
}
