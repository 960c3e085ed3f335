using System.Text.Json;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Testing;

/// <summary>Clips whose truth is known, as tools/ear make-set makes them: sounds, and beside each a JSON file of what is struck.</summary>
internal static class SetToHear
{
    internal sealed record Truth(string Kind, string Meter, double Bpm, IReadOnlyList<Struck> Strokes, IReadOnlyList<Beat> Beats)
    {
        /// <summary>Beats a minute as they are played: of the gap in the middle, for a player drifts from the tempo that was counted in;
        /// in 7/8, whose beats are uneven, that tempo.</summary>
        public double Felt
        {
            get
            {
                double[] gaps = [.. Beats.Zip(Beats.Skip(1), (a, b) => b.At - a.At).Order()];
                return Meter == "7/8" || gaps.Length < 2 ? Bpm : 60 / gaps[gaps.Length / 2];
            }
        }
    }

    internal sealed record Struck(double At, string Voice, double Loudness)
    {
        public Family Family => Voice switch
        {
            "kick" => Family.Kick,
            "snare" or "stick" => Family.Snare,
            "closed" or "open" or "foot" => Family.Hat,
            "ride" => Family.Ride,
            "crash" => Family.Crash,
            "tom" => Family.Tom,
            _ => Family.Bell,
        };
    }

    internal sealed record Beat(double At, bool Bar);

    internal readonly record struct Clip(string Name, Truth Truth, IReadOnlyList<HeardStroke> Strokes, HeardBeats Beats,
        IReadOnlyList<HeardEcho> Echoes);

    /// <summary>How many of found and true moments pair off.</summary>
    internal readonly record struct Count(int Hits, int Found, int True)
    {
        public static Count operator +(Count a, Count b) => new(a.Hits + b.Hits, a.Found + b.Found, a.True + b.True);
        public double F => 2.0 * Hits / Math.Max(1, Found + True);
    }

    private static readonly JsonSerializerOptions Web = new(JsonSerializerDefaults.Web);

    /// <summary>Each clip of a folder as the ear hears it, in order of name.</summary>
    /// <param name="through">What ffmpeg does to the sound first.</param>
    internal static async IAsyncEnumerable<Clip> HearAsync(string folder, Ear ear, string through = "anull")
    {
        foreach (var file in Directory.EnumerateFiles(folder, "*.json").Order())
        {
            var truth = JsonSerializer.Deserialize<Truth>(await File.ReadAllTextAsync(file), Web)!;
            var heard = await HeardAsync(Path.ChangeExtension(file, ".flac"), ear, through);
            var strokes = HeardStrokes.In(heard, ear);
            yield return new(Path.GetFileNameWithoutExtension(file), truth, strokes, HeardBeats.Of(heard, strokes), heard.Echoes);
        }
    }

    private static async Task<Activations> HeardAsync(string flac, Ear ear, string through)
    {
        var wav = Path.GetTempFileName();
        try
        {
            await new MediaTool().ConvertAsync(flac, ["-af", through, "-f", "wav"], wav, TimeSpan.FromSeconds(60), null, default);
            var bytes = await File.ReadAllBytesAsync(wav);
            var head = WavHead.Read(bytes, bytes.Length).Head!;
            var mono = new float[head.Frames];
            head.Decode(bytes.AsSpan((int)head.DataStart, (int)head.DataBytes), mono, new());
            var pass = new EarPass(ear, head.Rate);
            foreach (var piece in mono.Chunk(10_000)) pass.Add(piece);
            return pass.End();
        }
        finally
        {
            File.Delete(wav);
        }
    }

    /// <summary>Of two lists of seconds.</summary>
    private static Count Matched(IEnumerable<double> found, IEnumerable<double> truth, double within)
    {
        var (a, b) = (found.Order().ToList(), truth.Order().ToList());
        var (i, j, hits) = (0, 0, 0);
        while (i < a.Count && j < b.Count)
            if (Math.Abs(a[i] - b[j]) <= within) (i, j, hits) = (i + 1, j + 1, hits + 1);
            else if (a[i] < b[j]) i++;
            else j++;
        return new(hits, a.Count, b.Count);
    }

    private static IEnumerable<double> Moments(IEnumerable<double> times)
    {
        var last = double.NegativeInfinity;
        foreach (var at in times.Order())
            if (at - last > 0.03) yield return last = at;
    }

    /// <summary>Moments at which anything is struck.</summary>
    internal static Count Onsets(Clip clip, double within = 0.05) =>
        Matched(Moments(clip.Strokes.Select(s => s.At.Value)), Moments(clip.Truth.Strokes.Select(s => s.At)), within);

    internal static Count Of(Clip clip, Family family) => Matched(clip.Strokes.Where(s => s.Family == family).Select(s => s.At.Value),
        clip.Truth.Strokes.Where(s => s.Family == family).Select(s => s.At), 0.05);

    /// <summary>Of true strokes of a loudness, 0 to 1, how many are found.</summary>
    internal static Count Found(Clip clip, Family family, double from, double to)
    {
        double[] there = [.. clip.Strokes.Where(s => s.Family == family).Select(s => s.At.Value)];
        double[] struck = [.. clip.Truth.Strokes.Where(s => s.Family == family && s.Loudness >= from && s.Loudness < to).Select(s => s.At)];
        return new(struck.Count(t => there.Any(f => Math.Abs(f - t) <= 0.05)), struck.Length, struck.Length);
    }

    internal static bool IsTempoRight(Clip clip) =>
        clip.Beats.Tempos.Count > 0 && Math.Abs(clip.Beats.Tempos[0].Bpm / clip.Truth.Felt - 1) < 0.04;

    internal static bool AreBarsRight(Clip clip) => Matched(clip.Beats.Beats.Where(b => b.Bar).Select(b => b.At.Value),
        clip.Truth.Beats.Where(b => b.Bar).Select(b => b.At), 0.07).F > 0.8;
}
