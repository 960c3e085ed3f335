using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Web.Interchange;

/// <param name="Arrival">The files that wait.</param>
public sealed record ArrivedInput(long Arrival);

/// <summary>The long work of making passages of many files, file by file, so that a crash loses one file’s work at most and makes none
/// twice.</summary>
public sealed class ArrivedScores(ArrivalStore arrivals, StudyStore studies, KnownSounds sounds, ILogger<ArrivedScores> log)
    : Work<ArrivedInput>(ArrivalStore.Job, "Making passages of files")
{
    protected override async Task RunAsync(ArrivedInput input, JobRun run)
    {
        var (id, stop) = (new ArrivalId(input.Arrival), run.Stop);
        var (arrival, map) = (await arrivals.FindAsync(id, stop), await sounds.MapAsync(stop));
        if (arrival?.StudyId is not { } studyId || await studies.FindAsync(studyId, stop) is not { } study) throw new JobFailedException(
            "The files or their study were deleted; nothing more was made.");
        var files = await arrivals.FilesAsync(id, stop);
        for (var i = 0; i < files.Count; i++)
        {
            await run.BeatAsync(i * 100 / files.Count, $"{files[i].Name}, {i + 1} of {files.Count}.",
                $"Stopped after {i} of {files.Count} files; what was made is kept.");
            if (files[i].Said is null) await OneAsync(files[i]);
        }
        var made = (await arrivals.FilesAsync(id, stop)).Count(f => f.PassageId is not null);
        await run.DoneAsync($"{made} {(made == 1 ? "passage" : "passages")} of {files.Count} {(files.Count == 1 ? "file" : "files")}.");

        async Task OneAsync(ArrivedFile file)
        {
            if (Arriving.KindOf(file.Content) != ArrivedKind.Score
                || ScoreFiles.ReadOne(file.Content, out _, map, log, stop) is not { } score)
            {
                await arrivals.SayAsync(file.Id, "Left out: it could not be read as a passage.", stop);
                return;
            }
            if (score.Passage.Strokes.IsEmpty)
            {
                await arrivals.SayAsync(file.Id, "Left out: no drum is known for any of its sounds.", stop);
                return;
            }
            var own = new RecordingDraft
            {
                PlayerId = study.Subject.Id,
                Title = Arriving.TitleOf(file.Name),
                Kind = RecordingKind.Studio,
                Meter = score.Passage.Meters.MeterOf(0).ToString(),
                Tempo = score.Passage.Tempo?.Value,
                Note = $"Made for the file {file.Name}.",
            };
            var draft = new PassageDraft
            {
                Text = score.Text,
                Bars = score.Passage.Bars,
                Kind = arrival.Kind,
                HeardFrom = "colleague",
                Note = string.Join(' ', score.Doubts.Prepend($"From the file {file.Name}.")) is var note && note.Length > UploadLimits.Note
                ? note[..UploadLimits.Note] : note
            };
            await arrivals.MakeAsync(file, studyId, arrival.RecordingId, own, draft, arrival.KeepsTiming ? score.Offsets : [],
                score.Unknown.Count > 0 ? $"Made, without {string.Join(", ", score.Unknown.Select(u => u.Called))}." : "Made.", stop);
        }
    }
}
