using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Recordings;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>One listening to a recording: what was listened for, how far it got.</summary>
public sealed record SessionRow
{
    public SessionId Id { get; init; }
    public RecordingId RecordingId { get; init; }
    public bool Everything { get; init; }
    public string ByWhom { get; init; } = "";
    public int ReactionMs { get; init; }
    public int AtMs { get; init; }
    public DateTime CreatedAt { get; init; }
    public DateTime? EndedAt { get; init; }

    public bool IsOver => EndedAt is not null;
}

/// <summary>Something noticed at a clock time.</summary>
public sealed record StampRow
{
    public StampId Id { get; init; }
    public Guid Key { get; init; }
    public string Kind { get; init; } = "";
    public IdeaId? IdeaId { get; init; }
    public string? Idea { get; init; }
    public int AtMs { get; init; }
    public int? Bar { get; init; }
    public string Note { get; init; } = "";
    public PassageId? PassageId { get; init; }
}

/// <summary>What a listening page sends: each thing has a key of its own, so that it can be sent again when no answer came.</summary>
public sealed record StampDraft(Guid Key, string Kind, IdeaId? IdeaId, int AtMs, int? Bar, string Note, bool Undone)
{
    public static readonly IReadOnlyList<string> Kinds = ["idea", "fill", "bar", "note"];
}

public sealed record HeardDraft(Guid Key, int FromMs, int ToMs);

/// <summary>Listening sessions: kept as they run, turned into coverage and bar marks when they end.</summary>
public sealed class SessionStore(NpgsqlDataSource source, TimelineStore timelines)
{
    /// <summary>How many ideas can stand on keys.</summary>
    public const int Keys = 9;

    private const string Columns = "id, recording_id, everything, by_whom, reaction_ms, at_ms, created_at, ended_at";

    public async Task<SessionId> BeginAsync(RecordingId recording, bool everything, IReadOnlyList<IdeaId> ideas, string byWhom,
        int reactionMs, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return new(await connection.ExecuteScalarAsync<long>(new(
            """
            with s as (insert into session (recording_id, everything, by_whom, reaction_ms)
              values (@recording, @everything, @byWhom, @reactionMs) returning id),
                 i as (insert into session_idea select s.id, n, idea from s, unnest(@ideas) with ordinality as x (idea, n))
            select id from s
            """, new { recording, everything, byWhom, reactionMs, ideas = ideas.Select(i => i.Value).Distinct().Take(Keys).ToArray() },
                cancellationToken: stop)));
    }

    public async Task<SessionRow?> FindAsync(SessionId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<SessionRow>(new($"select {Columns} from session where id = @id", new { id },
            cancellationToken: stop));
    }

