using System.Diagnostics;
using System.Globalization;
using InnerCadence.Core.Hearing;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Bench;

/// <summary>Every format that people have, made here and read again; and how many times faster than it lasts a sound is worked
/// on.</summary>
internal static class Media
{
    private const int Seconds = 240;

    private static readonly (string Name, string How, bool Film)[] All =
    [
        ("mp3", "-c:a libmp3lame", false), ("mp3 8 kHz", "-c:a libmp3lame -ar 8000 -ac 1", false), ("flac", "-c:a flac", false),
        ("flac 192 kHz", "-c:a flac -ar 192000", false), ("ogg", "-c:a libvorbis", false), ("opus", "-c:a libopus -ar 48000", false),
        ("m4a", "-c:a aac", false), ("aiff", "-c:a pcm_s16be", false), ("aiff 8 channels", "-c:a pcm_s24be -ac 8", false),
        ("wav adpcm", "-c:a adpcm_ms", false), ("wav float", "-c:a pcm_f32le", false), ("wav a-law", "-c:a pcm_alaw", false),
        ("mp4", "-c:v libx264 -preset ultrafast -c:a aac", true), ("webm", "-c:v libvpx -deadline realtime -c:a libopus -ar 48000", true),
        ("mkv", "-c:v mpeg4 -c:a flac", true), ("mov", "-c:v mpeg4 -c:a pcm_s16le", true),
    ];

    public static async Task FormatsAsync()
    {
        var folder = Directory.CreateTempSubdirectory("inner-cadence-formats");
        try
        {
            var tool = new MediaTool();
            if (!tool.IsThere) throw new InvalidOperationException(MediaTool.Missing);
            foreach (var (name, how, film) in All)
            {
                var (path, wav) = (Path.Combine(folder.FullName, $"x.{name.Split(' ')[0]}"), Path.Combine(folder.FullName, "x-read.wav"));
                await MakeAsync(path, 10, how, film);
                var facts = MediaFacts.Read(await tool.ProbeAsync(path, default));
                var watch = Stopwatch.StartNew();
                await tool.ConvertAsync(path, ["-map", "0:a:0", "-vn", "-c:a", "pcm_s16le", "-ar", "44100", "-ac", "2", "-f", "wav"], wav,
                    TimeSpan.FromMinutes(2), null, default);
                await using var file = File.OpenRead(wav);
                var (head, problem) = await SoundStore.HeadAsync(file, default);
                Console.WriteLine(string.Create(CultureInfo.InvariantCulture,
                    $"{name,-16} {(head is null ? problem : $"{head.Seconds.Value:0.00} s of 10")}  {10 / watch.Elapsed.TotalSeconds,5:0} "
                        + $"x  {facts.Film} {facts.PlayedAs}"));
            }
        }
        finally
        {
            folder.Delete(true);
        }
    }

    public static async Task SpeedAsync()
    {
        var folder = Directory.CreateTempSubdirectory("inner-cadence-speed");
        try
        {
            var tool = new MediaTool();
            var (mp3, wav) = (Path.Combine(folder.FullName, "x.mp3"), Path.Combine(folder.FullName, "x.wav"));
            await MakeAsync(mp3, Seconds, "-c:a libmp3lame", false);
            await TellAsync("decoding an mp3", Seconds, () => tool.ConvertAsync(mp3, ["-c:a", "pcm_s16le", "-ac", "2", "-f", "wav"], wav,
                TimeSpan.FromMinutes(5), null, default));
            var random = new Random(1);
            float[] minute = [.. Enumerable.Range(0, 60 * 44100)
                .Select(i => (float)((random.NextDouble() - 0.5) * Math.Exp(-i % 22050 / 2000.0)))];
            await TellAsync("drums forward, a minute", 60, () => Task.FromResult(SoundParts.Of([minute, minute], 44100, SoundPart.Drums)));
            await TellAsync("one band, a minute", 60, () => Task.FromResult(SoundParts.Of([minute, minute], 44100, SoundPart.Low)));
            await TellAsync("half speed by the tool", 60, () => tool.StretchAsync([minute, minute], 44100, 50, default));
            await TellAsync("half speed without it", 60, () => Task.FromResult(TimeStretch.Of([minute, minute], 44100, 0.5)));
            await TellAsync("energy of the bands", 60, () => Task.FromResult(BandEnergy.Of(minute, 44100)));
        }
        finally
        {
            folder.Delete(true);
        }
    }

    private static async Task TellAsync(string what, double seconds, Func<Task> does)
    {
        var (before, watch) = (GC.GetTotalAllocatedBytes(), Stopwatch.StartNew());
        await does();
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture,
            $"{what,-24} {watch.Elapsed.TotalSeconds,6:0.00} s  {seconds / watch.Elapsed.TotalSeconds,6:0} x  "
                + $"{(GC.GetTotalAllocatedBytes() - before) / 1e6,6:0} MB"));
    }

    private static async Task MakeAsync(string path, int seconds, string how, bool film)
    {
        string[] picture = film ? ["-f", "lavfi", "-i", $"testsrc=duration={seconds}:size=320x240:rate=25"] : [];
        using var child = Process.Start(new ProcessStartInfo("ffmpeg", ["-v", "error", "-f", "lavfi", "-i", $"sine=frequency=440:duration="
            + $"{seconds}:sample_rate=44100",
            .. picture, .. how.Split(' '), "-y", path]))!;
        await child.WaitForExitAsync();
    }
}
