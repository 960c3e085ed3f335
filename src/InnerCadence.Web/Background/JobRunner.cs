using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Web.Background;

/// <summary>Does the long work of the job table, one job at a time, and takes over what a dead worker left.</summary>
public sealed partial class JobRunner(NpgsqlDataSource source, JobStore jobs, IEnumerable<IWork> works, ClaimWatch claims,
    ILogger<JobRunner> log) : BackgroundService
{
    private readonly Dictionary<string, IWork> workOf = works.ToDictionary(w => w.Kind);
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(500);
    private readonly Guid worker = Guid.NewGuid();

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var patience = new Patience();
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                var next = await jobs.ClaimAsync(worker, JobStore.Silence, stoppingToken);
                if (patience.Here()) LogBack();
                if (next is { } job)
                {
                    await RunAsync(job, stoppingToken);
                    claims.Changed();
                }
                else await Task.Delay(Pause, stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (IsAway(e))
            {
                // A job that was under way falls silent and is claimed again.
                var (pause, justGone) = patience.Away();
                if (justGone) LogAway(e.Message);
                await WaitAsync(pause, stoppingToken);
            }
            catch (Exception e)
            {
                LogFailure(e);
                await WaitAsync(Pause, stoppingToken);
            }
        }
    }

    private static async Task WaitAsync(TimeSpan pause, CancellationToken stop) =>
        await Task.Delay(pause, stop).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);

    /// <summary>Nobody answers, or the server is starting, stopping, or was ended under this connection.</summary>
    private static bool IsAway(Exception e) => e is NpgsqlException
        and (not PostgresException or PostgresException
        {
            SqlState: ['5', '7', ..] or ['0', '8', ..]
        or PostgresErrorCodes.InvalidCatalogName or PostgresErrorCodes.ObjectNotInPrerequisiteState
        });

    private Task RunAsync(Job job, CancellationToken stop) => new JobRun(source, jobs, job, worker, stop)
        .DoAsync(workOf.GetValueOrDefault(job.Kind) ?? throw new InvalidOperationException(
            $"No one knows how to do a job of kind {job.Kind}."));

    [LoggerMessage(LogLevel.Warning, "The database is away: {Why} It is asked again, less often the longer it is away.")]
    private partial void LogAway(string why);

    [LoggerMessage(LogLevel.Information, "The database is back.")]
    private partial void LogBack();

    [LoggerMessage(LogLevel.Error, "A job could not be done; it will be tried again.")]
    private partial void LogFailure(Exception e);
}
