using Dapper;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Studies;

/// <summary>Something with a name that can be jumped to.</summary>
public sealed record FoundThing
{
    public string Kind { get; init; } = "";
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public string Detail { get; init; } = "";
}

/// <summary>Finds recordings, passages, ideas and claims of a study by part of their name.</summary>
public sealed class Finder(NpgsqlDataSource source)
{
    public async Task<IReadOnlyList<FoundThing>> FindAsync(StudyId study, string words, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<FoundThing>(new(
            """
            select 'idea' as kind, i.id, i.nickname as name, i.note as detail
            from idea i where i.study_id = @study and i.deleted_at is null and i.nickname ilike @like
            union all
            select 'recording', r.id, r.title || case when r.take = '' then '' else ', ' || r.take end,
              concat_ws(' · ', nullif(e.name, ''), extract(year from r.recorded_from)::text)
            from recording r left join ensemble e on e.id = r.ensemble_id left join release l on l.id = r.release_id
            where r.study_id = @study and r.deleted_at is null and concat_ws(' ', r.title, r.take, e.name, l.title) ilike @like
            union all
            select 'passage', a.id, r.title || case when r.take = '' then '' else ', ' || r.take end,
              concat_ws(' · ', a.kind, nullif(a.section, ''), 'bar ' || a.bar)
            from passage a join recording r on r.id = a.recording_id
            where r.study_id = @study and r.deleted_at is null and a.deleted_at is null
              and concat_ws(' ', r.title, r.take, a.kind, a.section) ilike @like
            union all
            select 'claim', c.id, c.sentence, '' from claim c where c.study_id = @study and c.deleted_at is null and c.sentence ilike @like
            order by kind, name limit 60
            """, new { study, like = $"%{Escaped(words)}%" }, cancellationToken: stop))).AsList();
    }

    private static string Escaped(string words) => words.Replace(@"\", @"\\").Replace("%", @"\%").Replace("_", @"\_");
}
