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
            var (startsAt, doubt, sound) = facts.GetValueOrDefault(row.PassageId);
            var (found, waiting) = account.InReading(row.ReadingId.Value);
            return new ListedPassage(row, startsAt, doubt, sound, found, waiting, account.IdeasIn(row.ReadingId.Value));
        })];
    }

    private async Task<IReadOnlyDictionary<PassageId, (int? StartsAt, bool Doubt, bool Sound)>> FactsAsync(StudyId study,
        CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<(PassageId Id, int? StartsAt, bool Doubt, bool Sound)>(new(
            """
            select a.id, a.starts_at_ms, count(*) > 1 or bool_or(g.preferred and g.confidence = 'guess'),
              exists (select from sound s where s.recording_id = a.recording_id)
            from passage a join reading g on g.passage_id = a.id join recording r on r.id = a.recording_id and r.deleted_at is null
            where r.study_id = @study and a.deleted_at is null group by a.id
            """, new { study }, cancellationToken: stop))).ToDictionary(f => f.Id, f => (f.StartsAt, f.Doubt, f.Sound));
    }
}
