using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Timing;
using Npgsql;

namespace InnerCadence.Storage;

/// <summary>One performance that was fixed, as a person describes it.</summary>
public sealed record RecordingDraft
{
    public required PlayerId PlayerId { get; init; }
    public required string Title { get; init; }
    public string Ensemble { get; init; } = "";
    public string Release { get; init; } = "";
    public PartialDate? Recorded { get; init; }
    public required string Kind { get; init; }
    public string Take { get; init; } = "";
    public string Meter { get; init; } = "4/4";
    public double? Tempo { get; init; }
    public ClockTime? Duration { get; init; }
    public int? TotalBars { get; init; }
    public string Note { get; init; } = "";

    public static readonly IReadOnlyList<string> Kinds = ["studio", "live", "broadcast", "rehearsal"];
}

/// <summary>A recording with what was written about it and how much of it was searched.</summary>
public sealed record Recording
{
    public RecordingId Id { get; init; }
    public StudyId StudyId { get; init; }
    public PlayerId PlayerId { get; init; }
    public string Player { get; init; } = "";
    public bool BySubject { get; init; }
    public string Title { get; init; } = "";
    public string Ensemble { get; init; } = "";
    public string Release { get; init; } = "";
    public DateOnly? RecordedFrom { get; init; }
    public DateOnly? RecordedTo { get; init; }
    public string Kind { get; init; } = "";
    public string Take { get; init; } = "";
    public string Meter { get; init; } = "";
    public double? Tempo { get; init; }
    public int? DurationMs { get; init; }
    public int? TotalBars { get; init; }
    public string Note { get; init; } = "";
    public int Version { get; init; }
    public int Passages { get; init; }
    public int WrittenBars { get; init; }
    public int ListenedBars { get; init; }

    public PartialDate? Recorded => RecordedFrom is { } from && RecordedTo is { } to ? new(from, to) : null;
    public ClockTime? Duration => DurationMs is { } ms ? new(ms) : null;
    /// <summary>Title and take: Lantern Street, take 2.</summary>
    public string Name => Take.Length == 0 ? Title : $"{Title}, {Take}";
}

/// <summary>A stretch of a recording that was searched.</summary>
public sealed record CoverageRow
{
    public CoverageId Id { get; init; }
    public RecordingId RecordingId { get; init; }
    public string Closeness { get; init; } = "";
    public int? FromBar { get; init; }
    public int Bars { get; init; }
    public IdeaId? IdeaId { get; init; }
    public string? Idea { get; init; }
    public DateOnly SearchedOn { get; init; }

    public Closeness As => Enum.Parse<Closeness>(Closeness, true);
}

public sealed record CoverageDraft(Closeness Closeness, int? FromBar, int Bars, IdeaId? IdeaId, DateOnly SearchedOn);

public sealed class Recordings(NpgsqlDataSource source)
{
    private const string Columns =
        """
        select r.id, r.study_id, r.player_id, p.name as player, p.role = 'subject' as by_subject, r.title, r.ensemble, r.release,
               r.recorded_from, r.recorded_to, r.kind, r.take, r.meter, r.tempo, r.duration_ms, r.total_bars, r.note, r.version,
               coalesce(w.passages, 0)::int as passages, coalesce(w.bars, 0)::int as written_bars, coalesce(c.bars, 0)::int as listened_bars
        from recording r
        join study s on s.id = r.study_id and s.deleted_at is null
        join player p on p.id = r.player_id
        left join lateral (select count(*) as passages, sum(g.bars) as bars from passage a join reading g on g.passage_id = a.id and g.preferred
                           where a.recording_id = r.id and a.deleted_at is null) w on true
        left join lateral (select max(v.bars) as bars from coverage v where v.recording_id = r.id and v.closeness <> 'skimmed') c on true
        """;

