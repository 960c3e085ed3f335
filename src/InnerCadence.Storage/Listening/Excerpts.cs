using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using Microsoft.Extensions.Caching.Memory;

namespace InnerCadence.Storage.Listening;

/// <summary>Some seconds of a recording's sound, as they are heard in a loop.</summary>
/// <param name="From">Before the start of the sound there is silence; so after its end.</param>
/// <param name="Speed">In percent of the recorded one.</param>
public readonly record struct Excerpt(Seconds From, Seconds To, int Speed, SoundPart Part)
{
    /// <summary>As it is heard: a minute at the slowest, four at the recorded speed.</summary>
    public static readonly Seconds Longest = new(240);
    public const int Slowest = 25, Fastest = 150;

    public Seconds Length => To - From;
    public bool IsPossible => double.IsFinite(From) && double.IsFinite(To) && Length > Seconds.OfMilliseconds(20)
        && Speed is >= Slowest and <= Fastest && Length * 100 / Speed <= Longest.Value;
}

/// <summary>Cuts excerpts out of sound files; what was made lately is kept ready by the file's hash.</summary>
public sealed class Excerpts(SoundFiles files, MediaTool tool) : IDisposable
{
    private const long MostKept = 256L << 20;
    private readonly MemoryCache kept = new(new MemoryCacheOptions { SizeLimit = MostKept });
    /// <summary>Stretching keeps a processor busy: one at a time leaves the other to the pages.</summary>
    private readonly SemaphoreSlim one = new(1);

    /// <returns>A WAV file whose length is that of the excerpt at its speed, to the sample; nothing where only a browser reads the
    /// file.</returns>
    public async Task<byte[]?> WavAsync(string hash, Excerpt excerpt, CancellationToken stop)
    {
        if (kept.TryGetValue((hash, excerpt), out byte[]? known)) return known;
        var (sound, rate) = await SamplesAsync(hash, excerpt.From, excerpt.To, stop);
        if (sound is null) return null;
        await one.WaitAsync(stop);
        try
        {
            var wav = await Task.Run(() => MadeAsync(sound, rate, excerpt, stop), stop);
            return kept.Set((hash, excerpt), wav, new MemoryCacheEntryOptions { Size = wav.Length });
        }
        finally
        {
            one.Release();
        }
    }

    private async Task<byte[]> MadeAsync(float[][] sound, int rate, Excerpt excerpt, CancellationToken stop)
    {
        var part = SoundParts.Of(sound, rate, excerpt.Part);
        var heard = excerpt.Speed == 100 ? part
            // Strokes stay crisper with the tool; without it they are slowed all the same.
            : tool.IsThere ? await tool.StretchAsync(part, rate, excerpt.Speed, stop) : TimeStretch.Of(part, rate, excerpt.Speed / 100.0);
        var (channels, frames) = (heard.Length, heard[0].Length);
        var woven = new float[frames * channels];
        for (var channel = 0; channel < channels; channel++)
            for (var i = 0; i < frames; i++) woven[i * channels + channel] = heard[channel][i];
        return Wav.Write(woven, channels, rate);
    }

    /// <summary>The samples of each channel between two times; silence where the sound has none.</summary>
    public async Task<(float[][]? Sound, int Rate)> SamplesAsync(string hash, Seconds from, Seconds to, CancellationToken stop)
    {
        var (sound, rate, start) = await ThereAsync(hash, from, to, stop);
        if (sound is null) return (null, 0);
        long first = (long)Math.Round(from * rate), end = (long)Math.Round(to * rate);
        return ([.. sound.Select(channel =>
        {
            var whole = new float[end - first];
            channel.CopyTo(whole, Math.Clamp(start - first, 0, whole.Length));
            return whole;
        })], rate);
    }

    /// <summary>The samples of each channel between two times, as far as the sound goes.</summary>
    /// <returns>Start: the frame of the sound at which they begin.</returns>
    public async Task<(float[][]? Sound, int Rate, long Start)> ThereAsync(string hash, Seconds from, Seconds to, CancellationToken stop)
    {
        if (!files.Has(hash)) return (null, 0, 0);
        await using var file = files.Open(hash);
        if ((await SoundStore.HeadAsync(file, stop)).Head is not { } head) return (null, 0, 0);
        var (start, end) = (Held(from), Held(to));
        var bytes = new byte[(end - start) * head.FrameBytes];
        file.Position = head.DataStart + start * head.FrameBytes;
        await file.ReadExactlyAsync(bytes, stop);
        return (head.DecodeChannels(bytes), head.Rate, start);

        long Held(Seconds at) => Math.Clamp((long)Math.Round(at * head.Rate), 0, head.Frames);
    }

    public void Dispose()
    {
        kept.Dispose();
        one.Dispose();
    }
}
