using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Evidence;
using Npgsql;

namespace InnerCadence.Storage.Recordings;

/// <summary>One performance that was fixed, as a person describes it.</summary>
public sealed record RecordingDraft
{
    public required PlayerId PlayerId { get; init; }
    public required string Title { get; init; }
    public string Ensemble { get; init; } = "";
    public string Release { get; init; } = "";
    public PartialDate? Recorded { get; init; }
    public PartialDate? Issued { get; init; }
    public Certainty Sure { get; init; }
    public RecordingKind Kind { get; init; }
    public string Take { get; init; } = "";
    public string Meter { get; init; } = "4/4";
    public double? Tempo { get; init; }
    public TempoReading TempoRead { get; init; }
    public ClockTime? Duration { get; init; }
    public int? TotalBars { get; init; }
    public string Kit { get; init; } = "";
    public string Note { get; init; } = "";
    /// <summary>Date in the words in which it was typed; empty where the date says it so itself. The same for what follows.</summary>
    public string RecordedSaid { get; init; } = "";
    public string IssuedSaid { get; init; } = "";
    public string TempoSaid { get; init; } = "";
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
    public DateOnly? IssuedFrom { get; init; }
    public DateOnly? IssuedTo { get; init; }
    public Certainty Sure { get; init; }
    public RecordingKind Kind { get; init; }
    public string Take { get; init; } = "";
    public string Meter { get; init; } = "4/4";
    public double? Tempo { get; init; }
    public TempoReading TempoRead { get; init; }
    public string Form { get; init; } = "";
    public int? ChartFirstBar { get; init; }
    public string ChartRepeats { get; init; } = "";
    public int? DurationMs { get; init; }
    public int? TotalBars { get; init; }
    /// <summary>Toms of the kit, codes from high to low; empty where nobody said.</summary>
    public string Kit { get; init; } = "";
    public string Note { get; init; } = "";
    public string RecordedSaid { get; init; } = "";
    public string IssuedSaid { get; init; } = "";
    public string TempoSaid { get; init; } = "";
    public int Version { get; init; }
    public int Passages { get; init; }
    public int WrittenBars { get; init; }
    public int ListenedBars { get; init; }
    /// <summary>Bars searched at all, each once.</summary>
    public int SearchedBars { get; init; }

    /// <summary>Searched bars of which nobody said where: in no number.</summary>
    public int NotPlaced { get; init; }

    public PartialDate? Issued => IssuedFrom is { } from && IssuedTo is { } to ? new(from, to) : null;
    /// <summary>The tempo as it is felt.</summary>
    public double? FeltTempo => Tempo * TempoRead.Times;
    public MeterCycle Meters => new([.. Meter.Split(' ', StringSplitOptions.RemoveEmptyEntries)
        .Select(m => Core.Music.Meter.Parse(m) ?? Core.Music.Meter.CommonTime)]);
    public PartialDate? Recorded => RecordedFrom is { } from && RecordedTo is { } to ? new(from, to) : null;
    public ClockTime? Duration => DurationMs is { } ms ? new(ms) : null;
    /// <summary>Title and take: Lantern Street, take 2.</summary>
    public string Name => Take.Length == 0 ? Title : $"{Title}, {Take}";
}

public sealed class RecordingStore(NpgsqlDataSource source, KeptReady kept)
{
    public RecordingStore(NpgsqlDataSource source) : this(source, new(source)) { }

    private static string Columns(string which) =>
        $"""
        with w as ({SearchedBars.Of(which)})
        select r.id, r.study_id, r.player_id, p.name as player, p.role = 'subject' as by_subject, r.title, coalesce(e.name, '') as ensemble,
          coalesce(l.title, '') as release,
               r.recorded_from, r.recorded_to, r.issued_from, r.issued_to, r.sure, r.kind, r.take, r.meter, r.tempo, r.tempo_read, r.form,
                 r.chart_first_bar, r.chart_repeats, r.duration_ms, r.total_bars, r.kit, r.note, r.recorded_said, r.issued_said, r.tempo_said, r.version,
               coalesce(w.passages, 0) as passages, coalesce(w.written_bars, 0) as written_bars,
               coalesce(w.listened_bars, 0) as listened_bars, coalesce(w.searched_bars, 0) as searched_bars,
                 coalesce(w.not_placed, 0) as not_placed
        from recording r
        join study s on s.id = r.study_id and s.deleted_at is null
        join player p on p.id = r.player_id
        left join ensemble e on e.id = r.ensemble_id
        left join release l on l.id = r.release_id
        left join w on w.recording_id = r.id
        """;

    public Task<IReadOnlyList<Recording>> OfStudyAsync(StudyId study, CancellationToken stop) =>
        kept.OfAsync(study, s => ReadAsync(study, s), all => all.Count, stop);

