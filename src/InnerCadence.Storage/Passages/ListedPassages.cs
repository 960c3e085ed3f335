using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using Npgsql;

namespace InnerCadence.Storage.Passages;

/// <summary>All passages of a study as their list shows them, by player, date and place.</summary>
public sealed class ListedPassages(NpgsqlDataSource source, WrittenPassages written, EvidenceOfIdeas evidence)
{
    public async Task<IReadOnlyList<ListedPassage>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        var facts = await FactsAsync(study, stop);
        var account = await evidence.AccountAsync(study, stop);
        return [.. (await written.OfStudyAsync(study, stop)).OrderByDescending(w => w.BySubject).Select(row =>
        {
            var (found, waiting) = account.InReading(row.ReadingId.Value);
            return new ListedPassage(row, facts.GetValueOrDefault(row.PassageId), found, waiting, account.IdeasIn(row.ReadingId.Value));
        })];
    }

    private async Task<IReadOnlyDictionary<PassageId, PassageFacts>> FactsAsync(StudyId study,
        CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<(PassageId Id, int? StartsAt, int Readings, string Confidence, bool Sound)>(new(
            """
            select a.id, a.starts_at_ms, count(*)::int, max(g.confidence) filter (where g.preferred),
              exists (select from sound s where s.recording_id = a.recording_id)
            from passage a join reading g on g.passage_id = a.id join recording r on r.id = a.recording_id and r.deleted_at is null
            where r.study_id = @study and a.deleted_at is null group by a.id
            """, new { study }, cancellationToken: stop)))
            .ToDictionary(f => f.Id, f => new PassageFacts(f.StartsAt, f.Readings, f.Confidence, f.Sound));
    }
}
