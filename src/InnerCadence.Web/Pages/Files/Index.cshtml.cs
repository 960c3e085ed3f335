using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Interchange;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages.Files;

/// <summary>Takes files of any kind, chosen here or dropped on any page, and goes on to where each is looked at.</summary>
[RequestSizeLimit(Arriving.MostBytes + 1024 * 1024), RequestFormLimits(MultipartBodyLengthLimit = Arriving.MostBytes + 1024 * 1024)]
public sealed class FilesModel(StudyStore studies, RecordingStore recordings, ImportStore imports, ArrivalStore arrivals,
    KnownSounds sounds) : StudyPage(studies)
{
    public string? Problem { get; private set; }
    public StudyId? For { get; private set; }
    public Recording? Recording { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId? study, RecordingId? recording, CancellationToken stop) =>
        await FindAsync(study, recording, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnPostAsync(StudyId? study, RecordingId? recording, IFormFileCollection file, CancellationToken stop)
    {
        if (!await FindAsync(study, recording, stop)) return NotFound();
        if (file.Count == 0) return Refuse("Choose a file first.");
        if (file.Count > ArrivalStore.MostFiles) return Refuse(
            $"These are {file.Count} files; {ArrivalStore.MostFiles} are taken at once.");
        var files = new List<(string Name, byte[] Content)>();
        foreach (var one in file)
        {
            using var bytes = new MemoryStream();
            await one.CopyToAsync(bytes, stop);
            files.Add((Arriving.NameOf(one), bytes.ToArray()));
        }
        return files is [var only] ? await OneAsync(only.Name, only.Content, stop)
            : Redirect($"/files/{await arrivals.AddAsync(For, Recording?.Id, files, stop)}");
    }

    private async Task<IActionResult> OneAsync(string name, byte[] content, CancellationToken stop)
    {
        switch (Arriving.KindOf(content))
        {
            case ArrivedKind.Study: return Redirect($"/files/{await arrivals.AddAsync(For, null, [(name, content)], stop)}/study");
            case ArrivedKind.Backup: return Refuse($"{name} is a backup of the whole installation: it is brought back in Settings.");
            case ArrivedKind.Sound: return Refuse($"{name} is a sound: open its recording, then Listen, and attach it there.");
            case ArrivedKind.Recordings when For is { } study:
                return Redirect(
                $"/imports/{await imports.AddAsync(study, name, content, CsvTable.Read(content), stop)}");
        }
        if (Arriving.KindOf(content) == ArrivedKind.Score
            && ScoreFiles.Read(content, out var problem, await sounds.MapAsync(stop), stop) is null) return Refuse($"{name}: {problem}");
        var arrival = await arrivals.AddAsync(For, Recording?.Id, [(name, content)], stop);
        return Redirect(Recording is { } into
            ? $"/recordings/{into.Id}/passages/new?file={(await arrivals.FilesAsync(arrival, stop))[0].Id}" : $"/files/{arrival}");
    }

    private PageResult Refuse(string why)
    {
        Problem = $"{why} Nothing was kept.";
        return Again();
    }

    private async Task<bool> FindAsync(StudyId? study, RecordingId? recording, CancellationToken stop)
    {
        if (recording is { } id)
        {
            if (await recordings.FindAsync(id, stop) is not { } found) return false;
            (Recording, study) = (found, found.StudyId);
        }
        For = study;
        return study is not { } entered || await EnterAsync(entered, stop);
    }
}
