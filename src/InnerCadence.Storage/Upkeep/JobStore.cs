using Dapper;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Upkeep;


/// <summary>A piece of long work and how far it is.</summary>
public sealed record Job
{
    public JobId Id { get; init; }
    public string Kind { get; init; } = "";
    public StudyId? StudyId { get; init; }
    public string Input { get; init; } = "{}";
    public string State { get; init; } = "";
    public int Progress { get; init; }
    /// <summary>What it is doing, or how it ended, in a sentence.</summary>
    public string Said { get; init; } = "";
    public int Attempts { get; init; }
    public bool CancelAsked { get; init; }

    public bool IsOver => State is "done" or "failed" or "cancelled";
}

/// <summary>The job table: work is claimed, kept alive by a heartbeat, and taken over by another worker when the heartbeat stops.</summary>
public sealed class JobStore(NpgsqlDataSource source)
{
    /// <summary>The last work of a kind on a sound; nothing where there was none.</summary>
    public async Task<Job?> LastOnAsync(string kind, SoundId sound, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<Job>(new(
            "select * from job where kind = @kind and (input->>'sound')::bigint = @sound order by id desc limit 1", new { kind, sound },
            cancellationToken: stop));
    }

    /// <summary>A worker that has not been heard of for so long is taken for dead.</summary>
    public static readonly TimeSpan Silence = TimeSpan.FromSeconds(30);
    /// <summary>A job that brought its worker down so often is given up.</summary>
    public const int MostAttempts = 3;

    private const string Columns = "id, kind, study_id, input::text as input, state, progress, said, attempts, cancel_asked";

    public async Task<JobId> AddAsync(string kind, StudyId? study, string input, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return new(await connection.ExecuteScalarAsync<long>(new(
            "insert into job (kind, study_id, input) values (@kind, @study, @input::jsonb) returning id", new { kind, study, input },
                cancellationToken: stop)));
    }

    public async Task<Job?> FindAsync(JobId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<Job>(new($"select {Columns} from job where id = @id", new { id },
            cancellationToken: stop));
    }

    /// <summary>The oldest job that waits, or whose worker fell silent; no two workers get the same. A job that fell silent too often
    /// fails.</summary>
    /// <param name="silence">After how long without a heartbeat a worker counts as dead.</param>
    public async Task<Job?> ClaimAsync(Guid worker, TimeSpan silence, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            update job set state = 'failed', ended_at = now(), said = 'Given up: it stopped its worker ' || attempts || ' times.'
            where state = 'running' and heartbeat_at < now() - @silence and attempts >= @most
            """, new { silence, most = MostAttempts }, cancellationToken: stop));
        return await connection.QuerySingleOrDefaultAsync<Job>(new(
            $"""
            update job set state = 'running', worker = @worker, heartbeat_at = now(), attempts = attempts + 1, progress = 0, said = ''
            where id = (select id from job
                        where state = 'waiting' or (state = 'running' and heartbeat_at < now() - @silence)
                        order by id for update skip locked limit 1)
            returning {Columns}
            """, new { worker, silence }, cancellationToken: stop));
    }

    /// <summary>Says how far the work is. False when the worker has lost the job, or it is to stop.</summary>
    public async Task<bool> BeatAsync(JobId id, Guid worker, int progress, string said, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<bool?>(new(
            """
            update job set heartbeat_at = now(), progress = @progress, said = @said
            where id = @id and worker = @worker and state = 'running'
            returning not cancel_asked
            """, new { id, worker, progress, said }, cancellationToken: stop)) ?? false;
    }

    /// <summary>Asks a job to stop: one that waits is over at once, one that runs stops at its next heartbeat.</summary>
    public async Task CancelAsync(JobId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            update job set cancel_asked = true,
                   state = case when state = 'waiting' then 'cancelled' else state end,
                   ended_at = case when state = 'waiting' then now() else ended_at end
            where id = @id and state in ('waiting', 'running')
            """, new { id }, cancellationToken: stop));
    }

    /// <summary>Ends a job inside the transaction that keeps its result, so that neither is without the other. False when the worker has
    /// lost it.</summary>
    public static async Task<bool> EndAsync(NpgsqlConnection connection, NpgsqlTransaction? transaction, JobId id, Guid worker,
        string state, string said, CancellationToken stop) =>
        await connection.ExecuteAsync(new(
            """
            update job set state = @state, said = @said, progress = case when @state = 'done' then 100 else progress end, ended_at = now()
            where id = @id and worker = @worker and state = 'running'
            """, new { id, worker, state, said }, transaction, cancellationToken: stop)) == 1;
}
