using System.Globalization;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>A passage played by oneself: recorded by the browser’s microphone into a recording of own hands, its bars marked.</summary>
[RequestSizeLimit(MostBytes + 1024 * 1024), RequestFormLimits(MultipartBodyLengthLimit = MostBytes)]
public sealed class OwnHandsModel(StudyStore studies, RecordingStore recordings, TimelineStore timelines, PassageStore passages,
    SoundStore sounds,
    SoundFiles files, MediaTool tool, Records records, TimeProvider time) : StudyPage(studies)
{
    /// <summary>An hour of any sound that a browser records.</summary>
    private const long MostBytes = 1024L * 1024 * 1024;

    public PassageRow Passage { get; private set; } = null!;
    public Passage Read { get; private set; } = Core.Music.Passage.Empty;
    public RecordView? Record { get; private set; }
    public IReadOnlyList<Recording> Takes { get; private set; } = [];
    public bool CanRecord => tool.IsThere;
    private string Called => $"Own hands: {Passage.RecordingName}{(Passage.Bar is { } bar ? $", bar {bar}" : "")}";

    public async Task<IActionResult> OnGetAsync(PassageId passage, CancellationToken stop) => await FindAsync(passage, stop) ? Page()
        : NotFound();

    /// <summary>Keeps a take.</summary>
    /// <param name="bpm">At which it was played.</param>
    /// <param name="marks">Seconds of the bar lines in it, with spaces between.</param>
    public async Task<IActionResult> OnPostAsync(PassageId passage, IFormFile? file, double? bpm, string? marks, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        if (file is null || file.Length == 0) return new JsonResult(new { said = "Nothing was recorded." });
        if (!tool.IsThere) return new JsonResult(new { said = MediaTool.Missing });
        await using var content = file.OpenReadStream();
        var hash = await files.KeepAsync(content, stop);
        MediaFacts facts;
        try
        {
            facts = await sounds.FactsAsync(hash, tool, stop);
        }
        catch (UnreadableMediaException unreadable)
        {
            await sounds.ForgetAsync(hash, stop);
            return new JsonResult(new { said = $"{unreadable.Message} Nothing was kept." });
        }
        var now = time.GetLocalNow();
        var day = new PartialDate(DateOnly.FromDateTime(now.DateTime), DateOnly.FromDateTime(now.DateTime));
        var id = await recordings.AddAsync(Study.Id, new()
        {
            PlayerId = await AllStudies.OwnHandsAsync(Study.Id, stop),
            Title = Called.Length > UploadLimits.Name ? Called[..UploadLimits.Name] : Called,
            Take = now.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
            Kind = RecordingKind.Rehearsal,
            Recorded = day,
            Meter = string.Join(' ', Read.Meters.Meters),
            Tempo = bpm is { } goes && Bpm.Of(Math.Round(goes, 1)) is { } tempo ? tempo.Value : null,
        }, null, stop);
        var recording = (await recordings.FindAsync(id, stop))!;
        await sounds.AttachAsync(recording, hash, "own-hands.webm", "audio/webm", file.Length, facts.Seconds, false, stop, decodes: true);
        BarMark[] lines = [.. (marks ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(BarMarks.Most)
            .Select(m => double.TryParse(m, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var at) ? at : -1)
                .Where(at => at is >= 0 and < 86_400)
            .Select((at, i) => new BarMark(i + 1, new((int)Math.Round(at * 1000))))];
        if (BarMarks.Read(BarMarks.Say(lines), _ => { }) is { Count: > 0 } good) await timelines.SaveMarksAsync(id, good,
            recording.Version, stop);
        return new JsonResult(new { said = "Kept.", address = $"/recordings/{id}/listen" });
    }

    private async Task<bool> FindAsync(PassageId id, CancellationToken stop)
    {
        if (await passages.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        (Passage, Read) = (found, CountLines.Parse(found.Text).Passage);
        ViewData["Recording"] = found.RecordingId;
        Record = await records.BesideAsync(found, stop);
        Takes = [.. (await recordings.OfStudyAsync(Study.Id, stop)).Where(r => r.Title == Called).OrderByDescending(r => r.Take)];
        return true;
    }
}
