using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Passages;
using Npgsql;

namespace InnerCadence.Storage.Evidence;

/// <summary>How early and late a study's players are, over all that was measured.</summary>
public sealed class FeelStore(NpgsqlDataSource source, WrittenPassages written, KeptReady kept)
{
    public Task<IReadOnlyList<RecordedGap>> OfStudyAsync(StudyId study, CancellationToken stop) =>
        kept.OfAsync(study, s => ReadAsync(study, s), all => 10L * all.Count, stop);

    private async Task<IReadOnlyList<RecordedGap>> ReadAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var offsets = (await connection.QueryAsync<(ReadingId Reading, int At, string Voice, double Ms, double Sure)>(new(
            """
            select o.reading_id, o.at_tick, o.voice, o.offset_ms, o.sureness from stroke_offset o
            join reading g on g.id = o.reading_id and g.preferred
            join passage a on a.id = g.passage_id and a.deleted_at is null
            join recording r on r.id = a.recording_id and r.deleted_at is null
            where r.study_id = @study
            """, new { study }, cancellationToken: stop))).ToLookup(o => o.Reading);
        return offsets.Count == 0 ? [] : RecordedGap.Of((await written.OfStudyAsync(study, stop))
            .Where(p => offsets.Contains(p.ReadingId)).Select(p =>
            new MeasuredReading(p.RecordingId.Value, p.RecordingName, p.Title, p.PlayerId.Value, p.RecordedFrom?.Year, p.RecordingTempo,
                p.PassageId.Value,
                p.Passage, [.. offsets[p.ReadingId].Where(o => Voice.Find(o.Voice) is not null)
                    .Select(o => new StrokeOffset(new(o.At), Voice.Find(o.Voice)!, o.Ms, o.Sure))])));
    }
}
