using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Web.Background;

/// <summary>Makes the scheduled backups while the application runs.</summary>
public sealed partial class BackupSchedule(Backups backups, TimeProvider time, ILogger<BackupSchedule> log) : BackgroundService
{
    private static readonly TimeSpan Between = TimeSpan.FromMinutes(10);
    /// <summary>So that a start is not slowed down.</summary>
    private static readonly TimeSpan AtFirst = TimeSpan.FromMinutes(2);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            await Task.Delay(AtFirst, time, stoppingToken);
            while (true)
            {
                try
                {
                    var (made, problem) = await backups.KeepUpAsync(time.GetLocalNow().DateTime, stoppingToken);
                    if (made is not null) LogMade(made.Name, made.Bytes);
                    if (problem is not null) LogProblem(problem);
                }
                catch (Exception e) when (e is not OperationCanceledException)
                {
                    // The database or the disk may be away; it is tried again.
                    LogProblem(e.Message);
                }
                await Task.Delay(Between, time, stoppingToken);
            }
        }
        catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
        {
        }
    }

    [LoggerMessage(LogLevel.Information, "Backup {Name}, {Bytes} bytes.")]
    private partial void LogMade(string name, long bytes);

    [LoggerMessage(LogLevel.Error, "No scheduled backup: {Problem}")]
    private partial void LogProblem(string problem);
}
