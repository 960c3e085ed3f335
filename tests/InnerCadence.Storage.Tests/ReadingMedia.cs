using InnerCadence.Storage.Listening;

namespace InnerCadence.Storage.Tests;

/// <summary>The tool that reads what the core does not, as a child process on a leash.</summary>
public class ReadingMedia
{
    private const int Rate = 44100;
    private static readonly MediaTool Tool = new();
    private static CancellationToken Stop => TestContext.Current.CancellationToken;

    [Theory, InlineData(25), InlineData(50), InlineData(75), InlineData(90)]
    public async Task Slowed_strokes_lie_within_milliseconds_of_their_places(int percent)
    {
        var (random, sound) = (new Random(7), new float[4 * Rate]);
        double[] at = [0.02, 0.5, 1.1, 1.6, 2.3, 3.5];
        foreach (var second in at)
            for (var i = 0; i < 2000; i++) sound[(int)(second * Rate) + i] += (float)((random.NextDouble() * 2 - 1) * Math.Exp(-i / 300.0));
        var slow = await Tool.StretchAsync([sound, sound], Rate, percent, Stop);
        slow.ShouldAllBe(channel => channel.Length == (int)Math.Round(4 * Rate * 100.0 / percent));
        foreach (var second in at.Skip(1))
        {
            var from = (int)((second - 0.1) * Rate * 100 / percent);
            var rise = Enumerable.Range(from, 20 * Rate / percent).First(i => Math.Abs(slow[0][i]) > 0.25);
            ((double)rise / Rate * percent / 100).ShouldBe(second, 0.004);
        }
    }

    [Fact]
    public async Task What_is_no_sound_is_refused_in_a_sentence_that_names_no_path()
    {
        var path = Path.GetTempFileName();
        try
        {
            await File.WriteAllTextAsync(path, "no sound at all", Stop);
            var refused = await Should.ThrowAsync<UnreadableMediaException>(() => Tool.ProbeAsync(path, Stop));
            refused.Message.ShouldBe("It is no sound or film that can be read, or it is cut off.");
            (await Should.ThrowAsync<UnreadableMediaException>(() => Tool.ConvertAsync(path, [], path + ".wav", TimeSpan.FromSeconds(20),
                null,
                Stop))).Message.ShouldNotContain(path);
        }
        finally
        {
            File.Delete(path);
        }
    }

    [Fact]
    public async Task A_file_that_names_an_address_or_another_file_is_not_followed()
    {
        var path = Path.GetTempFileName();
        try
        {
            await File.WriteAllTextAsync(path, "#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:10,\nhttp://127.0.0.1:9/a.ts\n#EXT-X-ENDLIST\n",
                Stop);
            await Should.ThrowAsync<UnreadableMediaException>(() => Tool.ProbeAsync(path, Stop));
        }
        finally
        {
            File.Delete(path);
        }
    }

    [Fact]
    public async Task It_ends_when_nobody_waits_any_more()
    {
        using var soon = new CancellationTokenSource(200);
        await Should.ThrowAsync<OperationCanceledException>(() => Tool.StretchAsync([new float[60 * Rate]], Rate, 26, soon.Token));
    }

    [Fact]
    public void Where_it_is_not_installed_that_is_known() => new MediaTool("/nowhere").IsThere.ShouldBeFalse();
}
