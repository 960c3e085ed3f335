using System.Numerics.Tensors;
using System.Runtime.InteropServices;
using MathNet.Numerics;

namespace InnerCadence.Core.Hearing;

/// <summary>What the ear sees of a sound: the power in 72 bands every 10 ms, as its samples go by.</summary>
/// <remarks>sound.md, "What the ear sees". The training makes the same: tools/ear_workshop/features.py.</remarks>
internal sealed class EarFeatures
{
    /// <summary>Samples a second, and from frame to frame.</summary>
    public const int Rate = 44_100, Hop = 441;
    public const int Bands = Low + High;

    /// <summary>How far beyond its centre a frame reads: half the long window, at the rate it is thinned to, and half the filter.</summary>
    public const int Ahead = (Long / 2 + 1) * Decimation + Taps / 2 + 1;

    private const int Low = 24, High = 48, Long = 256, Short = 1024, Decimation = 16, Taps = 255;

    private static readonly float[] LowTaps = Lowpass.Taps(900, Rate, Taps);
    private static readonly float[] LongWindow = WindowOf(Long), ShortWindow = WindowOf(Short);
    private static readonly Triangle[] LowBands = Triangles(Spread(26, i => 30 * Math.Pow(520.0 / 30, i / 25.0)),
        (double)Rate / Decimation / Long);
    private static readonly Triangle[] HighBands = Triangles(
        Spread(50, i => HertzOf(MelOf(100) + (MelOf(17_000) - MelOf(100)) * i / 49)), (double)Rate / Short);

    private readonly Action<ReadOnlySpan<float>> take;
    private readonly List<float> sound = [];
    private readonly List<float> slow = [];
    private readonly FourierTransform longs = new(Long), shorts = new(Short);
    private long first, firstSlow, nextSlow, nextFrame, given;

    /// <param name="take">Is given each frame's powers, 72 of them, in order.</param>
    public EarFeatures(Action<ReadOnlySpan<float>> take) => this.take = take;

    /// <summary>Takes the next samples, -1 to 1, at <see cref="Rate"/>.</summary>
    public void Add(ReadOnlySpan<float> mono)
    {
        sound.AddRange(mono);
        given += mono.Length;
        Work(given - Ahead);
    }

    /// <summary>Gives the frames that waited for what follows.</summary>
    public void End()
    {
        var frames = given / Hop + 1;
        sound.AddRange(new float[Ahead + Short]);
        Work((frames - 1) * Hop, frames);
    }

    /// <summary>What the network is given of powers: 0 is 70 dB under <paramref name="full"/>, 1 is that.</summary>
    public static float Level(float power, float full) => MathF.Log10(power / full + 1e-7f) / 7 + 1;

    /// <summary>The power that counts as full in a window: the 99th percentile over its frames of their greatest bands.</summary>
    /// <param name="powers">Of its frames, <see cref="Bands"/> each.</param>
    public static float Full(ReadOnlySpan<float> powers)
    {
        var greatest = new float[powers.Length / Bands];
        for (var frame = 0; frame < greatest.Length; frame++) greatest[frame] = TensorPrimitives.Max(powers.Slice(frame * Bands, Bands));
        Array.Sort(greatest);
        return greatest.Length == 0 ? 1e-9f : Math.Max(1e-9f, greatest[Math.Min(greatest.Length - 1, (int)(0.99 * greatest.Length))]);
    }

    /// <param name="until">The last sample at which a frame may be centred.</param>
    private void Work(long until, long frames = long.MaxValue)
    {
        while (nextFrame < frames && nextFrame * Hop <= until)
        {
            // Two frames are the real and the imaginary part of one transform.
            var pair = nextFrame + 1 < frames && (nextFrame + 1) * Hop <= until;
            Thin(nextFrame + (pair ? 1 : 0));
            See(pair);
            nextFrame += pair ? 2 : 1;
        }
        Forget();
    }

    /// <summary>Goes on with the thinned sound as far as a frame reads.</summary>
    private void Thin(long frame)
    {
        for (var until = SlowCentre(frame) + Long / 2; nextSlow < until; nextSlow++)
        {
            var (sum, at) = (0f, nextSlow * Decimation - Taps / 2 - first);
            var heard = CollectionsMarshal.AsSpan(sound);
            if (at >= 0 && at + Taps <= heard.Length)
                sum = TensorPrimitives.Dot(heard.Slice((int)at, Taps), LowTaps);
            else
                for (var tap = 0; tap < Taps; tap++)
                    if (at + tap >= 0 && at + tap < heard.Length) sum += heard[(int)(at + tap)] * LowTaps[tap];
            slow.Add(sum);
        }
    }

