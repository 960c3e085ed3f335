using System.Diagnostics;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Listening;

/// <summary>The long work of making of a sound or film what the core reads and the browser plays. The original stays beside it.</summary>
public sealed class DecodingWork(SoundStore sounds, SoundFiles files, MediaTool tool)
    : Work<SoundInput>(SoundStore.DecodingKind, "Reading a sound or film")
{
    /// <summary>Rates beyond are more than anybody hears.</summary>
    private const int Lowest = 8000, Highest = 48_000, Usual = 44_100;
    /// <summary>A film may take long for a hundredth of it: so often it is told that work goes on.</summary>
    private static readonly TimeSpan Often = TimeSpan.FromSeconds(5);
    private const string Stopped = "Cancelled: the sound is only played by the browser, as far as it can.";
    /// <summary>A film takes longer than it lasts at worst.</summary>
    private static readonly TimeSpan MostForSound = TimeSpan.FromHours(1), MostForFilm = TimeSpan.FromHours(6);

    protected override async Task RunAsync(SoundInput input, JobRun run)
    {
        var id = new SoundId(input.Sound);
        if (await sounds.FindAsync(id, run.Stop) is not { } row
            || !files.Has(row.Hash)) throw new JobFailedException("The file is not there any more.");
        if (!tool.IsThere) throw new JobFailedException(MediaTool.Missing);
        try
        {
            var original = files.PathOf(row.Hash);
            var facts = MediaFacts.Read(await tool.ProbeAsync(original, run.Stop));
            var share = facts.Film is null || facts.PlayedAs is not null ? 95 : 20;
            var rate = facts.Rate is >= Lowest and <= Highest ? facts.Rate : Usual;
            var decoded = row.Decoded is { } made && files.Has(made) ? made
                : await MadeAsync(original, ["-map", "0:a:0", "-vn", "-c:a", "pcm_s16le",
                "-ar", $"{rate}", "-ac", facts.Channels == 1 ? "1" : "2", "-map_metadata", "-1", "-fflags", "+bitexact", "-f", "wav"],
                    MostForSound,
                "Reading the sound.", 0, share, facts.Seconds, run);
            await sounds.SetDecodedAsync(id, decoded, run.Stop);
            if (facts.PlayedAs is { } media) await sounds.SetFilmAsync(id, row.Hash, media, run.Stop);
            else if (facts.Film is not null)
            {
                // Without sound of its own: what is heard is always the recording's. Even sizes, as the codec wants them.
                var film = await MadeAsync(original, ["-map", "0:v:0", "-an", "-c:v", "libx264", "-preset", "veryfast", "-crf", "26",
                    "-pix_fmt", "yuv420p",
                    "-vf", "scale='min(1280,iw)':-2", "-movflags", "+faststart", "-map_metadata", "-1", "-f", "mp4"], MostForFilm,
                    "Making a film that the browser plays.", share, 100, facts.Seconds, run);
                await sounds.SetFilmAsync(id, film, "video/mp4", run.Stop);
            }
            await run.DoneAsync(facts.Film is null ? "The sound is read." : "Sound and film are read.");
        }
        catch (UnreadableMediaException unreadable)
        {
            throw new JobFailedException(unreadable.Message);
        }
    }

    private async Task<string> MadeAsync(string original, string[] how, TimeSpan most, string doing, int from, int to, double? seconds,
        JobRun run)
    {
        var part = files.NewPart();
        try
        {
            var (said, beat) = (-1, Stopwatch.StartNew());
            await tool.ConvertAsync(original, how, part, most, async done =>
            {
                var now = from + (int)((to - from) * Math.Min(1, done / Math.Max(1, seconds ?? done)));
                if (now == said && beat.Elapsed < Often) return;
                said = now;
                beat.Restart();
                await run.BeatAsync(Math.Clamp(now, 0, 99), doing, Stopped);
            }, run.Stop);
            return await files.AdoptAsync(part, run.Stop);
        }
        finally
        {
            File.Delete(part);
        }
    }
}
