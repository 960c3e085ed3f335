using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Tests;

/// <summary>The search for recurring cells as a job, kept with its settings.</summary>
public class DiscoveringCells : StorageTests
{
    private WrittenPassages Written => new(Source);
    private DiscoveryStore Discoveries => new(Source, Jobs);
    private DiscoveryWork Work => new(Source, new(Source));

    private async Task<DiscoveryRow> LookAsync(DiscoverySettings settings)
    {
        var worker = Guid.NewGuid();
        await Discoveries.StartAsync(Study, settings, Stop);
        await DoAsync(Work, (await Jobs.ClaimAsync(worker, JobStore.Silence, Stop))!, worker);
        return (await Discoveries.LatestAsync(Study, Stop))!;
    }

    [Fact]
    public async Task A_cell_of_two_recordings_is_kept_with_its_places_and_whose_it_is()
    {
        await WriteAsync(await RecordAsync("One", 64), "HH: 8ths\nSN: 1 e & a\nFT: 2 &");
        await WriteAsync(await RecordAsync("Two", 64), "RD: 8ths\nSN: 3 e & a\nFT: 4 &");
        await WriteAsync(await RecordAsync("Three", 64, player: "Oda Finch"), "SN: 1 e & a\nFT: 2 &");
        var cell = (await LookAsync(new())).Cells.First(c => c.Moments == 6);
        (cell.Recordings, cell.SubjectRecordings, cell.Occurrences, cell.Whose).ShouldBe((3, 2, 3, "everyone"));
        cell.Places.Select(p => (p.Recording, p.Where, p.From, p.To)).ShouldContain(("Two", "bar 1, 3", "1.3", "1.4a"));
        cell.Text.ShouldContain("SN:");
        cell.Explained.ShouldBeEmpty();
        (await LookAsync(new() { Player = (await Studies.FindAsync(Study, Stop))!.Subject.Id })).Cells.First(c =>
            c.Moments == 6).Whose.ShouldBe("only here");
    }

    [Fact]
    public async Task A_named_idea_explains_it_a_dismissed_one_stays_away_and_new_evidence_makes_it_stale()
    {
        await WriteAsync(await RecordAsync("One", 64), "SN: 1 e & a\nFT: 2");
        await WriteAsync(await RecordAsync("Two", 64), "SN: 3 e & a\nFT: 4");
        var before = (await LookAsync(new())).Cells.First(c => c.Moments == 5);
        await NameAsync("stumble", "SN: 1 e & a\nFT: 2");
        var after = await LookAsync(new());
        var cell = after.Cells.First(c => c.Moments == 5);
        cell.Explained.ShouldBe(["stumble"]);
        cell.Key.ShouldBe(before.Key, "the same cell has the same key");

        await Discoveries.DismissAsync(Study, cell.Key, "a run", Stop);
        (await Discoveries.DismissedAsync(Study, Stop)).ShouldContain(cell.Key);
        await Discoveries.TakeBackAsync(Study, cell.Key, Stop);
        (await Discoveries.DismissedAsync(Study, Stop)).ShouldBeEmpty();

        (await Written.EvidenceAsync(Study, Stop)).ShouldBe(after.Evidence);
        await WriteAsync(await RecordAsync("Three", 64), "SN: 2 4");
        (await Written.EvidenceAsync(Study, Stop)).ShouldNotBe(after.Evidence);
    }

    [Fact]
    public async Task A_search_that_is_cancelled_keeps_nothing()
    {
        await WriteAsync(await RecordAsync("One", 64), "SN: 1 e & a");
        var (worker, job) = (Guid.NewGuid(), await Discoveries.StartAsync(Study, new(), Stop));
        var claimed = (await Jobs.ClaimAsync(worker, JobStore.Silence, Stop))!;
        await Jobs.CancelAsync(job, Stop);
        await DoAsync(Work, claimed, worker);
        (await Jobs.FindAsync(job, Stop))!.State.ShouldBe("cancelled");
        (await Discoveries.LatestAsync(Study, Stop)).ShouldBeNull();
    }

    [Fact]
    public async Task Traits_of_every_passage_come_as_a_table()
    {
        await WriteAsync(await RecordAsync("One", 64), "T1: 1L 1e\nFT: 2f\n");
        await WriteAsync(await RecordAsync("Two", 64), "");
        var lines = System.Text.Encoding.UTF8.GetString((await new TraitsTable(Written).ReadAsync(Study, Stop)).As("csv"))
            .Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(l => l.TrimEnd('\r')).ToList();
        lines.Count.ShouldBe(2, "a passage without strokes has no traits");
        lines[1].ShouldBe("Nell Tarrow,One,,1,groove,left,T1,FT,1,2,1,3,down,yes,0,flam,A");
    }
}
