using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Evidence;
using Npgsql;

namespace InnerCadence.Storage.Studies;

/// <summary>Something that was begun and waits to be gone on with.</summary>
public sealed record WaitingThing
{
    /// <summary>session, stamps, sightings, files.</summary>
    public string Kind { get; init; } = "";
    /// <summary>Of the session, the study or the arrival.</summary>
    public long Id { get; init; }
    /// <summary>The recording, or the first of the files.</summary>
    public string Name { get; init; } = "";
    public int Count { get; init; }
    /// <summary>Where a session stood when it was left.</summary>
    public ClockTime? At { get; init; }
}

/// <summary>What waits in a study: open sessions, stamps to write down, sightings to judge, opened files.</summary>
public sealed class Waiting(NpgsqlDataSource source, EvidenceOfIdeas evidence)
{
    private const string Things =
        """
        select 'session' as kind, s.id, concat_ws(', ', r.title, nullif(r.take, '')) as name, 1 as count, s.at_ms as at, 1 as place
        from session s join recording r on r.id = s.recording_id where r.study_id = @study and r.deleted_at is null and s.ended_at is null
        union all
        select 'stamps', s.id, concat_ws(', ', r.title, nullif(r.take, '')), count(*)::int, null, 2
        from stamp t join session s on s.id = t.session_id join recording r on r.id = s.recording_id
        where r.study_id = @study and r.deleted_at is null and t.kind <> 'bar' and not t.undone and t.passage_id is null
          and not exists (select 1 from heard_sighting h where h.stamp_id = t.id)
        group by s.id, r.title, r.take
        union all
        select 'files', v.id, min(f.name), count(*)::int, null, 4
        from arrival v join arrived_file f on f.arrival_id = v.id where v.study_id = @study and f.said is null and v.job_id is null
          group by v.id
        """;

    /// <summary>What was begun first comes first in its kind.</summary>
    public async Task<IReadOnlyList<WaitingThing>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        var waiting = (await evidence.OfStudyAsync(study, stop)).Waiting;
        await using var connection = await source.OpenConnectionAsync(stop);
        var things = (await connection.QueryAsync<WaitingThing>(new($"{Things} order by place, id", new { study = study.Value },
            cancellationToken: stop))).AsList();
        return waiting == 0 ? things : [.. things.TakeWhile(t => t.Kind != "files"),
            new() { Kind = "sightings", Id = study.Value, Count = waiting }, .. things.SkipWhile(t => t.Kind != "files")];
    }
}
