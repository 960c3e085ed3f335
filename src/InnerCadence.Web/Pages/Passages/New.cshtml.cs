using InnerCadence.Core.Counting;
using InnerCadence.Storage;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Interchange;
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
    /// <summary>Toms of the recording's kit, codes from high to low; empty where nobody said.</summary>
    string Kit { get; }
    /// <summary>The recording has a sound at hand.</summary>
    bool HasSound { get; }
    string SoundAddress => $"/recordings/{RecordingId}/sound";
    /// <summary>What can be heard against this one: other readings, then other passages.</summary>
    IReadOnlyList<Comparison> Comparisons { get; }
    /// <summary>After a merge: at how many places both had changed a line.</summary>
    int? Merged { get; }
}

/// <summary>Something to hear against a passage.</summary>
/// <param name="Text">Its count lines; nothing where they are at <paramref name="Address"/>.</param>
public sealed record Comparison(string Name, string? Text, string Address);

[RequestSizeLimit(ScoreFiles.MostBytes + 64 * 1024), RequestFormLimits(MultipartBodyLengthLimit = ScoreFiles.MostBytes + 64 * 1024)]
public sealed class NewModel(Storage.Studies studies, Storage.Recordings recordings, Storage.Passages passages, Timelines timelines, Storage.Sessions sessions, Sounds sounds) : StudyPage(studies), IPassageForm
{
    [BindProperty]
    public PassageInput Input { get; set; } = new();

    public Recording Recording { get; private set; } = null!;
    public CountText Read => CountLines.Parse(Input.Text ?? "");
    public Shape Picture => Strands.Draw(Read.Passage, new() { Pickable = true, Also = Read.Voices });
    public int FirstBar => 1;
    public RecordingId RecordingId => Recording.Id;
    public double? Tempo => Recording.Tempo;
    public string? KeptText => null;
    public int? Merged => null;
    public string Kit => Recording.Kit;
    public bool HasSound { get; private set; }
    public IReadOnlyList<Comparison> Comparisons => [];

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

    /// <summary>What was read out of a file, and what had to be decided.</summary>
    public ReadScore? Opened { get; private set; }
    public string? FileProblem { get; private set; }

    /// <summary>Puts what a file says into the field, to be looked at; nothing is saved.</summary>
    public async Task<IActionResult> OnPostFileAsync(RecordingId recording, IFormFile? file, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        ModelState.Clear();
        Input.Text = Head(Recording);
        if (file is null || file.Length > ScoreFiles.MostBytes)
        {
            FileProblem = file is null ? "Choose a file first." : $"The file has {file.Length / 1024 / 1024} MB; {ScoreFiles.MostBytes / 1024 / 1024} are read.";
            return Again();
        }
        using var bytes = new MemoryStream();
        await file.CopyToAsync(bytes, stop);
        Opened = ScoreFiles.Read(bytes.ToArray(), out var problem);
        if (Opened is null)
        {
            FileProblem = problem;
            return Again();
        }
        Input.Text = Opened.Text;
        return Page();
    }

    /// <summary>Starts from a text that another page made, such as a skeleton; nothing is saved yet.</summary>
    public async Task<IActionResult> OnPostTakeAsync(RecordingId recording, string? text, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        ModelState.Clear();
        Input = new() { Text = text ?? "", HeardFrom = "ear", Note = "A skeleton worked out from several bars." };
        return Page();
    }

    public async Task<IActionResult> OnPostTomsAsync(RecordingId recording, string? toms, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        return Input.ReadToms(ModelState, toms) ? Page() : Again();
    }

    private async Task<bool> FindAsync(RecordingId id, CancellationToken stop)
    {
        if (await recordings.FindAsync(id, stop) is not { } found) return false;
        Recording = found;
        HasSound = await sounds.OfRecordingAsync(id, stop) is not null;
        return await EnterAsync(found.StudyId, stop);
    }
}
