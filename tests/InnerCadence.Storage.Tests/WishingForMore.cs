using InnerCadence.Storage.Claims;

namespace InnerCadence.Storage.Tests;

/// <summary>The wish list of a study.</summary>
public class WishingForMore : StorageTests
{
    [Fact]
    public async Task Votes_add_up_and_a_wish_finds_its_recording_and_comes_back_when_it_is_wished_again()
    {
        var wishes = new WishStore(Source);
        var recording = await RecordAsync("Slack Water", 120);
        await wishes.AddAsync(Study, [("slack water", 2), ("more brushes", 3)], Stop);
        await wishes.AddAsync(Study, [("Slack Water", 4)], Stop);
        var all = await wishes.OfStudyAsync(Study, Stop);
        all.Select(w => (w.Words, w.Votes, w.RecordingId)).ShouldBe([("slack water", 6, recording), ("more brushes", 3, null)]);
        (await wishes.FulfilAsync(Study, all[0].Id, true, Stop)).ShouldBe("slack water");
        (await wishes.OfStudyAsync(Study, Stop)).Select(w => w.Words).ShouldBe(["more brushes"]);
        (await wishes.FulfilAsync(new(Study.Value + 1), all[1].Id, true, Stop)).ShouldBeNull("it is another study’s");
        await wishes.AddAsync(Study, [("slack water", 1)], Stop);
        (await wishes.OfStudyAsync(Study, Stop))[0].Votes.ShouldBe(7);
    }
}
