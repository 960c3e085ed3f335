using Dapper;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Studies;

/// <summary>Something that was deleted and can be brought back.</summary>
public sealed record DeletedThing
{
    public string Kind { get; init; } = "";
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public DateTime DeletedAt { get; init; }
}

/// <summary>What was deleted from a study; nothing in it is thrown away.</summary>
public sealed class Trash(NpgsqlDataSource source)
{
    /// <summary>Newest first. What went with something else, as a passage with its recording, comes back with it and is not told
    /// apart.</summary>
    public async Task<IReadOnlyList<DeletedThing>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<DeletedThing>(new(
            """
            select 'recording' as kind, r.id, concat_ws(', ', r.title, nullif(r.take, '')) as name, r.deleted_at
            from recording r where r.study_id = @study and r.deleted_at is not null
            union all
            select 'passage', a.id, concat_ws(' · ', concat_ws(', ', r.title, nullif(r.take, '')), a.kind, 'bar ' || a.bar), a.deleted_at
            from passage a join recording r on r.id = a.recording_id where r.study_id = @study and a.deleted_at is not null
              and r.deleted_at is null
            union all
            select 'idea', i.id, i.nickname, i.deleted_at from idea i where i.study_id = @study and i.deleted_at is not null
            union all
            select 'claim', c.id, c.sentence, c.deleted_at from claim c where c.study_id = @study and c.deleted_at is not null
            union all
            select 'practice', p.id, p.name, p.deleted_at from practice_item p where p.study_id = @study and p.deleted_at is not null
            order by deleted_at desc, kind, id
            """, new { study }, cancellationToken: stop))).AsList();
    }
}
