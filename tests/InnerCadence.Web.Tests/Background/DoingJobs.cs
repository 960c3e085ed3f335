using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Background;

namespace InnerCadence.Web.Tests.Background;

/// <summary>The job table: claimed once, kept alive, taken over, cancelled, given up.</summary>
public class DoingJobs : StorageTests
{
    private readonly Guid one = Guid.NewGuid(), other = Guid.NewGuid();

    [Fact]
    public async Task Two_workers_never_get_the_same_job()
    {
        for (var i = 0; i < 20; i++) await Jobs.AddAsync(StudyScan.Name, Study, "{}", Stop);
        var claims = await Task.WhenAll(Enumerable.Range(0, 24).Select(_ => Jobs.ClaimAsync(Guid.NewGuid(), JobStore.Silence, Stop)));
        claims.Where(c => c is not null).Select(c => c!.Id).ShouldBeUnique();
        claims.Count(c => c is not null).ShouldBe(20);
    }

    [Fact]
    public async Task A_job_whose_worker_fell_silent_is_taken_over_and_the_dead_worker_has_lost_it()
    {
        var id = await Jobs.AddAsync(StudyScan.Name, Study, "{}", Stop);
        (await Jobs.ClaimAsync(one, JobStore.Silence, Stop))!.Id.ShouldBe(id);
        (await Jobs.ClaimAsync(other, JobStore.Silence, Stop)).ShouldBeNull("its worker was heard of a moment ago");
        var taken = (await Jobs.ClaimAsync(other, TimeSpan.Zero, Stop))!;
        (taken.Id, taken.Attempts).ShouldBe((id, 2));
        (await Jobs.BeatAsync(id, one, 50, "still here", Stop)).ShouldBeFalse();
        (await Jobs.BeatAsync(id, other, 50, "mine now", Stop)).ShouldBeTrue();
        (await Jobs.FindAsync(id, Stop))!.Said.ShouldBe("mine now");
    }

    [Fact]
    public async Task A_job_that_brings_its_worker_down_again_and_again_is_given_up()
    {
        var id = await Jobs.AddAsync(StudyScan.Name, Study, "{}", Stop);
        for (var i = 0; i < JobStore.MostAttempts; i++) (await Jobs.ClaimAsync(Guid.NewGuid(), TimeSpan.Zero, Stop)).ShouldNotBeNull();
        (await Jobs.ClaimAsync(one, TimeSpan.Zero, Stop)).ShouldBeNull();
        var job = (await Jobs.FindAsync(id, Stop))!;
        (job.State, job.IsOver).ShouldBe(("failed", true));
        job.Said.ShouldContain("Given up");
    }

    [Fact]
    public async Task A_waiting_job_is_cancelled_at_once_and_a_running_one_at_its_next_heartbeat()
    {
        var waiting = await Jobs.AddAsync(StudyScan.Name, Study, "{}", Stop);
        await Jobs.CancelAsync(waiting, Stop);
        (await Jobs.FindAsync(waiting, Stop))!.State.ShouldBe("cancelled");
        (await Jobs.ClaimAsync(one, JobStore.Silence, Stop)).ShouldBeNull();

        var running = await Jobs.AddAsync(StudyScan.Name, Study, "{}", Stop);
        await Jobs.ClaimAsync(one, JobStore.Silence, Stop);
        await Jobs.CancelAsync(running, Stop);
        (await Jobs.BeatAsync(running, one, 10, "", Stop)).ShouldBeFalse();
    }

    [Fact]
    public async Task A_scan_looks_for_every_idea_and_says_how_it_ended()
    {
        await WriteAsync(await RecordAsync("Piece", 64), "SN: 1 e & a\nFT: 2");
        var ideas = new[] { await NameAsync("one", "SN: 1 e"), await NameAsync("other", "FT: 2") };
        var before = (await Sightings.OfIdeaAsync(ideas[0], Stop)).Count;
        var id = await Jobs.AddAsync(StudyScan.Name, Study, "{}", Stop);
        await DoAsync(new StudyScan(Source), (await Jobs.ClaimAsync(one, JobStore.Silence, Stop))!, one);
        var job = (await Jobs.FindAsync(id, Stop))!;
        (job.State, job.Progress, job.Said).ShouldBe(("done", 100, "Looked for 2 ideas in every passage."));
        (await Sightings.OfIdeaAsync(ideas[0], Stop)).Count.ShouldBe(before);
    }

    [Fact]
    public async Task A_cancelled_scan_says_how_far_it_came()
    {
        await NameAsync("one", "SN: 1 e");
        var id = await Jobs.AddAsync(StudyScan.Name, Study, "{}", Stop);
        var job = (await Jobs.ClaimAsync(one, JobStore.Silence, Stop))!;
        await Jobs.CancelAsync(id, Stop);
        await DoAsync(new StudyScan(Source), job, one);
        var ended = (await Jobs.FindAsync(id, Stop))!;
        (ended.State, ended.Said).ShouldBe(("cancelled", "Stopped after 0 of 1 ideas; what was found so far is kept."));
    }

    [Fact]
    public void Who_waits_for_a_database_asks_less_and_less_often_and_says_so_once()
    {
        var patience = new Patience();
        patience.Here().ShouldBeFalse();
        Enumerable.Range(0, 9).Select(_ => patience.Away()).Select(a => (a.Pause.TotalSeconds, a.JustGone))
            .ShouldBe([(0.5, true), (1, false), (2, false), (4, false), (8, false), (16, false), (30, false), (30, false), (30, false)]);
        patience.Here().ShouldBeTrue();
        patience.Here().ShouldBeFalse();
        patience.Away().ShouldBe((TimeSpan.FromSeconds(0.5), true));
    }
}
