using System.Text;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Interchange;

namespace InnerCadence.Web.Tests.Background;

/// <summary>Files that wait: made into passages once, whatever happens to the worker or to them.</summary>
public class ArrivingFiles : StorageTests
{
    private static readonly byte[] Groove = Encoding.UTF8.GetBytes("tempo 96\nHH: 8ths\nSN: 2 4\nBD: 1 3");

    private ArrivalStore Arrivals => new(Source);
    private ArrivedScores Scores => new(Arrivals, Studies, new(Source),
        Microsoft.Extensions.Logging.Abstractions.NullLogger<ArrivedScores>.Instance);

    private async Task<int> PassagesAsync() => (await Passages.InOrderAsync(Study, Stop)).Count;

    private async Task<(ArrivalId Arrival, Job Job, Guid Worker)> BegunAsync(params string[] names)
    {
        var arrival = await Arrivals.AddAsync(Study, null, [.. names.Select(n => (n, Groove))], Stop);
        await Arrivals.BeginAsync(arrival, null, PassageKind.Fill, false, Stop);
        // Pressed twice it is the same work.
        await Arrivals.BeginAsync(arrival, null, PassageKind.Groove, true, Stop);
        var worker = Guid.NewGuid();
        return (arrival, (await Jobs.ClaimAsync(worker, JobStore.Silence, Stop))!, worker);
    }

    [Fact]
    public async Task Each_becomes_a_passage_of_a_recording_of_its_own()
    {
        var (arrival, job, worker) = await BegunAsync("Lee_Shore.mid", "b");
        await DoAsync(Scores, job, worker);
        (await Jobs.FindAsync(job.Id, Stop))!.Said.ShouldBe("2 passages of 2 files.");
        (await Recordings.OfStudyAsync(Study, Stop)).Select(r => (r.Title, r.Tempo, r.BySubject))
            .ShouldBe([("Lee Shore", 96.0, true), ("b", 96.0, true)], ignoreOrder: true);
        var made = (await Arrivals.FilesAsync(arrival, Stop))[0].PassageId!.Value;
        (await Passages.FindAsync(made, Stop))!.ShouldSatisfyAllConditions(p => p.Kind.ShouldBe(PassageKind.Fill), p =>
            p.Note.ShouldStartWith("From the file Lee_Shore.mid."));
        (await Arrivals.FindAsync(arrival, Stop))!.KeepsTiming.ShouldBeFalse();
    }

    [Fact]
    public async Task A_worker_that_died_after_the_first_makes_none_twice()
    {
        var (arrival, job, worker) = await BegunAsync("a", "b", "c");
        var first = (await Arrivals.FilesAsync(arrival, Stop))[0];
        var own = new RecordingDraft
        {
            PlayerId = (await Studies.FindAsync(Study, Stop))!.Subject.Id,
            Title = "a",
            Kind = RecordingKind.Studio
        };
        PassageDraft draft = new() { Text = "SN: 2 4", Bars = 1, Kind = PassageKind.Groove };
        (await Arrivals.MakeAsync(first, Study, null, own, draft, [], "Made.", Stop)).ShouldNotBeNull();
        (await Arrivals.MakeAsync(first, Study, null, own, draft, [], "Made.", Stop)).ShouldBeNull();
        await DoAsync(Scores, job, worker);
        (await PassagesAsync()).ShouldBe(3);
        (await Recordings.OfStudyAsync(Study, Stop)).Count.ShouldBe(3);
    }

    [Fact]
    public async Task What_is_forgotten_or_cancelled_meanwhile_makes_nothing_more()
    {
        var (arrival, job, worker) = await BegunAsync("a");
        await Arrivals.ForgetAsync(arrival, Stop);
        await DoAsync(Scores, job, worker);
        (await Jobs.FindAsync(job.Id, Stop))!.State.ShouldBe("failed");
        (_, job, worker) = await BegunAsync("b");
        await Jobs.CancelAsync(job.Id, Stop);
        await DoAsync(Scores, job, worker);
        (await Jobs.FindAsync(job.Id, Stop))!.State.ShouldBe("cancelled");
        (await PassagesAsync()).ShouldBe(0);
    }

    [Fact]
    public async Task Offsets_are_kept_with_the_passage_and_come_back_in_order()
    {
        var recording = await RecordAsync("Slack Water", 40);
        StrokeOffset[] offsets = [new(new(10080), InnerCadence.Core.Music.Voice.Snare, 12.5),
            new(new(0), InnerCadence.Core.Music.Voice.Hat, -3)];
        var passage = await Passages.AddAsync(recording, new() { Text = "HH: 1\nSN: 2", Bars = 1, Kind = PassageKind.Groove }, Stop,
            offsets);
        (await Passages.OffsetsAsync(passage, Stop)).ShouldBe(offsets.Reverse());
        (await Passages.OffsetsAsync(await WriteAsync(recording, "SN: 2"), Stop)).ShouldBeEmpty();
    }
}
