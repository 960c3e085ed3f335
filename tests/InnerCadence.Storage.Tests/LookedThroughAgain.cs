using Dapper;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Ideas;

namespace InnerCadence.Storage.Tests;

/// <summary>What was looked through is looked through again where what it follows from changed, once, and nothing else is.</summary>
public class LookedThroughAgain : StorageTests
{
    private async Task<T> AskAsync<T>(string sql, object? values = null)
    {
        await using var connection = await Source.OpenConnectionAsync(Stop);
        return (await connection.ExecuteScalarAsync<T>(sql, values))!;
    }

    private Task<long[]> WaitingAsync() =>
        AskAsync<long[]>("select coalesce(array_agg((input->>'idea')::bigint order by id), '{}') from job where kind = 'looking' and state = 'waiting'");

    [Fact]
    public async Task After_new_marks_and_a_changed_idea()
    {
        var recording = await RecordAsync("Piece", 8);
        var (looked, never, deleted) = (await NameAsync("patter", "SN: 1 e & a"), await NameAsync("other", "FT: 1 2"),
            await NameAsync("gone", "T1: 1 2"));
        foreach (var idea in new[] { looked, deleted })
            await AskAsync<int>("insert into looked_through (idea_id, recording_id, looked_for, bars) values (@idea, @recording, 'as it was', 8)",
                new { idea, recording });
        await Ideas.DeleteAsync(deleted, Stop);

        await Timelines.SaveMarksAsync(recording, [new(1, new(0)), new(9, new(8000))], 1, Stop);
        (await WaitingAsync()).ShouldBe([looked.Value], "the others were not looked for, or are not there any more");
        await Timelines.SaveMarksAsync(recording, [new(1, new(100)), new(9, new(8000))], 2, Stop);
        (await WaitingAsync()).ShouldBe([looked.Value], "one that waits is enough");

        await AskAsync<int>("update job set state = 'done'");
        (await Timelines.SaveMarksAsync(recording, [], 1, Stop)).ShouldBeFalse();
        (await WaitingAsync()).ShouldBeEmpty("nothing was changed");
        await Ideas.UpdateAsync(never, new IdeaDraft { Nickname = "other", Text = "FT: 3 4", Rules = new() }, 1, Stop);
        (await WaitingAsync()).ShouldBeEmpty();
        await Ideas.UpdateAsync(looked, new IdeaDraft { Nickname = "patter", Text = "SN: 3 e & a", Rules = new() }, 1, Stop);
        (await WaitingAsync()).ShouldBe([looked.Value]);
    }

    [Fact]
    public async Task Not_in_another_study()
    {
        var recording = await RecordAsync("Piece", 8);
        var idea = await NameAsync("patter", "SN: 1 e & a");
        await AskAsync<int>("insert into looked_through (idea_id, recording_id, looked_for, bars) values (@idea, @recording, 'as it was', 8)",
            new { idea, recording });
        var study = await Studies.AddAsync(new("Another", "", "Oda Finch", Core.Music.Handedness.Right, []), Stop);
        await AskAsync<int>("update idea set study_id = @Value where id = @idea", new { study.Value, idea });
        await Timelines.SaveMarksAsync(recording, [new(1, new(0))], 1, Stop);
        (await WaitingAsync()).ShouldBeEmpty();
    }
}
