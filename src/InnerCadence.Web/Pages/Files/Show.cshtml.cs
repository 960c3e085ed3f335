using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Interchange;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Files;

/// <param name="Score">What was read; nothing where it is no passage.</param>
/// <param name="Why">What it is instead, or why it cannot be read.</param>
/// <param name="Alone">It has a page of its own on which it is looked at.</param>
public sealed record LookedAt(ArrivedFile File, ReadScore? Score, string? Why, bool Alone = false);

/// <summary>Files that were opened together: how each is read, where they are to go, and what became of them.</summary>
public sealed class FileModel(StudyStore studies, RecordingStore recordings, JobStore jobs, ImportStore imports, ArrivalStore arrivals,
    KnownSounds sounds, ILogger<FileModel> log) : StudyPage(studies), IAsksSounds
{
    public Arrival Arrival { get; private set; } = null!;
    public IReadOnlyList<LookedAt> Files { get; private set; } = [];
    public IReadOnlyList<(string Called, int Times)> Unknown { get; private set; } = [];
    public IReadOnlyList<Recording> Recordings { get; private set; } = [];
    public IReadOnlyList<(StudyId Id, string Name)> Choices { get; private set; } = [];
    public Job? Job { get; private set; }
    public int Good => Files.Count(f => f.Score is { Passage.Strokes.IsEmpty: false });
    public bool HasTiming => Files.Any(f => f.Score?.Offsets.Count > 0);

    public async Task<IActionResult> OnGetAsync(ArrivalId arrival, CancellationToken stop)
    {
        if (!await FindAsync(arrival, stop)) return NotFound();
        if (Arrival.StudyId is null) Choices = [.. (await AllStudies.AllAsync(stop)).Where(s => !s.Deleted).Select(s => (s.Id, s.Name))];
        else Recordings = await recordings.OfStudyAsync(Study.Id, stop);
        var map = await sounds.MapAsync(stop);
        Files = [.. (await arrivals.FilesAsync(arrival, stop)).Select(f => Look(f, map, stop))];
        Unknown = [.. Files.SelectMany(f => f.Score?.Unknown ?? []).GroupBy(u => u.Called).Select(g => (g.Key, g.Sum(u => u.Times)))];
        Job = Arrival.JobId is { } job ? await jobs.FindAsync(job, stop) : null;
        return Page();
    }

    private LookedAt Look(ArrivedFile file, Core.Interchange.PercussionMap map, CancellationToken stop) =>
        Arriving.KindOf(file.Content) switch
        {
            ArrivedKind.Study => new(file, null, "An archive of a study.", true),
            ArrivedKind.Backup => new(file, null, "A backup of the whole installation: it is brought back in Settings."),
            ArrivedKind.Sound => new(file, null, "A sound: attach it on its recording’s Listen page."),
            ArrivedKind.Recordings => new(file, null, "A table of recordings.", true),
            _ => ScoreFiles.ReadOne(file.Content, out var problem, map, log, stop) is { } score ? new(file, score, null)
                : new(file, null, problem),
        };

    public async Task<IActionResult> OnPostStudyAsync(ArrivalId arrival, StudyId study, CancellationToken stop)
    {
        if (!await FindAsync(arrival, stop) || await AllStudies.FindAsync(study, stop) is null) return NotFound();
        await arrivals.GiveAsync(arrival, study, stop);
        return await arrivals.FilesAsync(arrival, stop) is [var only] && Arriving.KindOf(only.Content) == ArrivedKind.Recordings
            ? await OnPostAloneAsync(arrival, only.Id, stop) : Redirect($"/files/{arrival}");
    }

    /// <summary>Takes a table of recordings or an archive to the page where it is looked at.</summary>
    public async Task<IActionResult> OnPostAloneAsync(ArrivalId arrival, ArrivedFileId file, CancellationToken stop)
    {
        if (!await FindAsync(arrival, stop) || await arrivals.FileAsync(file, stop) is not { } found
            || found.ArrivalId != arrival) return NotFound();
        return (Arriving.KindOf(found.Content), Arrival.StudyId) switch
        {
            (ArrivedKind.Recordings, { } study) => Redirect(
                $"/imports/{await imports.AddAsync(study, found.Name, found.Content, CsvTable.Read(found.Content), stop)}"),
            (ArrivedKind.Study, _) =>
                Redirect($"/files/{await arrivals.AddAsync(Arrival.StudyId, null, [(found.Name, found.Content)], stop)}/study"),
            _ => NotFound(),
        };
    }

    public async Task<IActionResult> OnPostAsync(ArrivalId arrival, string? recording, string? kind, bool timing, CancellationToken stop)
    {
        if (!await FindAsync(arrival, stop) || Arrival.StudyId is null) return NotFound();
        RecordingId? into = RecordingId.TryParse(recording, out var id) ? id : null;
        if (into is { } named && (await recordings.FindAsync(named, stop))?.StudyId != Arrival.StudyId) return NotFound();
        return Redirect(
            $"/jobs/{await arrivals.BeginAsync(arrival, into, OneOf<PassageKind>.Find(kind) ?? PassageKind.Groove, timing, stop)}");
    }

    public async Task<IActionResult> OnPostSoundsAsync(ArrivalId arrival, Dictionary<string, string> sound, CancellationToken stop)
    {
        if (!await FindAsync(arrival, stop)) return NotFound();
        await sounds.SayAsync(SoundChoices.Read(sound), stop);
        return Redirect($"/files/{arrival}");
    }

    public async Task<IActionResult> OnPostForgetAsync(ArrivalId arrival, CancellationToken stop)
    {
        if (!await FindAsync(arrival, stop)) return NotFound();
        await arrivals.ForgetAsync(arrival, stop);
        TempData["Notice"] = Arrival.JobId is null ? "The files are forgotten; nothing of them was kept."
            : "The files are forgotten; the passages made of them stay.";
        return Redirect(Arrival.StudyId is { } study ? $"/studies/{study}/passages" : "/");
    }

    private async Task<bool> FindAsync(ArrivalId id, CancellationToken stop)
    {
        if (await arrivals.FindAsync(id, stop) is not { } found) return false;
        Arrival = found;
        return found.StudyId is not { } study || await EnterAsync(study, stop);
    }
}
