using System.Diagnostics;
using System.Threading.Channels;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Web.Background;

/// <summary>Holds the claims of a study against its evidence again after whatever changed it, so that a change of standing is dated when it
/// happens and not when somebody looks.</summary>
public sealed partial class ClaimWatch(ClaimStore claims, StudyStore studies, KeptReady kept, Telling.CountingAnew anew,
    ILogger<ClaimWatch> log) : BackgroundService
{
    /// <summary>A study that is weighed faster than this is weighed before the answer goes out, so that who looks next finds the history
    /// told.</summary>
    private static readonly TimeSpan AtOnce = TimeSpan.FromMilliseconds(500);

    private readonly Dictionary<StudyId, (string Stamp, TimeSpan Took)> weighed = [];
    private readonly SemaphoreSlim weighing = new(1);

    /// <summary>Changes come in rows, as in a judging queue: they are weighed together.</summary>
    private static readonly TimeSpan Rest = TimeSpan.FromSeconds(1);
    private readonly Channel<bool> changes = Channel.CreateBounded<bool>(
        new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite });

    /// <summary>Something was written.</summary>
    public void Changed() => changes.Writer.TryWrite(true);

    /// <summary>Whatever is sent to a page and accepted may have changed the evidence; calls of the API keep nothing.</summary>
    public async Task Follow(HttpContext context, RequestDelegate next)
    {
        await next(context);
        if (context.Request.Path.StartsWithSegments("/api")) return;
        if (!HttpMethods.IsGet(context.Request.Method) && !HttpMethods.IsHead(context.Request.Method) && context.Response.StatusCode < 400
            && !await IsWeighedAtOnceAsync(context.RequestAborted)) Changed();
    }

    /// <summary>False where something is left to be weighed.</summary>
    private async Task<bool> IsWeighedAtOnceAsync(CancellationToken stop)
    {
        if (!await weighing.WaitAsync(TimeSpan.Zero, stop)) return false;
        try
        {
            return await WeighAsync(AtOnce, stop);
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            LogFailure(e);
            return false;
        }
        finally
        {
            weighing.Release();
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        Changed();
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await changes.Reader.ReadAsync(stoppingToken);
                await Task.Delay(Rest, stoppingToken);
                await anew.RunAsync(stoppingToken);
                await weighing.WaitAsync(stoppingToken);
                try
                {
                    await WeighAsync(TimeSpan.MaxValue, stoppingToken);
                }
                finally
                {
                    weighing.Release();
                }
                await kept.TidyAsync(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e)
            {
                // The database may be away; what is shown is weighed anyway, only its history waits.
                LogFailure(e);
            }
        }
    }

    /// <summary>Only studies of which something changed since they were weighed.</summary>
    /// <param name="most">Studies that took longer the last time are left.</param>
    /// <returns>Nothing is left.</returns>
    private async Task<bool> WeighAsync(TimeSpan most, CancellationToken stop)
    {
        var all = true;
        foreach (var id in await claims.StudiesAsync(stop))
        {
            var stamp = await kept.StampAsync(id, stop);
            var last = weighed.GetValueOrDefault(id);
            if (last.Stamp == stamp || await studies.FindAsync(id, stop) is not { } study) continue;
            if (last.Took > most)
            {
                all = false;
                continue;
            }
            var begun = Stopwatch.GetTimestamp();
            await claims.WeighAsync(study, stop);
            weighed[id] = (stamp, Stopwatch.GetElapsedTime(begun));
        }
        return all;
    }

    [LoggerMessage(LogLevel.Warning, "The claims could not be held against the evidence; they will be with the next change.")]
    private partial void LogFailure(Exception e);
}
