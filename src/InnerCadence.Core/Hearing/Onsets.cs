using InnerCadence.Core.Music;
using MathNet.Numerics.Statistics;

namespace InnerCadence.Core.Hearing;

/// <summary>Low is 20 to 150 Hz, middle 150 Hz to 4 kHz, high over 4 kHz.</summary>
public enum SoundBand { Low, Middle, High }

/// <summary>Where the bands meet, in Hz, and the lowest that counts.</summary>
internal static class SoundBands
{
    public const double Lowest = 20, LowEnds = 150, HighBegins = 4000;

    public static SoundBand Of(double hz) => hz < LowEnds ? SoundBand.Low : hz < HighBegins ? SoundBand.Middle : SoundBand.High;
}

/// <summary>A proposal where something was struck: the listener decides.</summary>
/// <param name="Strength">Against the strongest of its band, 0 to 1.</param>
/// <param name="Confidence">How much clearer this family is than the next, 0 to 1.</param>
public sealed record Onset(Seconds At, SoundBand Band, double Strength, Family Family, double Confidence);

/// <summary>A tempo that the sound may have; half and double of it are others.</summary>
/// <param name="Bpm">Beats a minute, as they are felt: in 6/8 and its like of three eighths.</param>
/// <param name="Weight">All of them together are 1.</param>
public sealed record SoundTempo(double Bpm, double Weight)
{
    /// <returns>Quarters a minute, as a recording's tempo is told; nothing where no recording has such a tempo.</returns>
    public Bpm? Quarters(MeterCycle meters) => Music.Bpm.Of(Bpm * QuartersOfABeat(meters));

    internal static double QuartersOfABeat(MeterCycle? meters) => meters?.Meters[0] is { Lower: 8 } meter && meter.Pulses[0] == 3 ? 1.5 : 1;
}

/// <summary>Finds onsets in a sound as its samples go by (time.md, "Sound"): spectral flux in three bands, a threshold that follows it, its
/// peaks.</summary>
/// <remarks>Memory grows by a hundred bytes a frame of five milliseconds, whatever the rate.</remarks>
public sealed class Onsets
{
    private const double Hop = 0.005, Window = 0.023;
    /// <summary>Upper edges of the parts of the spectrum in Hz: three bands of flux, the middle and the high one in two parts each to tell
    /// families apart.</summary>
    private static readonly double[] Edges = [SoundBands.LowEnds, 450, SoundBands.HighBegins, 8000, double.MaxValue];
    private static readonly SoundBand[] BandOf = [SoundBand.Low, SoundBand.Middle, SoundBand.Middle, SoundBand.High, SoundBand.High];
    private const double Compression = 100;

    private readonly int rate, size, hop;
    private readonly double[] window;
    private readonly int[] partOf;
    private readonly float[] buffer;
    private readonly float[] before;
    private readonly FourierTransform spectrum;
    private readonly List<float>[] flux = [[], [], []];
    private readonly List<float[]> power = [];
    private int filled;

    /// <param name="rate">Samples a second.</param>
    public Onsets(int rate)
    {
        this.rate = rate;
        size = 1;
        while (size < rate * Window * 0.8) size *= 2;
        hop = (int)Math.Round(rate * Hop);
        window = MathNet.Numerics.Window.HannPeriodic(size);
        partOf = [.. Enumerable.Range(0, size / 2 + 1).Select(bin => (double)bin * rate / size is var hz && hz < SoundBands.Lowest ? -1
            : Array.FindIndex(Edges, edge => hz < edge))];
        (buffer, before, spectrum) = (new float[size], new float[size / 2 + 1], new FourierTransform(size));
    }

    /// <summary>Takes the next samples, -1 to 1.</summary>
    public void Add(ReadOnlySpan<float> mono)
    {
        while (!mono.IsEmpty)
        {
            var take = Math.Min(size - filled, mono.Length);
            mono[..take].CopyTo(buffer.AsSpan(filled));
            mono = mono[take..];
            if ((filled += take) < size) return;
            Frame();
            buffer.AsSpan(hop).CopyTo(buffer);
            filled = size - hop;
        }
    }

