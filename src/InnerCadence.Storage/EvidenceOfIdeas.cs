using Dapper;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage;

/// <summary>One recording and what it says about an idea.</summary>
public sealed record IdeaInRecording(Recording Recording, RecordingEvidence Evidence, Interval? Rate);

/// <summary>Brings together what was searched and what was found, for one idea.</summary>
public sealed class EvidenceOfIdeas(NpgsqlDataSource source, Recordings recordings, Sightings sightings)
{
    /// <summary>Every recording of the study, in order of date, with its searched amount and its sightings of the idea.</summary>
    public async Task<IReadOnlyList<IdeaInRecording>> ByRecordingAsync(IdeaRow idea, CancellationToken stop)
    {
        var found = (await sightings.OfIdeaAsync(idea.Id, stop)).ToLookup(s => s.RecordingId);
        var (searches, written) = await SearchedAsync(idea, stop);
        var rows = new List<IdeaInRecording>();
        foreach (var recording in await recordings.OfStudyAsync(idea.StudyId, stop))
        {
            var exposure = Exposure.Bars(recording.TotalBars, idea.NamedOn, searches[recording.Id].Select(s => s.Search), written[recording.Id].Select(w => w.Bars));
            var confirmed = found[recording.Id].Where(s => s.Judgement == "confirmed").ToList();
            // A passage written down because the idea was heard counts only where its place was searched anyway.
            var listened = Exposure.Bars(recording.TotalBars, idea.NamedOn, searches[recording.Id].Select(s => s.Search), []);
            var outside = confirmed.Where(s => exposure == 0 || (s.BecauseHeard && listened == 0)).ToList();
            var evidence = new RecordingEvidence(
                recording.TotalBars, exposure, confirmed.Count,
                confirmed.Except(outside).GroupBy(s => s.ReadingId).Sum(g => Occasions.Count(g.Select(s => (new Tick(s.StartTick), new Tick(s.EndTick))), BarOf(g.First().Text))),
                found[recording.Id].Count(s => s.Judgement == "near-miss"), found[recording.Id].Count(s => s.IsWaiting), outside.Count);
            rows.Add(new(recording, evidence, Estimates.Rate(confirmed.Count - outside.Count, exposure)));
        }
        return rows;
    }

    private async Task<(ILookup<RecordingId, SearchRow> Searches, ILookup<RecordingId, WrittenRow> Written)> SearchedAsync(IdeaRow idea, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        using var both = await connection.QueryMultipleAsync(new(
            """
            select c.recording_id, c.closeness, c.from_bar, c.bars, c.idea_id, c.searched_on
            from coverage c join recording r on r.id = c.recording_id
            where r.study_id = @StudyId and r.deleted_at is null;
            select a.recording_id, a.bar, g.bars as length, a.because_heard
            from passage a join reading g on g.passage_id = a.id and g.preferred join recording r on r.id = a.recording_id
            where r.study_id = @StudyId and r.deleted_at is null and a.deleted_at is null
            """, new { idea.StudyId }, cancellationToken: stop));
        var searches = (await both.ReadAsync<CoverageRow>()).Select(c => new SearchRow(
            c.RecordingId, new(c.As, c.FromBar, c.Bars, c.IdeaId is null, c.IdeaId == idea.Id, c.SearchedOn)));
        var written = (await both.ReadAsync<WrittenPassage>()).Select(w => new WrittenRow(w.RecordingId, new(w.Bar, w.Length, w.BecauseHeard)));
        return (searches.ToLookup(s => s.Recording), written.ToLookup(w => w.Recording));
    }

    private static Tick BarOf(string text) => CountLines.Parse(text).Passage.Meters.MeterOf(0).Length;

    private sealed record SearchRow(RecordingId Recording, Search Search);

    private sealed record WrittenRow(RecordingId Recording, WrittenBars Bars);

    private sealed record WrittenPassage
    {
        public RecordingId RecordingId { get; init; }
        public int? Bar { get; init; }
        public int Length { get; init; }
        public bool BecauseHeard { get; init; }
    }
}