    private static long SlowCentre(long frame) => (frame * Hop + Decimation / 2) / Decimation;

    private void See(bool pair)
    {
        var heard = CollectionsMarshal.AsSpan(sound);
        var thinned = CollectionsMarshal.AsSpan(slow);
        Fill(shorts, ShortWindow, heard, nextFrame * Hop - Short / 2 - first, pair ? (nextFrame + 1) * Hop - Short / 2 - first : null);
        Fill(longs, LongWindow, thinned, SlowCentre(nextFrame) - Long / 2 - firstSlow,
            pair ? SlowCentre(nextFrame + 1) - Long / 2 - firstSlow : null);
        shorts.Forward();
        longs.Forward();
        Span<float> powers = stackalloc float[Bands];
        for (var half = 0; half < (pair ? 2 : 1); half++)
        {
            Sum(longs, LowBands, half == 1, powers[..Low]);
            Sum(shorts, HighBands, half == 1, powers[Low..]);
            take(powers);
        }
    }

    private static void Fill(FourierTransform into, float[] window, ReadOnlySpan<float> from, long at, long? other)
    {
        Windowed(into.Real, at, from);
        if (other is { } second) Windowed(into.Imaginary, second, from);
        else Array.Clear(into.Imaginary);

        void Windowed(float[] half, long start, ReadOnlySpan<float> from)
        {
            for (var i = 0; i < half.Length; i++)
                half[i] = start + i >= 0 && start + i < from.Length ? from[(int)(start + i)] * window[i] : 0;
        }
    }

    /// <summary>Powers in bands of the real or the imaginary input of a transform.</summary>
    private static void Sum(FourierTransform spectrum, Triangle[] bands, bool imaginary, Span<float> into)
    {
        var (re, im) = (spectrum.Real, spectrum.Imaginary);
        for (var band = 0; band < bands.Length; band++)
        {
            var (from, weights) = (bands[band].From, bands[band].Weights);
            var sum = 0f;
            for (var i = 0; i < weights.Length; i++)
            {
                var bin = from + i;
                var mirror = bin == 0 ? 0 : re.Length - bin;
                var (real, imag) = imaginary ? (im[bin] + im[mirror], re[mirror] - re[bin]) : (re[bin] + re[mirror], im[bin] - im[mirror]);
                sum += weights[i] * (real * real + imag * imag) / 4;
            }
            into[band] = sum;
        }
    }

    /// <summary>Lets go of what no later frame reads.</summary>
    private void Forget()
    {
        const int Often = Rate;
        var keep = Math.Min(nextFrame * Hop - Short, nextSlow * Decimation - Taps) - first;
        if (keep > Often)
        {
            sound.RemoveRange(0, (int)keep);
            first += keep;
        }
        var keepSlow = SlowCentre(nextFrame) - Long - firstSlow;
        if (keepSlow <= Often / Decimation) return;
        slow.RemoveRange(0, (int)keepSlow);
        firstSlow += keepSlow;
    }

    /// <summary>Weights of the bins from one on; they sum to 1.</summary>
    private readonly record struct Triangle(int From, float[] Weights);

    private static Triangle[] Triangles(double[] edges, double hertzOfBin)
    {
        var centres = edges.Select(hz => hz / hertzOfBin).ToArray();
        return [.. Enumerable.Range(0, centres.Length - 2).Select(band =>
        {
            var centre = centres[band + 1];
            var (rise, fall) = (Math.Max(1, centre - centres[band]), Math.Max(1, centres[band + 2] - centre));
            var from = Math.Max(0, (int)Math.Ceiling(centre - rise));
            var weights = Enumerable.Range(from, (int)Math.Floor(centre + fall) - from + 1)
                .Select(bin => Math.Max(0, Math.Min(1 - (centre - bin) / rise, 1 - (bin - centre) / fall))).ToArray();
            return new Triangle(from, [.. weights.Select(w => (float)(w / weights.Sum()))]);
        })];
    }

    private static double[] Spread(int count, Func<int, double> of) => [.. Enumerable.Range(0, count).Select(of)];

    private static double MelOf(double hz) => 2595 * Math.Log10(1 + hz / 700);
    private static double HertzOf(double mel) => 700 * (Math.Pow(10, mel / 2595) - 1);

    private static float[] WindowOf(int size)
    {
        var hann = Window.HannPeriodic(size);
        var sum = hann.Sum();
        return [.. hann.Select(w => (float)(w * 2 / sum))];
    }
}
