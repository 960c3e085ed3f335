using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using Npgsql;

namespace InnerCadence.Storage.Recordings;

/// <summary>A stretch of a recording that was searched.</summary>
public sealed record CoverageRow
{
    public CoverageId Id { get; init; }
    public RecordingId RecordingId { get; init; }
    public string Closeness { get; init; } = "";
    public int? FromMs { get; init; }
    public int? ToMs { get; init; }
    public int? FromBar { get; init; }
    public int Bars { get; init; }
    /// <summary>What it was searched for; nothing for everything.</summary>
    public long[] IdeaIds { get; init; } = [];
    public string[] Ideas { get; init; } = [];
    public DateOnly SearchedOn { get; init; }
    public string ByWhom { get; init; } = "";
    public int Version { get; init; }

    public Closeness As => Enum.Parse<Closeness>(Closeness, true);
    public Search AsSearch() => new(Id.Value, As, FromBar, Bars, IdeaIds, SearchedOn);
    public (ClockTime From, ClockTime To)? Clock => FromMs is { } from && ToMs is { } to ? (new(from), new(to)) : null;
}

/// <param name="FromBar">First bar; nothing where only an amount is known.</param>
/// <param name="Clock">The span on the clock, where it was given so; its bars follow from the tempo map.</param>
/// <param name="For">The ideas that were looked for; none for everything.</param>
public sealed record CoverageDraft(Closeness Closeness, int? FromBar, int Bars, ValueList<IdeaId> For, DateOnly SearchedOn)
{
    public (ClockTime From, ClockTime To)? Clock { get; init; }
    public string ByWhom { get; init; } = "";
    /// <summary>Further spans of the same search.</summary>
    public ValueList<(int From, int Bars)> Also { get; init; } = [];
    /// <summary>An amount without a place stands for the first so many bars.</summary>
    public CoverageDraft FromTheFirst => FromBar is null && Clock is null ? this with { FromBar = 1 } : this;
}

/// <summary>What of each recording was searched, how closely, and for what.</summary>
public sealed class CoverageStore(NpgsqlDataSource source)
{
    private const string Columns =
        """
        select c.id, c.recording_id, c.closeness, c.from_ms, c.to_ms, c.from_bar, c.bars, c.searched_on, c.by_whom, c.version,
               coalesce((select array_agg(n.idea_id order by n.idea_id) from coverage_idea n where n.coverage_id = c.id), '{}') as idea_ids,
               coalesce((select array_agg(i.nickname order by n.idea_id) from coverage_idea n join idea i on i.id = n.idea_id
                 where n.coverage_id = c.id), '{}') as ideas
        from coverage c
        """;

    public async Task<IReadOnlyList<CoverageRow>> OfRecordingAsync(RecordingId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<CoverageRow>(new($"{Columns} where c.recording_id = @id order by c.searched_on, c.id",
            new { id }, cancellationToken: stop))).AsList();
    }

    /// <summary>Of every recording of a study, for its table.</summary>
    public async Task<IReadOnlyList<CoverageRow>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<CoverageRow>(new(
            $"{Columns} join recording r on r.id = c.recording_id where r.study_id = @study and r.deleted_at is null order by "
                + $"c.recording_id, c.searched_on, c.id", new { study }, cancellationToken: stop))).AsList();
    }

    public async Task AddAsync(RecordingId id, CoverageDraft draft, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await InsertAsync(connection, transaction, id, draft, stop);
        await transaction.CommitAsync(stop);
    }

    /// <summary>Takes one stretch out; gives it back so that it can be put in again, or nothing when there was none or another tab changed
    /// it.</summary>
    public async Task<CoverageRow?> RemoveAsync(RecordingId recording, CoverageId id, int version, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var gone = await connection.QuerySingleOrDefaultAsync<CoverageRow>(new(
            $"{Columns} where c.id = @id and c.recording_id = @recording and c.version = @version for update of c",
                new { id, recording, version }, transaction, cancellationToken: stop));
        if (gone is null) return null;
        await connection.ExecuteAsync(new("delete from coverage where id = @id", new { id }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return gone;
    }

    internal static async Task InsertAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, RecordingId id, CoverageDraft draft,
        CancellationToken stop)
    {
        await InsertOneAsync(connection, transaction, id, draft, stop);
        foreach (var (from, bars) in draft.Also) await InsertOneAsync(connection, transaction, id,
            draft with { FromBar = from, Bars = bars, Clock = null }, stop);
    }

    /// <summary>Says where an amount of searched bars lies: the row gets the first span, further ones stand beside it with the same day,
    /// closeness and ideas.</summary>
    /// <returns>False when another tab changed or removed it, or it has a place.</returns>
    public async Task<bool> PlaceAsync(RecordingId recording, CoverageId id, int version, IReadOnlyList<(int From, int Bars)> spans,
        CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (await connection.ExecuteAsync(new(
            "update coverage set from_bar = @From, bars = @Bars, from_ms = null, to_ms = null, version = version + 1 where id = @id and "
                + "recording_id = @recording and version = @version and from_bar is null",
            new { id, recording, version, spans[0].From, spans[0].Bars }, transaction, cancellationToken: stop)) == 0) return false;
        foreach (var (from, bars) in spans.Skip(1))
            await connection.ExecuteAsync(new(
                """
                with added as (
                  insert into coverage (recording_id, closeness, from_bar, bars, searched_on, by_whom)
                  select recording_id, closeness, @from, @bars, searched_on, by_whom from coverage where id = @id returning id),
                for_ideas as (insert into coverage_idea select added.id, n.idea_id from added, coverage_idea n where n.coverage_id = @id)
                insert into idea_noticed select n.idea_id, added.id from added, idea_noticed n where n.coverage_id = @id
                """, new { id, from, bars }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return true;
    }

    /// <summary>Every amount of a study without a place becomes the first so many bars of its recording.</summary>
    /// <returns>How many were placed.</returns>
    public async Task<int> PlaceFirstAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteAsync(new(
            """
            update coverage c set from_bar = 1, version = c.version + 1 from recording r
            where r.id = c.recording_id and r.study_id = @study and r.deleted_at is null and c.from_bar is null and c.from_ms is null
              and c.bars < coalesce(r.total_bars, 2147483647)
            """, new { study }, cancellationToken: stop));
    }

    private static async Task InsertOneAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, RecordingId id,
        CoverageDraft draft, CancellationToken stop) =>
        await connection.ExecuteAsync(new(
            """
            with added as (
              insert into coverage (recording_id, closeness, from_ms, to_ms, from_bar, bars, searched_on, by_whom)
              values (@id, @closeness, @fromMs, @toMs, @FromBar, @Bars, @SearchedOn, @ByWhom) returning id)
            insert into coverage_idea select added.id, idea from added, unnest(@ideas) as idea
            """,
            new
            {
                id,
                closeness = draft.Closeness.ToString().ToLowerInvariant(),
                fromMs = draft.Clock?.From,
                toMs = draft.Clock?.To,
                draft.FromBar,
                draft.Bars,
                draft.SearchedOn,
                draft.ByWhom,
                ideas = draft.For.Select(i => i.Value).Distinct().ToArray(),
            }, transaction, cancellationToken: stop));
}