    private void Frame()
    {
        for (var i = 0; i < size; i++) spectrum.Real[i] = (float)(buffer[i] * window[i]);
        Array.Clear(spectrum.Imaginary);
        spectrum.Forward();
        var (rise, sums) = (new float[3], new float[Edges.Length]);
        for (var bin = 0; bin <= size / 2; bin++)
        {
            if (partOf[bin] < 0) continue;
            var magnitude = MathF.Sqrt(spectrum.Power(bin)) * 2 / size;
            var loud = MathF.Log(1 + (float)Compression * magnitude);
            if (loud > before[bin]) rise[(int)BandOf[partOf[bin]]] += loud - before[bin];
            sums[partOf[bin]] += magnitude * magnitude;
            before[bin] = loud;
        }
        for (var band = 0; band < 3; band++) flux[band].Add(power.Count == 0 ? 0 : rise[band]);
        power.Add(sums);
    }

    /// <summary>What was struck, in order of time, then band.</summary>
    public IReadOnlyList<Onset> Found()
    {
        var loudest = Enumerable.Range(0, power.Count).Select(n => RiseAt(n).Sum()).DefaultIfEmpty(0).Max();
        return [.. Enum.GetValues<SoundBand>().SelectMany(band => Peaks(band, loudest)).OrderBy(o => o.At).ThenBy(o => o.Band)];
    }

    private const int Around = 20, Apart = 8;
    /// <summary>Of the strongest: what is weaker is no stroke.</summary>
    private const double Weakest = 0.12;
    private const double OverMedian = 2;
    /// <summary>A stroke makes its band so much louder, against what sounded before.</summary>
    private const double LeastAttack = 0.5;
    /// <summary>Share of the file's loudest rise that a band must have: what is less is the edge of another band's stroke.</summary>
    private static readonly double[] LeastOfLoudest = [0.01, 0.02, 0.0005];
    /// <summary>Share of its own moment's rise.</summary>
    private static readonly double[] LeastOfMoment = [0.01, 0.03, 0.002];

    private IEnumerable<Onset> Peaks(SoundBand band, double loudest)
    {
        var curve = flux[(int)band];
        if (curve.Count < 3) yield break;
        var strongest = curve.Select(f => (double)f).Quantile(0.998);
        if (strongest <= 0) yield break;
        var last = -Apart;
        for (var n = 1; n < curve.Count - 1; n++)
        {
            if (n - last < Apart || curve[n] < strongest * Weakest || curve[n] < curve[n - 1] || curve[n] <= curve[n + 1]) continue;
            var (from, to) = (Math.Max(0, n - Apart / 2), Math.Min(curve.Count - 1, n + Apart / 2));
            if (Enumerable.Range(from, to - from + 1).Any(k => curve[k] > curve[n])) continue;
            var near = curve.Skip(Math.Max(0, n - Around)).Take(2 * Around + 1).Select(f => (double)f).Median();
            if (curve[n] < near * OverMedian) continue;
            var rise = RiseAt(n);
            var own = Enumerable.Range(0, rise.Length).Where(part => BandOf[part] == band).Sum(part => rise[part]);
            var was = Enumerable.Range(0, rise.Length).Where(part => BandOf[part] == band)
                .Sum(part => (double)power[Math.Max(0, n - 4)][part]);
            if (own < was * LeastAttack || own < LeastOfLoudest[(int)band] * loudest
                || own < LeastOfMoment[(int)band] * rise.Sum()) continue;
            last = n;
            var (family, confidence) = FamilyOf(band, n, rise);
            yield return new(new(TimeOf(curve, n)), band, Math.Min(1, curve[n] / strongest), family, confidence);
        }
    }

    /// <summary>Where in the window a stroke makes the flux rise most, from its start; measured on sounds whose onsets are known.</summary>
    private const double InWindow = 0.61;

    private double TimeOf(List<float> curve, int n)
    {
        var (a, b, c) = (curve[n - 1], curve[n], curve[n + 1]);
        var bend = a - 2 * b + c;
        var shift = bend < 0 ? 0.5 * (a - c) / bend : 0;
        return Math.Max(0, ((n + shift) * hop + InWindow * size) / rate);
    }

    /// <summary>How much louder each part of the spectrum is just after than just before.</summary>
    private double[] RiseAt(int n)
    {
        var (was, now) = (power[Math.Max(0, n - 4)], power[Math.Min(power.Count - 1, n + 3)]);
        return [.. now.Zip(was, (after, ahead) => Math.Max(0, (double)after - ahead))];
    }

    private const double KickOver = 0.02;