    public async Task<IReadOnlyList<Recording>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<Recording>(new(
            $"""
            {Columns}
            where r.study_id = @study and r.deleted_at is null
            order by p.role desc, r.recorded_from nulls last, r.title, r.take, r.id
            """, new { study }, cancellationToken: stop))).AsList();
    }

    /// <summary>Nothing when there is no such recording, or it or its study is deleted.</summary>
    public async Task<Recording?> FindAsync(RecordingId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<Recording>(new(
            $"{Columns} where r.id = @id and r.deleted_at is null", new { id }, cancellationToken: stop));
    }

    public async Task<RecordingId> AddAsync(StudyId study, RecordingDraft draft, CoverageDraft? searched, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var id = await connection.ExecuteScalarAsync<long>(new(
            """
            insert into recording (study_id, player_id, title, ensemble, release, recorded_from, recorded_to, kind, take, meter, tempo, duration_ms, total_bars, note)
            values (@study, @PlayerId, @Title, @Ensemble, @Release, @from, @to, @Kind, @Take, @Meter, @Tempo, @Duration, @TotalBars, @Note)
            returning id
            """, Parameters(draft, study: study), transaction, cancellationToken: stop));
        if (searched is not null) await InsertCoverageAsync(connection, transaction, new(id), searched, stop);
        await transaction.CommitAsync(stop);
        return new(id);
    }

    /// <summary>False when somebody changed the recording since the given version was read.</summary>
    public async Task<bool> UpdateAsync(RecordingId id, RecordingDraft draft, int version, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteAsync(new(
            """
            update recording set player_id = @PlayerId, title = @Title, ensemble = @Ensemble, release = @Release, recorded_from = @from, recorded_to = @to,
                   kind = @Kind, take = @Take, meter = @Meter, tempo = @Tempo, duration_ms = @Duration, total_bars = @TotalBars, note = @Note,
                   version = version + 1
            where id = @id and version = @version and deleted_at is null
            """, Parameters(draft, id: id, version: version), cancellationToken: stop)) == 1;
    }

    public Task DeleteAsync(RecordingId id, CancellationToken stop) => MarkAsync("update recording set deleted_at = now() where id = @id", id, stop);

    public Task RestoreAsync(RecordingId id, CancellationToken stop) => MarkAsync("update recording set deleted_at = null where id = @id", id, stop);

    public async Task<IReadOnlyList<CoverageRow>> CoverageOfAsync(RecordingId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<CoverageRow>(new(
            """
            select c.id, c.recording_id, c.closeness, c.from_bar, c.bars, c.idea_id, i.nickname as idea, c.searched_on
            from coverage c left join idea i on i.id = c.idea_id
            where c.recording_id = @id
            order by c.searched_on, c.id
            """, new { id }, cancellationToken: stop))).AsList();
    }

    public async Task AddCoverageAsync(RecordingId id, CoverageDraft draft, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await InsertCoverageAsync(connection, null, id, draft, stop);
    }

    /// <summary>Takes one stretch out; gives it back so that it can be put in again, or nothing when there was none.</summary>
    public async Task<CoverageRow?> RemoveCoverageAsync(RecordingId recording, CoverageId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<CoverageRow>(new(
            "delete from coverage where id = @id and recording_id = @recording returning id, recording_id, closeness, from_bar, bars, idea_id, searched_on",
            new { id, recording }, cancellationToken: stop));
    }

    private static Task InsertCoverageAsync(NpgsqlConnection connection, NpgsqlTransaction? transaction, RecordingId id, CoverageDraft draft, CancellationToken stop) =>
        connection.ExecuteAsync(new(
            "insert into coverage (recording_id, closeness, from_bar, bars, idea_id, searched_on) values (@id, @closeness, @FromBar, @Bars, @IdeaId, @SearchedOn)",
            new { id, closeness = draft.Closeness.ToString().ToLowerInvariant(), draft.FromBar, draft.Bars, draft.IdeaId, draft.SearchedOn },
            transaction, cancellationToken: stop));

    private async Task MarkAsync(string sql, RecordingId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(sql, new { id }, cancellationToken: stop));
    }

    private static object Parameters(RecordingDraft draft, StudyId study = default, RecordingId id = default, int version = 0) => new
    {
        study,
        id,
        version,
        draft.PlayerId,
        draft.Title,
        draft.Ensemble,
        draft.Release,
        draft.Kind,
        draft.Take,
        draft.Meter,
        draft.Tempo,
        draft.Duration,
        draft.TotalBars,
        draft.Note,
        from = draft.Recorded?.Earliest,
        to = draft.Recorded?.Latest,
    };
}
