using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Schema;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Testing;

/// <summary>A fresh database with one study, and the repositories on it.</summary>
public abstract class StorageTests : IAsyncLifetime
{
    private TestDatabase database = null!;

    protected string ConnectionString => database.ConnectionString;
    protected NpgsqlDataSource Source { get; private set; } = null!;
    protected JobStore Jobs { get; private set; } = null!;
    protected StudyStore Studies { get; private set; } = null!;
    protected RecordingStore Recordings { get; private set; } = null!;
    protected PassageStore Passages { get; private set; } = null!;
    protected IdeaStore Ideas { get; private set; } = null!;
    protected SightingStore Sightings { get; private set; } = null!;
    protected EvidenceOfIdeas Evidence { get; private set; } = null!;
    protected CoverageStore Coverages { get; private set; } = null!;
    protected TimelineStore Timelines { get; private set; } = null!;
    protected AttributionStore Attributions { get; private set; } = null!;
    protected StudyMaterial Material { get; private set; } = null!;
    protected ClaimStore Claims { get; private set; } = null!;
    protected StudyId Study { get; private set; }

    protected static CancellationToken Stop => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        database = await TestDatabase.CreateAsync();
        Source = Database.Open(database.ConnectionString);
        (Studies, Recordings, Passages, Ideas, Sightings, Jobs) = (new(Source), new(Source), new(Source), new(Source), new(Source),
            new(Source));
        Evidence = new(Source, Recordings);
        (Coverages, Timelines, Attributions) = (new(Source), new(Source), new(Source));
        Material = new(Evidence, new(Source), new(Source, new(Source), new(Source)), new(Source));
        Claims = new(Source, Material);
        Study = await Studies.AddAsync(new("A study", "", "Nell Tarrow", Handedness.Left, ["Oda Finch"]), Stop);
    }

    public async ValueTask DisposeAsync()
    {
        await Source.DisposeAsync();
        await database.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    /// <summary>Does a claimed job as the runner does.</summary>
    protected Task DoAsync(IWork work, Job job, Guid worker, JobStore? jobs = null) => new JobRun(Source, jobs ?? Jobs, job, worker, Stop)
        .DoAsync(work);

    protected async Task<RecordingId> RecordAsync(string title, int? bars, int? listened = null, string? player = null, DateOnly? on = null,
        int? from = null, ClockTime? lasting = null)
    {
        var study = (await Studies.FindAsync(Study, Stop))!;
        return await Recordings.AddAsync(
            Study,
            new()
            {
                PlayerId = study.Players.Single(p => p.Name == (player ?? "Nell Tarrow")).Id,
                Title = title,
                Kind = RecordingKind.Studio,
                TotalBars = bars,
                Duration = lasting,
                Tempo = 120,
                Recorded = PartialDate.Parse("1970")
            },
            listened is { } n ? new(Closeness.Listened, from, n, [], on ?? DateOnly.FromDateTime(DateTime.Now)) : null, Stop);
    }

    protected Task<PassageId> WriteAsync(RecordingId recording, string text, bool looped = false, bool becauseHeard = false) =>
        Passages.AddAsync(recording, Draft(text, looped, becauseHeard), Stop);

    protected static PassageDraft Draft(string text, bool looped = false, bool becauseHeard = false) =>
        new()
        {
            Text = text,
            Bars = CountLines.Parse(text).Passage.Bars,
            Kind = PassageKind.Groove,
            Bar = 1,
            StartsAt = new(1000),
            Looped = looped,
            BecauseHeard = becauseHeard
        };

    protected async Task<IdeaId> NameAsync(string nickname, string text, Rules? rules = null) =>
        (await Ideas.AddAsync(Study, new() { Nickname = nickname, Text = text, Rules = rules ?? Rules.Default }, Stop))!.Value;
}
