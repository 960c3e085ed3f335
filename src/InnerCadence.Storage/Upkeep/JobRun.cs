using System.Text.Json;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Upkeep;

/// <summary>One kind of long work. What it needs comes from its input alone, so that any worker can take it over.</summary>
public interface IWork
{
    /// <summary>As it stands in the job table.</summary>
    string Kind { get; }
    /// <summary>What it is called where it is watched.</summary>
    string Heading { get; }
    Task RunAsync(JobRun run);
}

/// <summary>Long work with its input as a record: an object of the names of its parameters.</summary>
public abstract class Work<TInput>(string kind, string heading) : IWork
{
    private static readonly JsonSerializerOptions Json = new() { PropertyNameCaseInsensitive = true };

    public string Kind => kind;
    public string Heading => heading;

    public Task RunAsync(JobRun run) => RunAsync(JsonSerializer.Deserialize<TInput>(run.Job.Input, Json)
        ?? throw new JobFailedException("Its input cannot be read."), run);

    /// <exception cref="JobFailedException">It cannot be done; the sentence is told.</exception>
    protected abstract Task RunAsync(TInput input, JobRun run);
}

/// <summary>A job cannot be done; the message is the sentence that is told.</summary>
public sealed class JobFailedException(string said) : Exception(said);

/// <summary>A claimed job under way: the one place where work says how far it is, keeps what it made, and ends.</summary>
public sealed class JobRun(NpgsqlDataSource source, JobStore jobs, Job job, Guid worker, CancellationToken stop)
{
    public Job Job => job;
    /// <exception cref="InvalidOperationException">The work belongs to no study.</exception>
    public StudyId Study => job.StudyId ?? throw new InvalidOperationException($"Job {job.Id} belongs to no study.");
    public CancellationToken Stop => stop;

    /// <summary>Does the work to its end, its cancellation, its failure, or the loss of its claim.</summary>
    public async Task DoAsync(IWork work)
    {
        try
        {
            await work.RunAsync(this);
        }
        catch (JobStoppedException stopped)
        {
            await EndAsync("cancelled", stopped.Message);
        }
        catch (JobFailedException failed)
        {
            await EndAsync("failed", failed.Message);
        }
    }

    /// <summary>Says how far the work is; ends it where it is to stop or was taken over.</summary>
    /// <param name="stopped">What is told if it is to stop.</param>
    public async Task BeatAsync(int progress, string said, string stopped = "Stopped; nothing was kept.")
    {
        if (!await jobs.BeatAsync(job.Id, worker, progress, said, stop)) throw new JobStoppedException(stopped);
    }

    /// <summary>Keeps the result and ends the job in one transaction, so that neither is without the other. No connection is held
    /// before.</summary>
    /// <returns>How it ended, in a sentence.</returns>
    public async Task KeepAsync(Func<NpgsqlConnection, NpgsqlTransaction, Task<string>> keep)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var said = await keep(connection, transaction);
        if (await JobStore.EndAsync(connection, transaction, job.Id, worker, "done", said, stop)) await transaction.CommitAsync(stop);
    }

    /// <summary>Ends work that has kept its results piece by piece.</summary>
    public Task DoneAsync(string said) => EndAsync("done", said);

    private async Task EndAsync(string state, string said)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await JobStore.EndAsync(connection, null, job.Id, worker, state, said, stop);
    }

    /// <summary>It is to stop, or another worker has it.</summary>
    private sealed class JobStoppedException(string said) : Exception(said);
}