    private async Task<IReadOnlyList<Recording>> ReadAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<Recording>(new(
            $"""
            {Columns("r.study_id = @study")}
            where r.study_id = @study and r.deleted_at is null
            order by p.role desc, r.recorded_from nulls last, r.title, r.take, r.id
            """, new { study }, cancellationToken: stop))).AsList();
    }

    /// <summary>Nothing when there is no such recording, or it or its study is deleted.</summary>
    public async Task<Recording?> FindAsync(RecordingId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<Recording>(new(
            $"{Columns("r.id = @id")} where r.id = @id and r.deleted_at is null", new { id }, cancellationToken: stop));
    }

    public async Task<RecordingId> AddAsync(StudyId study, RecordingDraft draft, CoverageDraft? searched, CancellationToken stop) =>
        (await AddAsync(study, [(draft, searched)], stop))[0];

    /// <summary>All of them or none.</summary>
    public async Task<IReadOnlyList<RecordingId>> AddAsync(StudyId study,
        IEnumerable<(RecordingDraft Draft, CoverageDraft? Searched)> drafts, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var ids = new List<RecordingId>();
        foreach (var (draft, searched) in drafts)
        {
            ids.Add(await InsertAsync(connection, transaction, study, draft, stop));
            if (searched is not null) await CoverageStore.InsertAsync(connection, transaction, ids[^1], searched, stop);
        }
        await transaction.CommitAsync(stop);
        return ids;
    }

    internal static async Task<RecordingId> InsertAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, StudyId study,
        RecordingDraft draft, CancellationToken stop) => new(
        await connection.ExecuteScalarAsync<long>(new(
            $"""
            {Names}
            insert into recording (study_id, player_id, title, ensemble_id, release_id, recorded_from, recorded_to, issued_from, issued_to,
              sure, kind, take, meter, tempo, tempo_read,
                                   duration_ms, total_bars, kit, note, recorded_said, issued_said, tempo_said)
            values (@study, @PlayerId, @Title, (select id from e), (select id from l), @from, @to, @issuedFrom, @issuedTo, @Sure, @Kind,
              @Take, @Meter, @Tempo, @TempoRead, @Duration, @TotalBars, @Kit, @Note, @RecordedSaid, @IssuedSaid, @TempoSaid)
            returning id
            """, Parameters(draft, study: study), transaction, cancellationToken: stop)));

    // The ensemble and the release of these names, made if the study has none such. The no-op update makes "returning" give a row that
    // another tab made meanwhile.
    private const string Names =
        """
        with e0 as (select id from ensemble where study_id = @study and name = @Ensemble),
             e1 as (insert into ensemble (study_id, name) select @study, @Ensemble where @Ensemble <> '' and not exists (select 1 from e0)
                    on conflict (study_id, name) do update set name = excluded.name returning id),
             e as (select id from e0 union all select id from e1),
             l0 as (select id from release where study_id = @study and title = @Release),
             l1 as (insert into release (study_id, title) select @study, @Release where @Release <> '' and not exists (select 1 from l0)
                    on conflict (study_id, title) do update set title = excluded.title returning id),
             l as (select id from l0 union all select id from l1)
        """;

    /// <summary>False when somebody changed the recording since the given version was read. Its bars and clock follow a new meter or
    /// tempo.</summary>
    public async Task<bool> UpdateAsync(StudyId study, RecordingId id, RecordingDraft draft, int version, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new(Listening.SoundStore.HearInTime,
            new { id, draft.Meter, draft.Tempo, draft.TempoRead, Listening.SoundStore.OnsetsKind }, transaction, cancellationToken: stop));
        if (await connection.ExecuteAsync(new(
            $"""
            {Names}
            update recording set player_id = @PlayerId, title = @Title, ensemble_id = (select id from e), release_id = (select id from l),
                   recorded_from = @from, recorded_to = @to, issued_from = @issuedFrom, issued_to = @issuedTo, sure = @Sure,
                   kind = @Kind, take = @Take, meter = @Meter, tempo = @Tempo, tempo_read = @TempoRead, duration_ms = @Duration,
                     total_bars = @TotalBars, kit = @Kit, note = @Note,
                   recorded_said = @RecordedSaid, issued_said = @IssuedSaid, tempo_said = @TempoSaid,
                   version = version + 1
            where id = @id and version = @version and deleted_at is null
            """, Parameters(draft, study, id, version), transaction, cancellationToken: stop)) == 0) return false;
        await TimelineStore.FollowAsync(connection, transaction, id, stop);
        await transaction.CommitAsync(stop);
        return true;
    }

    public Task DeleteAsync(RecordingId id, CancellationToken stop) =>
        MarkAsync("update recording set deleted_at = now() where id = @id", id, stop);

    public Task RestoreAsync(RecordingId id, CancellationToken stop) =>
        MarkAsync("update recording set deleted_at = null where id = @id", id, stop);

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
        draft.TempoRead,
        draft.Sure,
        draft.Duration,
        draft.TotalBars,
        draft.Kit,
        draft.Note,
        draft.RecordedSaid,
        draft.IssuedSaid,
        draft.TempoSaid,
        from = draft.Recorded?.Earliest,
        to = draft.Recorded?.Latest,
        issuedFrom = draft.Issued?.Earliest,
        issuedTo = draft.Issued?.Latest,
    };
}
