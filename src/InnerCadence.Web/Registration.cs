using InnerCadence.Core.Playing;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Practice;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Background;
using InnerCadence.Web.Interchange;
using InnerCadence.Web.Pages.Shared;
using InnerCadence.Web.Telling;
using Npgsql;

namespace InnerCadence.Web;

/// <summary>What the application is made of, room by room.</summary>
internal static class Registration
{
    /// <param name="database">Connection string of the program's own role.</param>
    /// <param name="restorer">That of the role that reads backups; nothing where there is none.</param>
    /// <param name="data">Folder of sounds and backups.</param>
    public static IServiceCollection AddStorage(this IServiceCollection services, string database, string? restorer, string data) =>
        services
        // Each query is planned once a connection; nothing is left on one that the next could see.
        .AddNpgsqlDataSource(new NpgsqlConnectionStringBuilder(database) { MaxAutoPrepare = 200, NoResetOnClose = true }.ConnectionString)
        .AddSingleton(TimeProvider.System)
        .AddSingleton(at => new KeptReady(at.GetRequiredService<NpgsqlDataSource>()))
        .AddSingleton<StudyStore>().AddSingleton<Finder>().AddSingleton<Trash>().AddSingleton<Waiting>().AddSingleton<ArticleStore>()
        .AddSingleton<RecordingStore>().AddSingleton<RecordingCatalogue>().AddSingleton<CoverageStore>().AddSingleton<TimelineStore>()
            .AddSingleton<Discography>().AddSingleton<AttributionStore>()
        .AddSingleton<PassageStore>().AddSingleton<WrittenPassages>()
        .AddSingleton<IdeaStore>().AddSingleton<LineageStore>().AddSingleton<Likenesses>().AddSingleton<Tuning>()
        .AddSingleton<SightingStore>().AddSingleton<HeardStore>().AddSingleton<JudgementStore>()
        .AddSingleton<EvidenceOfIdeas>().AddSingleton<ListedPassages>().AddSingleton<FeelStore>().AddSingleton<LookedIdeas>()
        .AddSingleton<PlacesOfIdeas>().AddSingleton<StudyMaterial>()
            .AddSingleton<ComparisonStore>().AddSingleton<WishStore>()
            .AddSingleton<DiscoveryStore>()
        .AddSingleton<ClaimStore>().AddSingleton<RecountStore>()
        .AddSingleton(new SoundFiles(Path.Combine(data, "sounds"))).AddSingleton(new ActivationFiles(Path.Combine(data, "heard")))
        .AddSingleton<EarAtOnce>()
            .AddSingleton<SoundStore>().AddSingleton(new MediaTool()).AddSingleton<Excerpts>().AddSingleton<KnownSounds>()
            .AddSingleton<RecordPaces>()
            .AddSingleton<MeasurementStore>().AddSingleton<LookingStore>().AddSingleton<DepartingStore>().AddSingleton<SoundQuestions>()
            .AddSingleton<HeardRecordings>()
            .AddSingleton<SessionStore>()
        .AddSingleton<PracticeStore>()
        .AddSingleton<StudyFolder>().AddSingleton<StudyArchive>().AddSingleton<StudyTables>().AddSingleton<TraitsTable>()
            .AddSingleton<ImportStore>().AddSingleton<ArrivalStore>()
        .AddSingleton<JobStore>().AddSingleton(new BackupFolder(Path.Combine(data, "backups")))
        .AddSingleton(at => new Backups(at.GetRequiredService<NpgsqlDataSource>(), database, restorer,
            at.GetRequiredService<BackupFolder>()));

    /// <summary>Every kind of long work that the job table may hold.</summary>
    public static IServiceCollection AddWork(this IServiceCollection services) => services
        .AddSingleton<IWork, StudyScan>().AddSingleton<IWork, RecordingImport>().AddSingleton<IWork, ArrivedScores>()
        .AddSingleton<IWork, OverviewWork>().AddSingleton<IWork, DecodingWork>().AddSingleton<IWork, OnsetsWork>().AddSingleton<IWork,
            SimulationWork>().AddSingleton<Func<SoundKey, float[]>>(Api.SoundApi.Sound)
        .AddSingleton<IWork, MeasuringWork>().AddSingleton<IWork, LookingWork>().AddSingleton<IWork, DepartingWork>()
            .AddSingleton<IWork, SoundLikeWork>()
        .AddSingleton<IWork, SoundRecurringWork>().AddSingleton<IWork, DiscoveryWork>().AddSingleton<IWork,
            ChanceWork>();

    public static IServiceCollection AddTelling(this IServiceCollection services) => services
        .AddSingleton<NextSteps>().AddSingleton<Records>().AddSingleton<EarBeside>().AddSingleton<RidgePictures>().AddSingleton<ArticleReader>()
            .AddSingleton<VocabularyReader>().AddSingleton<CountingAnew>();

    /// <summary>What goes on while nobody asks.</summary>
    public static IServiceCollection AddBackground(this IServiceCollection services) => services
        .AddHostedService<BackupSchedule>()
        .AddSingleton<ClaimWatch>().AddHostedService(at => at.GetRequiredService<ClaimWatch>())
        .AddHostedService<JobRunner>();
}