    /// <summary>What strokes of each family leave in the parts of the spectrum; the borders lie between sounds whose family is
    /// known.</summary>
    private (Family, double) FamilyOf(SoundBand band, int n, double[] rise)
    {
        // What a kick has over its own band is no body of another drum.
        var (deep, body, ping, hiss, air) = (rise[0], Math.Max(0, rise[1] - KickOver * rise[0]), rise[2], rise[3], rise[4]);
        var rings = RingsAt(n);
        switch (band)
        {
            case SoundBand.Low:
                // A snare at the same moment has its body where a tom has its own, but its wires tell.
                return Between(Family.Tom, Family.Kick, Share(deep, Math.Max(0, body - 2 * (hiss + air))), 0.955);
            case SoundBand.Middle when body > ping:
                return Between(Family.Tom, Family.Snare, Share(hiss + air, body), 0.03);
            case SoundBand.Middle when ping > hiss + air:
                return hiss + air < 0.02 * ping ? (Family.Snare, 0.3) : Between(Family.Bell, Family.Ride, Share(hiss + air, ping), 0.15);
            case SoundBand.High when body > hiss + air:
                return (Family.Snare, Share(body, hiss + air));
            default:
                return air < 0.1 * hiss ? Between(Family.Bell, Family.Ride, rings, 0.05) : Between(Family.Hat, Family.Crash, rings, 0.125);
        }
    }

    /// <summary>What is left of the high part after 50 to 200 ms; a stroke that follows sooner does not count for it.</summary>
    private double RingsAt(int n)
    {
        var start = High(n + 3, 6).DefaultIfEmpty(0).Average();
        return start <= 0 ? 0 : Enumerable.Range(n + 10, 23).Min(from => High(from, 8).DefaultIfEmpty(0).Average()) / start;
    }

    private IEnumerable<double> High(int from, int frames) => Enumerable.Range(from, frames).Where(n => n < power.Count)
        .Select(n => (double)power[n][3] + power[n][4]);

    private static double Share(double of, double other) => of + other <= 0 ? 0 : of / (of + other);

    /// <summary>The second where the share is over the border; surer the farther away it is.</summary>
    private static (Family, double) Between(Family below, Family above, double share, double border) =>
        share < border ? (below, 0.5 + 0.5 * (1 - share / border)) : (above, 0.5 + 0.5 * (share - border) / (1 - border));

    private const double Slowest = 40, Fastest = 240, Middling = 110, OctavesWide = 0.9;
    private const int MostTempos = 4;

    /// <summary>Autocorrelation of the flux of all bands: the clearest tempo, its half and its double, and what else is clear; the surest
    /// first.</summary>
    public IReadOnlyList<SoundTempo> Tempos()
    {
        var (shortest, longest) = ((int)Math.Ceiling(60 / Fastest * rate / hop), (int)(60 / Slowest * rate / hop));
        if (power.Count < longest * 2) return [];
        var strength = new double[power.Count];
        foreach (var curve in flux)
        {
            var mean = curve.Average();
            var most = Math.Max(1e-9, curve.Max());
            for (var n = 0; n < strength.Length; n++) strength[n] += Math.Max(0, curve[n] - mean) / most;
        }
        var likeness = new double[longest + 2];
        for (var lag = shortest - 1; lag <= longest + 1; lag++)
        {
            var sum = 0.0;
            for (var n = lag; n < strength.Length; n++) sum += strength[n] * strength[n - lag];
            likeness[lag] = sum / (strength.Length - lag);
        }
        var floor = likeness.Skip(shortest).Median();
        var found = new List<(double Bpm, double Weight)>();
        for (var lag = shortest; lag <= longest; lag++)
        {
            if (likeness[lag] < likeness[lag - 1] || likeness[lag] <= likeness[lag + 1] || likeness[lag] <= floor) continue;
            var bend = likeness[lag - 1] - 2 * likeness[lag] + likeness[lag + 1];
            var exact = lag + (bend < 0 ? 0.5 * (likeness[lag - 1] - likeness[lag + 1]) / bend : 0);
            var bpm = 60.0 * rate / (exact * hop);
            found.Add((bpm, (likeness[lag] - floor) * Math.Exp(-0.5 * Math.Pow(Math.Log2(bpm / Middling) / OctavesWide, 2))));
        }
        var best = found.OrderByDescending(f => f.Weight).Take(MostTempos).ToList();
        var total = best.Sum(f => f.Weight);
        return [.. best.Select(f => new SoundTempo(Math.Round(f.Bpm, 2), Math.Round(f.Weight / total, 4)))];
    }
}
