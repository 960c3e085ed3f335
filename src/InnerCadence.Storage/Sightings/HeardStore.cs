using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using Npgsql;

namespace InnerCadence.Storage.Sightings;

/// <summary>An idea heard at a place that nobody wrote down: a clock time or a bar, and a note.</summary>
public sealed record HeardRow
{
    public long Id { get; init; }
    public IdeaId IdeaId { get; init; }
    public RecordingId RecordingId { get; init; }
    public string Title { get; init; } = "";
    public string Take { get; init; } = "";
    public string Player { get; init; } = "";
    public DateOnly? RecordedFrom { get; init; }
    public DateOnly? RecordedTo { get; init; }
    public int? AtMs { get; init; }
    public int? Bar { get; init; }
    public string Note { get; init; } = "";
    public DateTime CreatedAt { get; init; }

    public string RecordingName => Take.Length == 0 ? Title : $"{Title}, {Take}";
    public ClockTime? At => AtMs is { } ms ? new(ms) : null;
}

/// <summary>
/// Sightings made by hand. They are confirmed by whoever heard them and count where their recording was searched, until the stamp they came
/// from is written
/// down: then the sighting in the passage stands for them.
/// </summary>
public sealed class HeardStore(NpgsqlDataSource source)
{
    private const string Columns =
        """
        select h.id, h.idea_id, h.recording_id, r.title, r.take, p.name as player, r.recorded_from, r.recorded_to, h.at_ms, h.bar, h.note,
          h.created_at
        from heard_sighting h join recording r on r.id = h.recording_id and r.deleted_at is null join player p on p.id = r.player_id
        left join stamp t on t.id = h.stamp_id
        """;

    public async Task<IReadOnlyList<HeardRow>> OfIdeaAsync(IdeaId idea, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<HeardRow>(new(
            $"{Columns} where h.idea_id = @idea and t.passage_id is null order by r.recorded_from nulls last, r.title, r.take, h.at_ms "
                + $"nulls last, h.bar, h.id",
            new { idea }, cancellationToken: stop))).AsList();
    }

    public async Task<IReadOnlyList<HeardRow>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<HeardRow>(new(
            $"{Columns} where r.study_id = @study and t.passage_id is null order by r.recorded_from nulls last, h.id", new { study },
                cancellationToken: stop))).AsList();
    }

    /// <summary>False where the recording and the idea are of different studies.</summary>
    public async Task<bool> AddAsync(IdeaId idea, RecordingId recording, ClockTime? at, int? bar, string note, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteAsync(new(
            """
            insert into heard_sighting (idea_id, recording_id, at_ms, bar, note)
            select i.id, r.id, @at, @bar, @note from idea i join recording r on r.study_id = i.study_id where i.id = @idea
              and r.id = @recording
            """, new { idea, recording, at, bar, note }, cancellationToken: stop)) == 1;
    }

    /// <summary>What was confirmed and is no longer found, after its text was corrected, stays as heard by hand at its bar; the sighting
    /// itself is rejected.</summary>
    /// <returns>False where it was judged since the given version was read, is found again, or nobody knows where it is.</returns>
    public async Task<bool> KeepAsync(SightingRow vanished, ClockTime? at, int? bar, int version, CancellationToken stop)
    {
        if (at is null && bar is null) return false;
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (await connection.ExecuteAsync(new(
            """
            update sighting set judgement = 'rejected', reason = 'No longer found; kept as heard by hand.', judged_at = now(),
              version = version + 1
            where id = @Id and version = @version and vanished and judgement = 'confirmed'
            """, new { vanished.Id, version }, transaction, cancellationToken: stop)) == 0) return false;
        await connection.ExecuteAsync(new(
            "insert into heard_sighting (idea_id, recording_id, at_ms, bar, note) values (@IdeaId, @RecordingId, @at, @bar, @note)",
            new
            {
                vanished.IdeaId,
                vanished.RecordingId,
                at,
                bar,
                note = vanished.Reason.Length > 0 ? vanished.Reason
                : "Found in an earlier text."
            }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return true;
    }

    /// <summary>A stamp of a listening session becomes a sighting; once, however often it is asked.</summary>
    /// <returns>False where the stamp is of no idea or is undone.</returns>
    public async Task<bool> AddAsync(StampId stamp, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteAsync(new(
            """
            insert into heard_sighting (idea_id, recording_id, at_ms, bar, note, stamp_id)
            select t.idea_id, s.recording_id, greatest(0, t.at_ms - s.reaction_ms), t.bar, t.note, t.id from stamp t
              join session s on s.id = t.session_id
            where t.id = @stamp and t.idea_id is not null and not t.undone
            on conflict (stamp_id) do update set note = heard_sighting.note
            """, new { stamp }, cancellationToken: stop)) == 1;
    }

    /// <summary>Stamps of a session that count as heard.</summary>
    public async Task<IReadOnlySet<StampId>> OfSessionAsync(SessionId session, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<StampId>(new(
            "select h.stamp_id from heard_sighting h join stamp t on t.id = h.stamp_id where t.session_id = @session", new { session },
                cancellationToken: stop))).ToHashSet();
    }

    public async Task RemoveAsync(IdeaId idea, long id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("delete from heard_sighting where id = @id and idea_id = @idea", new { id, idea },
            cancellationToken: stop));
    }
}
