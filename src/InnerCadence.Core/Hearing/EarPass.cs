using System.Runtime.InteropServices;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>The ear goes once over a sound, or over a span of it, as its samples go by.</summary>
/// <remarks>sound.md, "Windows". Windows of a fixed grid are heard one by one, with some seconds on each side that are heard and thrown
/// away: memory does not grow with the window's surroundings, and a span heard alone is what the whole file gives.</remarks>
public sealed class EarPass
{
    /// <summary>Frames of a window, and of what is heard on each side of it.</summary>
    internal const int Window = 3000, Side = 200;

    /// <summary>Frames whose samples are kept before those that are heard: as far as the first of them reads.</summary>
    private const int Before = EarFeatures.Ahead / EarFeatures.Hop + 1;

    /// <summary>Echoes of different delays that are looked for.</summary>
    private const int MostEchoes = 2;

    /// <summary>So many samples at once, that no more are held than a window reads.</summary>
    private const int Piece = 1 << 13;

    private readonly Ear ear;
    private readonly EarFeatures features;
    private readonly Resampler? resampler;
    private readonly PulsePass? pulse;
    private readonly EchoSearch echoes = new();
    private readonly List<float> sound = new((Before + Side + Window + Side + Before) * EarFeatures.Hop + 2 * Piece);
    private readonly List<float> powers = [];
    private readonly List<byte[]> heard = [];
    private readonly List<HeardEcho> echoed = [];
    private readonly int begin, end;
    private float[] bands = [], outputs = [];
    private int first, firstSound, frames, done;

    /// <param name="rate">Samples a second of the sound.</param>
    /// <param name="span">Given where only the samples from its start to its end come; then no beat is heard, which needs more.</param>
    public EarPass(Ear ear, int rate, EarSpan? span = null)
    {
        this.ear = ear;
        features = new(Take);
        resampler = rate == EarFeatures.Rate ? null : new(rate, EarFeatures.Rate, AddAtRate);
        if (span is { } part)
        {
            firstSound = frames = (int)part.From.Value * Ear.FramesPerSecond;
            (begin, end) = (part.FirstWindow * Window, (part.LastWindow + 1) * Window);
        }
        else
        {
            pulse = new(ear);
            end = int.MaxValue;
        }
        done = begin;
        first = Math.Max(0, done - Side);
    }

    /// <summary>Takes the next samples, -1 to 1.</summary>
    public void Add(ReadOnlySpan<float> mono)
    {
        if (resampler is null) AddAtRate(mono);
        else resampler.Add(mono);
    }

    public Activations End()
    {
        resampler?.End();
        features.End();
        while (done < Math.Min(frames, end)) Hear(Math.Min(Math.Min(done + Window, frames), end));
        return new(Joined(heard), pulse?.End() ?? [], begin) { Echoes = echoed };

        static byte[] Joined(List<byte[]> windows)
        {
            var (all, at) = (new byte[windows.Sum(w => w.Length)], 0);
            foreach (var window in windows)
            {
                window.CopyTo(all, at);
                at += window.Length;
            }
            return all;
        }
    }

    private void AddAtRate(ReadOnlySpan<float> mono)
    {
        for (; !mono.IsEmpty; mono = mono[Math.Min(Piece, mono.Length)..])
        {
            var piece = mono[..Math.Min(Piece, mono.Length)];
            sound.AddRange(piece);
            features.Add(piece);
        }
    }

    private void Take(ReadOnlySpan<float> power)
    {
        if (frames++ < first || done >= end) return;
        powers.AddRange(power);
        if (frames >= done + Window + Side) Hear(done + Window);
    }

    /// <summary>Hears the frames that are not done up to one, and keeps them.</summary>
    private void Hear(int until)
    {
        var (from, to) = (Math.Max(0, done - Side), Math.Min(frames, until + Side));
        var window = WithoutEchoes(from, to, until) ?? CollectionsMarshal.AsSpan(powers).Slice((from - first) * EarFeatures.Bands,
            (to - from) * EarFeatures.Bands);
        var full = EarFeatures.Full(window);
        if (bands.Length < window.Length) (bands, outputs) = (new float[window.Length], new float[(to - from) * Ear.Outputs]);
        for (var i = 0; i < window.Length; i++) bands[i] = EarFeatures.Level(window[i], full);
        ear.Hear(bands.AsMemory(0, window.Length), outputs);
        var made = outputs.AsSpan((done - from) * Ear.Outputs, (until - done) * Ear.Outputs);
        var kept = new byte[made.Length];
        for (var i = 0; i < made.Length; i++) kept[i] = Activations.Kept(made[i]);
        heard.Add(kept);
        if (pulse is not null) Pulse(made, pulse);
        done = until;
        powers.RemoveRange(0, Math.Max(0, done - Side - first) * EarFeatures.Bands);
        first = Math.Max(first, done - Side);
        var needed = Math.Max(firstSound, first - Before);
        sound.RemoveRange(0, Math.Min(sound.Count, (needed - firstSound) * EarFeatures.Hop));
        firstSound = needed;
    }

    /// <summary>Powers of the frames from one up to another where their sound has echoes, which are taken out of it first.</summary>
    private float[]? WithoutEchoes(int from, int to, int until)
    {
        var start = Math.Max(firstSound, from - Before);
        var last = Math.Min(sound.Count, (to - 1 - firstSound) * EarFeatures.Hop + EarFeatures.Ahead);
        var samples = CollectionsMarshal.AsSpan(sound)[((start - firstSound) * EarFeatures.Hop)..last];
        float[]? clean = null;
        for (var taken = 0; taken < MostEchoes && echoes.DelayIn(clean ?? samples) is { } delay; taken++)
        {
            clean ??= samples.ToArray();
            var filter = EchoFilter.For(clean, delay);
            filter.TakeOut(clean);
            HeardEcho.AddTo(echoed, new(AtFrame(done), AtFrame(until), new((double)filter.Delay / EarFeatures.Rate),
                filter.Decibels));
        }
        if (clean is null) return null;

        var (without, frame) = (new float[(to - from) * EarFeatures.Bands], start);
        var again = new EarFeatures(power =>
        {
            if (frame >= from && frame < to) power.CopyTo(without.AsSpan((frame - from) * EarFeatures.Bands));
            frame++;
        });
        again.Add(clean);
        again.End();
        return without;
    }

    private static Seconds AtFrame(int frame) => new((double)frame / Ear.FramesPerSecond);

    /// <summary>What the beat is read from: strength x (0.3 + 0.7 loudness), the greater of two frames.</summary>
    private static void Pulse(ReadOnlySpan<float> made, PulsePass pulse)
    {
        Span<float> families = stackalloc float[Ear.Families.Count];
        for (var frame = 0; frame + 1 < made.Length / Ear.Outputs; frame += 2)
        {
            for (var family = 0; family < families.Length; family++)
                families[family] = Math.Max(Strength(made, frame, family), Strength(made, frame + 1, family));
            pulse.Add(families);
        }

        static float Strength(ReadOnlySpan<float> made, int frame, int family) =>
            made[frame * Ear.Outputs + family] * (0.3f + 0.7f * made[frame * Ear.Outputs + Activations.Velocities + family]);
    }
}
