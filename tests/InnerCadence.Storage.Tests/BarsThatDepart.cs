using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Storage.Tests;

/// <summary>What the ear takes for likely fills in a whole study, and what a person says of it.</summary>
public class BarsThatDepart : StorageTests
{
    private DepartingStore Departing => new(Source);

    private async Task DepartsAsync(RecordingId recording, params (int Bar, int AtMs, double Surprise)[] bars)
    {
        await using var connection = await Source.OpenConnectionAsync(Stop);
        await connection.ExecuteAsync("insert into departing_look (recording_id, looked_for, bars) values (@recording, 'here', 32)",
            new { recording });
        foreach (var (bar, at, surprise) in bars)
            await connection.ExecuteAsync("insert into departing_bar (recording_id, at_ms, until_ms, bar, surprise, words) "
                + "values (@recording, @at, @until, @bar, @surprise, 'toms from beat 3')",
                new { recording, at, until = at + 2000, bar, surprise });
    }

    private async Task<string> ListedAsync(bool written = true, int most = 100) => string.Join(", ",
        (await Departing.OfStudyAsync(Study, written, most, Stop)).Select(d => $"{d.At}{(d.Written ? " written" : "")}"));

    [Fact]
    public async Task The_farthest_come_first_and_those_that_are_written_can_be_left_out()
    {
        var (one, other) = (await RecordAsync("One", 32), await RecordAsync("Other", 32));
        await DepartsAsync(one, (1, 1000, 2), (8, 15_000, 5));
        await DepartsAsync(other, (4, 7000, 3));
        await WriteAsync(one, "SN: 1 2 3 4");
        (await ListedAsync()).ShouldBe("0:15, 0:07, 0:01 written");
        (await ListedAsync(written: false)).ShouldBe("0:15, 0:07");
        (await ListedAsync(most: 1)).ShouldBe("0:15");
        (await Departing.LookedAsync(Study, Stop)).ShouldBe((2, 64));
        await Recordings.DeleteAsync(other, Stop);
        (await ListedAsync()).ShouldBe("0:15, 0:01 written");
        (await Departing.LookedAsync(Study, Stop)).ShouldBe((1, 32));
    }

    [Fact]
    public async Task What_was_heard_and_is_nothing_stays_away_until_it_is_taken_back()
    {
        var one = await RecordAsync("One", 32);
        await DepartsAsync(one, (4, 7000, 3), (8, 15_000, 5));
        // Another ear puts the same bar a little elsewhere.
        await Departing.HeardNothingAsync(one, new(15_120), Stop);
        await Departing.HeardNothingAsync(one, new(15_120), Stop);
        (await ListedAsync()).ShouldBe("0:07");
        var nothing = await Departing.NothingAsync(one, Stop);
        nothing.ShouldBe([15_120]);
        DepartingStore.IsNothing(nothing, new Seconds(15)).ShouldBeTrue();
        DepartingStore.IsNothing(nothing, new Seconds(15.3)).ShouldBeFalse();
        await Departing.TakeBackAsync(one, new(15_000), Stop);
        (await ListedAsync()).ShouldBe("0:15, 0:07");
    }
}
