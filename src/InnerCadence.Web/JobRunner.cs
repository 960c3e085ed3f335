using InnerCadence.Storage;

namespace InnerCadence.Web;

/// <summary>Does the long work of the job table, one job at a time, and takes over what a dead worker left.</summary>
public sealed partial class JobRunner(Jobs jobs, StudyScan scan, RecordingImport import, Sounds sounds, Discoveries discoveries, Comparisons comparisons, Interchange.ArrivedScores scores, ClaimWatch claims, ILogger<JobRunner> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(500);
    private readonly Guid worker = Guid.NewGuid();

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                if (await jobs.ClaimAsync(worker, Jobs.Silence, stoppingToken) is { } job)
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
            catch (Exception e)
            {
                // The database may be away; the job falls silent and is claimed again.
                LogFailure(e);
                await Task.Delay(Pause, stoppingToken);
            }
        }
    }

    private Task RunAsync(Job job, CancellationToken stop) => job.Kind switch
    {
        StudyScan.Kind => scan.RunAsync(job, worker, stop),
        Comparisons.Kind => comparisons.RunAsync(job, worker, stop),
        Discoveries.Kind => discoveries.RunAsync(job, worker, stop),
        RecordingImport.Kind => import.RunAsync(job, worker, stop),
        Arrivals.Job => scores.RunAsync(job, worker, stop),
        Sounds.OverviewKind => sounds.OverviewAsync(job, worker, stop),
        Sounds.OnsetsKind => sounds.OnsetsAsync(job, worker, stop),
        Sounds.SimulationKind => sounds.SimulateAsync(job, worker, Api.SoundApi.Sound, stop),
        _ => throw new InvalidOperationException($"No one knows how to do a job of kind {job.Kind}."),
    };

    [LoggerMessage(LogLevel.Error, "A job could not be done; it will be tried again.")]
    private partial void LogFailure(Exception e);
}
