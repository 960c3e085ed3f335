using System.Diagnostics;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Tests;

/// <summary>Files as people have them become what the core reads and the browser plays.</summary>
public class SoundsOfEveryKind : StorageTests
{
    private readonly string folder = Directory.CreateTempSubdirectory("inner-cadence-media").FullName;
    private readonly MediaTool tool = new();
    private SoundFiles Files => new(folder);
    private SoundStore Sounds => new(Source, Files, new(Path.Combine(folder, "heard")));

    /// <summary>A second of a tone that ends in half a second of silence, and a moving picture if one is asked for.</summary>
    private async Task<string> MadeAsync(string name, string[] how, bool film = false)
    {
        var path = Path.Combine(folder, name);
        string[] picture = film ? ["-f", "lavfi", "-i", "testsrc=duration=1:size=322x241:rate=25"] : [];
        using var child = Process.Start(new ProcessStartInfo("ffmpeg", ["-v", "error", "-f", "lavfi", "-i",
            "sine=frequency=440:duration=1", .. picture, .. how, "-y", path]))!;
        await child.WaitForExitAsync(Stop);
        child.ExitCode.ShouldBe(0, name);
        return path;
    }

    private async Task<(SoundRow Row, Job Job)> ReadAsync(string path)
    {
        var recording = (await Recordings.FindAsync(await RecordAsync($"Piece {Path.GetFileName(path)}", 8), Stop))!;
        string hash;
        await using (var file = File.OpenRead(path)) hash = await Files.KeepAsync(file, Stop);
        var id = await Sounds.AttachAsync(recording, hash, Path.GetFileName(path), "application/octet-stream", 1, 1, false, Stop,
            decodes: true);
        var worker = Guid.NewGuid();
        var job = (await Jobs.ClaimAsync(worker, JobStore.Silence, Stop))!;
        job.Kind.ShouldBe(SoundStore.DecodingKind);
        await DoAsync(new DecodingWork(Sounds, Files, tool), job, worker);
        return ((await Sounds.FindAsync(id, Stop))!, (await Jobs.LastOnAsync(SoundStore.DecodingKind, id, Stop))!);
    }

    [Theory]
    [InlineData("one.mp3", "-ar 44100 -ac 2", 44100, 2)]
    [InlineData("one.flac", "-ar 96000 -ac 1", 44100, 1)]
    [InlineData("one.ogg", "-ar 48000 -ac 2 -c:a libvorbis", 48000, 2)]
    [InlineData("one.opus", "-ar 48000 -ac 1 -c:a libopus", 48000, 1)]
    [InlineData("one.m4a", "-ar 22050 -ac 1 -c:a aac", 22050, 1)]
    [InlineData("one.aiff", "-ar 8000 -ac 6", 8000, 2)]
    public async Task A_sound_is_read_and_its_original_stays(string name, string how, int rate, int channels)
    {
        var (row, job) = await ReadAsync(await MadeAsync(name, how.Split(' ')));
        (job.State, job.Said).ShouldBe(("done", "The sound is read."));
        Files.Has(row.Hash).ShouldBeTrue();
        await using var file = Files.Open(row.Samples!);
        var head = (await SoundStore.HeadAsync(file, Stop)).Head!;
        (head.Rate, head.Channels, row.Film).ShouldBe((rate, channels, null));
        head.Seconds.Value.ShouldBe(1, 0.06);
        row.Played.ShouldBe((row.Samples!, "audio/wav"));
        // It is heard as any WAV: cut, slowed, and looked at.
        using var excerpts = new Excerpts(Files, tool);
        var (sound, _) = await excerpts.SamplesAsync(row.Samples!, new(0.2), new(0.4), Stop);
        sound![0].Max().ShouldBeGreaterThan(0.02f);
        (await Jobs.ClaimAsync(Guid.NewGuid(), JobStore.Silence, Stop))!.Kind.ShouldBe(SoundStore.OverviewKind);
    }

    [Fact]
    public async Task A_film_gives_its_sound_and_a_film_that_the_browser_plays()
    {
        var (row, job) = await ReadAsync(await MadeAsync("hands.mkv", ["-c:v", "mpeg4", "-c:a", "pcm_s16le"], film: true));
        (job.State, job.Said).ShouldBe(("done", "Sound and film are read."));
        (row.FilmMedia, Files.Has(row.Film!)).ShouldBe(("video/mp4", true));
        var facts = MediaFacts.Read((await tool.ProbeAsync(Path.Combine(folder, row.Hash), Stop)));
        (facts.Film, facts.PlayedAs).ShouldBe(("mpeg4", null));
        // What stands by itself has no sound: what is heard is always the record's.
        Should.Throw<UnreadableMediaException>(() => MediaFacts.Read(tool.ProbeAsync(Path.Combine(folder, row.Film!), Stop).Result))
            .Message.ShouldBe("There is no sound in it.");
    }

    [Fact]
    public async Task A_film_that_the_browser_plays_stays_as_it_is()
    {
        var (row, _) = await ReadAsync(await MadeAsync("hands.webm", ["-c:v", "libvpx", "-deadline", "realtime", "-c:a", "libopus"],
            film: true));
        (row.Film, row.FilmMedia).ShouldBe((row.Hash, "video/webm"));
    }

    [Fact]
    public async Task A_file_that_is_cut_off_or_none_is_told_in_a_sentence_and_nothing_is_left_lying_about()
    {
        var whole = await MadeAsync("cut.m4a", ["-c:a", "aac"]);
        await File.WriteAllBytesAsync(whole, (await File.ReadAllBytesAsync(whole, Stop))[..2000], Stop);
        var (row, job) = await ReadAsync(whole);
        (job.State, job.Said).ShouldBe(("failed", "It is no sound or film that can be read, or it is cut off."));
        row.Samples.ShouldBeNull();
        Directory.GetFiles(folder, "*.part").ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_made_goes_when_the_sound_goes_and_a_file_that_another_uses_stays()
    {
        var (row, _) = await ReadAsync(await MadeAsync("one.mp3", []));
        await Sounds.ForgetAsync(row.Hash, Stop);
        Files.Has(row.Hash).ShouldBeTrue("a recording has it");
        await Sounds.DeleteAsync(row.Id, Stop);
        await Source.CreateCommand("update sound set deleted_at = now() - interval '2 days'").ExecuteNonQueryAsync(Stop);
        await Sounds.ClearAsync(Stop);
        (Files.Has(row.Hash), Files.Has(row.Decoded!)).ShouldBe((false, false));
    }
}
