using InnerCadence.Core.Hearing;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Practice;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Schema;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web;
using InnerCadence.Web.Api;
using InnerCadence.Web.Background;
using InnerCadence.Web.Pages.Shared;
using InnerCadence.Web.Telling;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.HostFiltering;
using Npgsql;
using Serilog;
using Serilog.Formatting.Compact;

var builder = WebApplication.CreateBuilder(args);
var database = builder.Configuration["INNER_CADENCE_DB"]
    ?? throw new InvalidOperationException("No database is named: set INNER_CADENCE_DB, or run ./start, which makes one.");

// No silent home elsewhere: sounds and backups are a person's.
var data = builder.Configuration["INNER_CADENCE_DATA"]
    ?? throw new InvalidOperationException(
        "No folder is named for sounds, backups and keys: set INNER_CADENCE_DATA, or run ./start, which makes one.");

builder.Host.UseSerilog((context, log) => log.ReadFrom.Configuration(context.Configuration).WriteTo.Console(new CompactJsonFormatter()));
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    kestrel.Limits.MaxRequestBodySize = UploadLimits.Body;
});
builder.Services.Configure<HostFilteringOptions>(hosts => hosts.AllowEmptyHosts = false);
builder.Services.AddProblemDetails();
builder.Services.AddOpenApi();
builder.Services.AddAntiforgery(forgery => forgery.Cookie.Name = "inner-cadence-forgery");
builder.Services.AddRazorPages(pages =>
{
    // What measures this machine is for those who build the program.
    if (!builder.Environment.IsDevelopment()) pages.Conventions.AddFolderRouteModelConvention("/Development", page =>
        page.Selectors.Clear());
}).AddMvcOptions(mvc =>
{
    mvc.Filters.Add(new HandledOnly());
    mvc.Filters.AddService<Once>();
    mvc.ModelBinderProviders.Insert(0, new YesOrNo.Provider());
});
builder.Services.Configure<RouteHandlerOptions>(routes => routes.ThrowOnBadRequest = false);
builder.Services.AddSingleton<Once>();
builder.Services.AddDataProtection().PersistKeysToFileSystem(new DirectoryInfo(Path.Combine(data, "keys")))
    .SetApplicationName("InnerCadence");
builder.Services.AddStorage(database, builder.Configuration["INNER_CADENCE_RESTORER"], data).AddWork().AddTelling().AddBackground();

var app = builder.Build();
if (BackupCommand.IsAsked(args)) return await BackupCommand.RunAsync(args, app.Services.GetRequiredService<Backups>(),
    app.Services.GetRequiredService<BackupFolder>());
if (Database.IsBehind(database) && (await app.Services.GetRequiredService<Backups>()
    .MakeAsync(BackupReason.BeforeUpdate, DateTime.Now, app.Lifetime.ApplicationStopping)).Problem is { } unsaved)
    throw new InvalidOperationException(
        $"The database wants to be brought up to date, but could not be backed up before. {unsaved} Nothing was changed.");
Database.Migrate(database);
if (await app.Services.GetRequiredService<StudyStore>().ClearUnfinishedAsync(app.Lifetime.ApplicationStopping) is > 0 and var cut)
    app.Logger.LogWarning("An earlier start was cut off while it read {Studies} studies; what it left was taken away", cut);
if (app.Configuration["INNER_CADENCE_DEMO"] is { } demo
    && (await app.Services.GetRequiredService<StudyStore>().AllAsync(default)).Count == 0)
{
    var made = await app.Services.GetRequiredService<StudyFolder>().LoadAsync(demo, app.Lifetime.ApplicationStopping);
    // Its recordings sound too, made up along their bars in the background, so that listening can be tried at once.
    if (app.Configuration["INNER_CADENCE_DEMO_SOUNDS"] is "yes")
        await app.Services.GetRequiredService<SoundStore>().SimulateAsync(made, app.Lifetime.ApplicationStopping);
}

await app.Services.GetRequiredService<SoundStore>().ClearAsync(app.Lifetime.ApplicationStopping);
await app.Services.GetRequiredService<SoundStore>().HearAsync(ShippedEar.Find()?.Version, app.Lifetime.ApplicationStopping);

app.UseSerilogRequestLogging();
app.UseSecurityHeaders(ContentPolicy.Headers);
// A program is answered with problem+json, a person with a page that gives back what was typed.
app.UseWhen(context => IsApi(context), api => api.UseExceptionHandler(new ExceptionHandlerOptions { StatusCodeSelector = StatusOf })
    .UseStatusCodePages().UseOwnPagesOnly());
app.UseWhen(context => !IsApi(context), pages => pages.UseExceptionHandler(new ExceptionHandlerOptions
{
    ExceptionHandlingPath = "/error",
    StatusCodeSelector = StatusOf
}).UseStatusCodePagesWithReExecute("/error", "?status={0}"));
// Modules name one another without a version: a browser asks whether they are still the same, so that none is older than its page.
app.UseStaticFiles(new StaticFileOptions
{
    OnPrepareResponse = file =>
    {
        if (file.Context.Request.Path.StartsWithSegments("/modules",
            StringComparison.Ordinal)) file.Context.Response.Headers.CacheControl = "no-cache";
    },
});
app.UseRouting();
app.Use(next => context =>
{
    if (HttpMethods.IsGet(context.Request.Method) || HttpMethods.IsHead(context.Request.Method)) KeptReady.BeginLook();
    return next(context);
});
app.Use(next => context => app.Services.GetRequiredService<ClaimWatch>().Follow(context, next));
app.MapRazorPages();
app.MapCountLines();
app.MapIdeas();
app.MapEvidence();
app.MapSound();
app.MapHearing();
app.MapLooking();
app.MapPlayingAlong();
app.MapTime();
app.MapConvert();
app.MapRhythm();
app.MapHands();
app.MapEdits();
app.MapOpenApi();
app.MapGet("/healthz", async (NpgsqlDataSource source, CancellationToken stop) =>
{
    await Database.AskAsync(source, stop);
    return "Healthy";
}).ExcludeFromDescription();
await app.RunAsync();
return 0;

static int StatusOf(Exception e) => e switch
{
    BadHttpRequestException refused => refused.StatusCode,
    PostgresException { SqlState: PostgresErrorCodes.DiskFull } or IOException { HResult: NoSpaceLeft } =>
        StatusCodes.Status507InsufficientStorage,
    PostgresException { SqlState: ['5', '7', 'P', ..] } or NpgsqlException { InnerException: System.Net.Sockets.SocketException } =>
        StatusCodes.Status503ServiceUnavailable,
    _ => StatusCodes.Status500InternalServerError,
};

static bool IsApi(HttpContext context) => context.Request.Path.StartsWithSegments("/api");

/// <summary>Named so that tests can start the application.</summary>
public partial class Program
{
    /// <summary>ENOSPC, as .NET gives it on Linux.</summary>
    private const int NoSpaceLeft = 28;
}
