using CsCheck;
using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Sightings;

namespace InnerCadence.Storage.Tests;

/// <summary>What is kept ready of a study is what would be worked out anew, after whatever change.</summary>
public class KeepingReady : StorageTests
{
    [Fact]
    public async Task After_any_change_what_is_kept_says_what_a_fresh_account_says()
    {
        using var kept = new KeptReady(Source);
        var evidence = new EvidenceOfIdeas(Source, new(Source, kept), new(Source, kept), kept);
        var recordings = new[] { await RecordAsync("Salt Line", 64, listened: 32), await RecordAsync("Kiln", 48) };
        var idea = await NameAsync("patter", "SN: 1 e & a");
        var random = new Random(4);
        Func<Task>[] changes =
        [
            async () => await Passages.AddAsync(recordings[random.Next(2)],
                Draft("SN: 1 e & a | 3 e & a") with { Bar = random.Next(1, 60) }, Stop),
            async () => await Coverages.AddAsync(recordings[random.Next(2)],
                new(Closeness.Listened, random.Next(1, 30), random.Next(1, 20), [], new(2026, 1, 1)), Stop),
            async () => await JudgeAsync(Judgement.Confirmed),
            async () => await JudgeAsync(Judgement.Rejected),
            async () => await Timelines.SaveMarksAsync(recordings[0], [new(1, new(0)), new(33, new(random.Next(60_000, 70_000)))],
                (await Recordings.FindAsync(recordings[0], Stop))!.Version, Stop),
            () => SqlAsync($"update recording set total_bars = {random.Next(40, 90)} where id = {recordings[1]}"),
            () => SqlAsync("delete from coverage where id = (select max(id) from coverage)"),
        ];
        for (var i = 0; i < 40; i++)
        {
            await changes[random.Next(changes.Length)]();
            var (known, fresh) = (await evidence.OfStudyAsync(Study, Stop), await new EvidenceOfIdeas(Source, new(Source))
                .OfStudyAsync(Study, Stop));
            foreach (var cautious in new[] { false, true }) known.Of(idea, cautious).Select(Line)
                .ShouldBe(fresh.Of(idea, cautious).Select(Line), $"change {i}");
        }

        async Task SqlAsync(string sql)
        {
            await using var connection = await Source.OpenConnectionAsync(Stop);
            await connection.ExecuteAsync(sql);
        }

        async Task JudgeAsync(Judgement judgement)
        {
            if ((await Sightings.OfIdeaAsync(idea, Stop)) is { Count: > 0 } all
                && all[random.Next(all.Count)] is var one) await Sightings.JudgeAsync(one.Id, one.Version, judgement, "", Stop);
        }
    }

    [Fact]
    public async Task Nothing_is_worked_out_twice_and_nothing_stale_is_shown()
    {
        using var kept = new KeptReady(Source);
        var times = 0;
        Task<string> Ask() => kept.OfAsync(Study, async _ => { await Task.Delay(20, Stop); return $"{Interlocked.Increment(ref times)}"; },
            _ => 1, Stop);
        (await Task.WhenAll(Ask(), Ask())).ShouldAllBe(s => s.Length == 1);
        var before = await Ask();
        (await Ask()).ShouldBe(before);
        await RecordAsync("Salt Line", 64);
        (await Ask()).ShouldNotBe(before);
        await kept.TidyAsync(Stop);
        using var small = new KeptReady(Source, most: 1);
        (await small.OfAsync(Study, _ => Task.FromResult("large"), _ => 5, Stop))
            .ShouldBe("large", "what is too large to keep is shown all the same");
    }

    private static string Line(IdeaInRecording of) =>
        $"{of.Recording.Id} {of.Recording.TotalBars} {of.Performance.Events} {of.Performance.Waiting} {of.Performance.Exposure.Bars} "
        + $"{of.Performance.Near.Count} {of.Rate}";
}
