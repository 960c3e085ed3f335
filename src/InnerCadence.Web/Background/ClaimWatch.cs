using System.Threading.Channels;
using InnerCadence.Storage.Claims;

namespace InnerCadence.Web.Background;

/// <summary>Holds all claims against the evidence again after whatever may have changed it, so that a change of standing is dated when it happens and not when somebody looks.</summary>
public sealed partial class ClaimWatch(ClaimStore claims, Telling.CountingAnew anew, ILogger<ClaimWatch> log) : BackgroundService
{
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
                await claims.StandAllAsync(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e)
            {
                // The database may be away; whoever looks at the claims holds them against the evidence too.
                LogFailure(e);
            }
        }
    }

    [LoggerMessage(LogLevel.Warning, "The claims could not be held against the evidence; they will be with the next change.")]
    private partial void LogFailure(Exception e);
}