    /// <summary>Newest first.</summary>
    public async Task<IReadOnlyList<SessionRow>> OfRecordingAsync(RecordingId recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<SessionRow>(
            new($"select {Columns} from session where recording_id = @recording order by id desc", new { recording },
            cancellationToken: stop))).AsList();
    }

    /// <summary>The ideas on the keys 1 to 9.</summary>
    public async Task<IReadOnlyList<(int Key, IdeaId Id, string Nickname)>> IdeasAsync(SessionId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<(int, IdeaId, string)>(new(
            "select k.key, k.idea_id, i.nickname from session_idea k join idea i on i.id = k.idea_id where k.session_id = @id order by "
                + "k.key", new { id }, cancellationToken: stop))).AsList();
    }

    /// <summary>The ideas that the study's last session had on its keys; none when no session had any.</summary>
    public async Task<IReadOnlySet<IdeaId>> LastKeysAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<IdeaId>(new(
            """
            select k.idea_id from session_idea k where k.session_id =
              (select max(s.id) from session s join recording r on r.id = s.recording_id
                join session_idea any_key on any_key.session_id = s.id where r.study_id = @study)
            """, new { study }, cancellationToken: stop))).ToHashSet();
    }

    public async Task<IReadOnlyList<StampRow>> StampsAsync(SessionId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<StampRow>(new(
            """
            select t.id, t.key, t.kind, t.idea_id, i.nickname as idea, t.at_ms, t.bar, t.note, a.id as passage_id
            from stamp t left join idea i on i.id = t.idea_id left join passage a on a.id = t.passage_id and a.deleted_at is null
            where t.session_id = @id and not t.undone order by t.at_ms, t.id
            """, new { id }, cancellationToken: stop))).AsList();
    }

    /// <summary>The spans that passed, laid over each other.</summary>
    public async Task<IReadOnlyList<(ClockTime From, ClockTime To)>> HeardAsync(SessionId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await HeardAsync(connection, null, id, stop);
    }

    /// <summary>Keeps what came of a running session; what is sent twice is kept once. False when the session is over.</summary>
    public async Task<bool> KeepAsync(SessionId id, IReadOnlyCollection<StampDraft> stamps, IReadOnlyCollection<HeardDraft> heard,
        int atMs, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (await connection.ExecuteAsync(new("update session set at_ms = @atMs where id = @id and ended_at is null", new { id, atMs },
            transaction, cancellationToken: stop)) == 0) return false;
        foreach (var stamp in stamps)
            await connection.ExecuteAsync(new(
                """
                insert into stamp (session_id, key, kind, idea_id, at_ms, bar, note, undone)
                  values (@id, @Key, @Kind, @IdeaId, @AtMs, @Bar, @Note, @Undone)
                on conflict (key) do update set note = excluded.note, undone = excluded.undone, bar = excluded.bar
                  where stamp.session_id = excluded.session_id
                """, new { id, stamp.Key, stamp.Kind, stamp.IdeaId, stamp.AtMs, stamp.Bar, stamp.Note, stamp.Undone }, transaction,
                    cancellationToken: stop));
        foreach (var span in heard)
            await connection.ExecuteAsync(new(
                """
                insert into heard (session_id, key, from_ms, to_ms) values (@id, @Key, @FromMs, @ToMs)
                on conflict (session_id, key) do update set to_ms = greatest(heard.to_ms, excluded.to_ms)
                """, new { id, span.Key, span.FromMs, span.ToMs }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return true;
    }

    /// <summary>
    /// Ends a session: the spans that passed become coverage, for what was listened for, and its bar marks are added to the recording's
    /// where they
    /// go forward with them. False when it was over.
    /// </summary>
    public async Task<bool> EndAsync(SessionRow session, Recording recording, CancellationToken stop)
    {
        var timeline = await timelines.OfAsync(recording, stop);
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (await connection.ExecuteAsync(new("update session set ended_at = now() where id = @Id and ended_at is null",
            new { session.Id }, transaction, cancellationToken: stop)) == 0) return false;
        var stamped = await connection.QueryAsync<(int Bar, int At)>(new(
            "select bar, min(at_ms) from stamp where session_id = @Id and kind = 'bar' and not undone and bar is not null group by bar "
                + "order by bar", new { session.Id }, transaction, cancellationToken: stop));
        foreach (var mark in BarMarks.Fitting(timeline.Marks,
            stamped.Select(s => new BarMark(s.Bar, new(Math.Max(0, s.At - session.ReactionMs))))))
            await connection.ExecuteAsync(
                new("insert into bar_mark (recording_id, bar, at_ms) values (@recording, @Bar, @At) on conflict do nothing",
                new { recording = recording.Id, mark.Bar, mark.At }, transaction, cancellationToken: stop));
        IdeaId[] ideas = session.Everything ? [] : [.. (
            await connection.QueryAsync<IdeaId>(new("select idea_id from session_idea where session_id = @Id order by key",
            new { session.Id }, transaction, cancellationToken: stop)))];
        foreach (var span in await HeardAsync(connection, transaction, session.Id, stop))
        {
            var (from, bars) = TimelineStore.Searched(timeline, recording, span);
            await CoverageStore.InsertAsync(connection, transaction, recording.Id,
                new CoverageDraft(Closeness.Listened, from, bars, ideas, DateOnly.FromDateTime(DateTime.Now))
                {
                    Clock = span,
                    ByWhom = session.ByWhom
                }, stop);
        }
        await connection.ExecuteAsync(new("update recording set version = version + 1 where id = @Id", new { recording.Id }, transaction,
            cancellationToken: stop));
        await TimelineStore.FollowAsync(connection, transaction, recording.Id, stop);
        await transaction.CommitAsync(stop);
        return true;
    }

    /// <summary>Says that a stamp was written down as a passage.</summary>
    /// <returns>The session; nothing where the stamp is of another recording.</returns>
    public async Task<SessionId?> LocateAsync(StampId stamp, PassageId passage, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<SessionId?>(new(
            """
            update stamp t set passage_id = @passage from session s, passage a
            where t.id = @stamp and s.id = t.session_id and a.id = @passage and a.recording_id = s.recording_id returning s.id
            """, new { stamp, passage }, cancellationToken: stop));
    }

    /// <summary>What was noted with a stamp of a recording; nothing where it is of another.</summary>
    public async Task<string?> NoteAsync(StampId stamp, RecordingId recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<string?>(new(
            "select t.note from stamp t join session s on s.id = t.session_id where t.id = @stamp and s.recording_id = @recording",
            new { stamp, recording }, cancellationToken: stop));
    }

    private static async Task<IReadOnlyList<(ClockTime From, ClockTime To)>> HeardAsync(NpgsqlConnection connection,
        NpgsqlTransaction? transaction, SessionId id, CancellationToken stop) =>
        // A second of silence between two spans is the hand on the pause key.
        [.. (await connection.QueryAsync<(int From, int To)>(new(
            """
            select lower(span), upper(span)
            from session s, unnest((select range_agg(int4range(from_ms, to_ms + 1000)) from heard where session_id = s.id
              and to_ms > from_ms)) as span
            where s.id = @id order by 1
            """, new { id }, transaction, cancellationToken: stop))).Select(s => (new ClockTime(s.From), new ClockTime(s.To - 1000)))];
}
