using System.Threading.Channels;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Web.Background;

/// <summary>Holds the claims of a study against its evidence again after whatever changed it, so that a change of standing is dated when it happens and not when somebody looks.</summary>
public sealed partial class ClaimWatch(ClaimStore claims, StudyStore studies, KeptReady kept, Telling.CountingAnew anew, ILogger<ClaimWatch> log) : BackgroundService
{
    private readonly Dictionary<StudyId, string> weighed = [];

    /// <summary>Changes come in rows, as in a judging queue: they are weighed together.</summary>
    private static readonly TimeSpan Rest = TimeSpan.FromSeconds(1);
    private readonly Channel<bool> changes = Channel.CreateBounded<bool>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite });

    /// <summary>Something was written.</summary>
    public void Changed() => changes.Writer.TryWrite(true);

    /// <summary>Whatever is sent to a page and accepted may have changed the evidence; calls of the API keep nothing.</summary>
    public async Task Follow(HttpContext context, RequestDelegate next)
    {
        await next(context);
        if (context.Request.Path.StartsWithSegments("/api")) return;
        if (!HttpMethods.IsGet(context.Request.Method) && !HttpMethods.IsHead(context.Request.Method) && context.Response.StatusCode < 400) Changed();
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
                await WeighAsync(stoppingToken);
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
    private async Task WeighAsync(CancellationToken stop)
    {
        foreach (var id in await claims.StudiesAsync(stop))
        {
            var stamp = await kept.StampAsync(id, stop);
            if (weighed.GetValueOrDefault(id) == stamp || await studies.FindAsync(id, stop) is not { } study) continue;
            await claims.WeighAsync(study, stop);
            weighed[id] = stamp;
        }
    }

    [LoggerMessage(LogLevel.Warning, "The claims could not be held against the evidence; they will be with the next change.")]
    private partial void LogFailure(Exception e);
}
