using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Practice;
using InnerCadence.Storage.Practice;

namespace InnerCadence.Storage.Tests;

/// <summary>Practice as it is kept: rounds sent twice, pain, due dates, and what the log says of hands and feet.</summary>
public class Practising : StorageTests
{
    private static readonly DateOnly Today = DateOnly.FromDateTime(DateTime.Now);
    private PracticeStore Practice => new(Source);

    private Task<PracticeId> AddAsync(string text = "SN: 1 e & a", double goal = 120) =>
        Practice.AddAsync(Study, "patter", CountLines.Parse(text).Passage, Bpm.Of(goal)!.Value, 10, null, null, Stop);
    private static PracticeEntry Round(string outcome, double tempo = 96) => new(Guid.NewGuid(), tempo, outcome, null, "");

    [Fact]
    public async Task What_is_sent_twice_is_kept_once_and_climbs_once()
    {
        var id = await AddAsync();
        var rounds = Enumerable.Range(0, 3).Select(_ => Round("clean")).ToList();
        (await Practice.KeepAsync(id, rounds, Stop))!.Ladder.Rung.ShouldBe(1);
        var again = (await Practice.KeepAsync(id, [.. rounds, Round("failed")], Stop))!;
        (again.Rung, again.Failed, again.Best).ShouldBe((1, 1, 96.0));
        (await Practice.DaysAsync(id, Stop)).ShouldHaveSingleItem().ShouldBe(new PracticeDay(Today, 96, 3, 1, 0));
        (await Practice.KeepAsync(new(999), rounds, Stop)).ShouldBeNull();
    }

    [Fact]
    public async Task Two_pages_that_send_at_once_lose_nothing()
    {
        var id = await AddAsync();
        await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => Practice.KeepAsync(id, [Round("clean")], Stop)));
        (await Practice.FindAsync(id, Stop))!.Rung.ShouldBe(2);
    }

    [Fact]
    public async Task Rounds_that_arrive_while_a_session_ends_are_all_climbed_with()
    {
        var id = await AddAsync();
        await Task.WhenAll(Enumerable.Range(0, 12).Select(i => i % 2 == 0 ? Practice.KeepAsync(id, [Round("clean")], Stop)
            : (Task)Practice.EndAsync(id, Today, Stop)));
        (await Practice.FindAsync(id, Stop))!.Rung.ShouldBe(2);
    }

    [Fact]
    public async Task Pain_stops_it_until_somebody_begins_anew_and_it_is_due_sooner()
    {
        var id = await AddAsync();
        await Practice.KeepAsync(id, [Round("clean"), Round("clean"), Round("clean")], Stop);
        var hurt = (await Practice.KeepAsync(id, [new(Guid.NewGuid(), 100, null, 2, "wrist"), Round("clean"), Round("clean"),
            Round("clean")], Stop))!;
        (hurt.Stopped, hurt.Rung).ShouldBe((true, 1));
        (await Practice.EndAsync(id, Today, Stop))!.ShouldBe(new Due(Today.AddDays(2), 2));
        await Practice.AnewAsync(id, Stop);
        (await Practice.FindAsync(id, Stop))!.ShouldSatisfyAllConditions(i => i.Stopped.ShouldBeFalse(), i => i.Rung.ShouldBe(0));
    }

    [Fact]
    public async Task Due_dates_grow_with_sessions_that_went_well()
    {
        var id = await AddAsync();
        await Practice.KeepAsync(id, [Round("clean")], Stop);
        (await Practice.EndAsync(id, Today, Stop))!.On.ShouldBe(Today.AddDays(2));
        (await Practice.EndAsync(id, Today, Stop))!.On.ShouldBe(Today.AddDays(4));
        await Practice.KeepAsync(id, [Round("failed"), Round("failed")], Stop);
        (await Practice.EndAsync(id, Today, Stop))!.On.ShouldBe(Today.AddDays(2));
    }

    [Fact]
    public async Task The_log_raises_the_limits_that_are_set()
    {
        (await Practice.LimitsAsync(Stop)).ShouldBe(Core.Hands.Limits.Usual);
        await Practice.SaveLimitsAsync(new() { Hand = 5, Foot = 5 }, Stop);
        var id = await AddAsync("BD: 1 e & a 2 e & a", 120);
        await Practice.KeepAsync(id, [Round("clean", 120)], Stop);
        var limits = await Practice.LimitsAsync(Stop);
        limits.Foot.ShouldBe(8, 1e-9);
        limits.Hand.ShouldBe(5);
    }

    [Fact]
    public async Task A_week_is_kept_and_half_an_hour_a_day_before()
    {
        (await Practice.WeekAsync(Study, Stop)).ShouldBe([30, 30, 30, 30, 30, 30, 30]);
        await Practice.SaveWeekAsync(Study, [0, 10, 20, 0, 0, 60, 5], Stop);
        (await Practice.WeekAsync(Study, Stop)).ShouldBe([0, 10, 20, 0, 0, 60, 5]);
    }
}
