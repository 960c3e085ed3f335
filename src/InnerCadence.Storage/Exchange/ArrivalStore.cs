using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using Npgsql;

namespace InnerCadence.Storage.Exchange;

/// <summary>Files that were opened together.</summary>
public sealed record Arrival
{
    public ArrivalId Id { get; init; }
    public StudyId? StudyId { get; init; }
    /// <summary>Where its passages go; nothing for a recording of their own each.</summary>
    public RecordingId? RecordingId { get; init; }
    /// <summary>Kind of the passages that are made of it.</summary>
    public PassageKind Kind { get; init; }
    /// <summary>Keep how early or late each stroke was played.</summary>
    public bool KeepsTiming { get; init; }
    public JobId? JobId { get; init; }
}

/// <param name="Said">What became of it; nothing while it waits.</param>
public sealed record ArrivedFile(ArrivedFileId Id, ArrivalId ArrivalId, string Name, byte[] Content, string? Said, PassageId? PassageId);

/// <summary>Files that wait to be looked at; nothing of them is in a study until somebody says so.</summary>
public sealed class ArrivalStore(NpgsqlDataSource source)
{
    public const string Job = "arrival";
    public const int MostFiles = 500;
    private static readonly TimeSpan Forgotten = TimeSpan.FromDays(7);

    /// <summary>Keeps files; those that nobody looked after for a week go.</summary>
    public async Task<ArrivalId> AddAsync(StudyId? study, RecordingId? recording, IReadOnlyList<(string Name, byte[] Content)> files,
        CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new("delete from arrival where created_at < now() - @Forgotten", new { Forgotten }, transaction,
            cancellationToken: stop));
        var id = await connection.ExecuteScalarAsync<long>(
            new("insert into arrival (study_id, recording_id) values (@study, @recording) returning id", new { study, recording },
            transaction, cancellationToken: stop));
        foreach (var (name, content) in files)
            await connection.ExecuteAsync(new("insert into arrived_file (arrival_id, name, content) values (@id, @name, @content)",
                new { id, name, content }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return new(id);
    }

    public async Task<Arrival?> FindAsync(ArrivalId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<Arrival>(
            new("select id, study_id, recording_id, kind, timing = 'kept' as keeps_timing, job_id from arrival where id = @id", new { id },
            cancellationToken: stop));
    }

    public async Task<IReadOnlyList<ArrivedFile>> FilesAsync(ArrivalId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<ArrivedFile>(new($"{Files} where arrival_id = @id order by id", new { id },
            cancellationToken: stop))).AsList();
    }

    public async Task<ArrivedFile?> FileAsync(ArrivedFileId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<ArrivedFile>(new($"{Files} where id = @id", new { id }, cancellationToken: stop));
    }

    /// <summary>Says which study they are for, where nobody did.</summary>
    public async Task GiveAsync(ArrivalId id, StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("update arrival set study_id = @study where id = @id and study_id is null", new { id, study },
            cancellationToken: stop));
    }

    /// <summary>Says where its passages are to go, and hands it to the job table, once.</summary>
    public async Task<JobId> BeginAsync(ArrivalId id, RecordingId? recording, PassageKind kind, bool keepsTiming, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return new(await connection.ExecuteScalarAsync<long>(new(
            """
            with a as (select * from arrival where id = @id for update),
                 j as (insert into job (kind, study_id, input) select @Job, study_id, jsonb_build_object('arrival', id) from a
                   where job_id is null returning id),
                 u as (update arrival set job_id = (select id from j), recording_id = @recording, kind = @kind, timing = case
                   when @keepsTiming then 'kept' else 'placed' end
                       where id = @id and exists (select 1 from j))
            select coalesce((select id from j), (select job_id from a))
            """, new { id, Job, recording, kind, keepsTiming }, cancellationToken: stop)));
    }

    public async Task ForgetAsync(ArrivalId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("delete from arrival where id = @id", new { id }, cancellationToken: stop));
    }

    /// <summary>Says why nothing was made of a file.</summary>
    public async Task SayAsync(ArrivedFileId id, string said, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("update arrived_file set said = @said where id = @id and said is null", new { id, said },
            cancellationToken: stop));
    }

    /// <summary>Makes a passage of a file, with its recording where it is to have one of its own; both and the file's mark in one
    /// transaction, so that a server that stops makes none twice.</summary>
    /// <returns>Nothing where the file was forgotten meanwhile, or somebody else made it.</returns>
    public async Task<PassageId?> MakeAsync(ArrivedFile file, StudyId study, RecordingId? recording, RecordingDraft own,
        PassageDraft draft, IReadOnlyList<StrokeOffset> offsets, string said, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (await connection.ExecuteAsync(new("update arrived_file set said = @said where id = @Id and said is null",
            new { file.Id, said }, transaction, cancellationToken: stop)) == 0) return null;
        var into = recording ?? await RecordingStore.InsertAsync(connection, transaction, study, own, stop);
        var passage = await PassageStore.InsertAsync(connection, transaction, into, draft, offsets, stop);
        await connection.ExecuteAsync(new("update arrived_file set passage_id = @passage where id = @Id", new { file.Id, passage },
            transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return passage;
    }

    private const string Files = "select id, arrival_id, name, content, said, passage_id from arrived_file";
}
