using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>When a stroke was struck, to the millisecond: which stroke it is the ear says, when it was is read from the sound.</summary>
/// <remarks>sound.md, "The time of a stroke": the rise of the energy in the family's band, in steps of half a millisecond.</remarks>
public sealed class RiseTimes
{
    private const double Step = 0.0005;
    private static readonly Seconds Around = Seconds.OfMilliseconds(45);

    /// <summary>The point of the rise that counts, of its height, for every family.</summary>
    private const double PointOfRise = 0.15;

    /// <summary>Seconds by which the filters of a band put its rise later than it is, measured on strokes whose time is known.</summary>
    private static readonly double[] Late = [0.004, 0.0005, 0];

    /// <summary>Energy is smoothed over so many steps: a period of the lowest band is longer, so that its edge is read and not its
    /// swing.</summary>
    private const int Smooth = 4;

    private readonly double[][] energy = new double[3][];
    private readonly double startsAt;

    /// <param name="mono">Samples of a stretch.</param>
    /// <param name="startsAt">Where in the sound the stretch begins.</param>
    public RiseTimes(ReadOnlySpan<float> mono, int rate, Seconds startsAt)
    {
        this.startsAt = startsAt;
        (double Low, double High)[] bands = [(30, 110), (140, 420), (Math.Min(8000, rate * 0.35), rate * 0.48)];
        for (var band = 0; band < 3; band++) energy[band] = Energy(mono, rate, bands[band].Low, bands[band].High);
    }

    private static int BandOf(Family family) => family switch
    {
        Family.Kick => 0,
        Family.Snare or Family.Tom => 1,
        _ => 2,
    };

    /// <param name="near">Where the ear puts it.</param>
    /// <returns>When it was, and how sure that is: the share of the rise in what sounds after it, 0 to 1.</returns>
    public (Seconds At, double Sureness) Of(Seconds near, Family family)
    {
        var curve = energy[BandOf(family)];
        var middle = (int)((near - startsAt) / Step);
        var (from, to) = (Math.Max(1, middle - (int)(Around / Step)), Math.Min(curve.Length - 2, middle + (int)(Around / Step)));
        if (to - from < 10) return (near, 0);
        // The steepest rise of the logarithm near it, weighted by how near it is.
        var (best, at) = (0.0, middle);
        const int Reach = 12;
        for (var i = Math.Max(from, Reach); i < Math.Min(to, curve.Length - Reach); i++)
        {
            var rise = curve[i + Reach] - curve[i - Reach];
            if (rise <= 0) continue;
            var off = (i - middle) * Step / 0.018;
            var value = rise * Math.Exp(-0.5 * off * off);
            if (value > best) (best, at) = (value, i);
        }
        if (best <= 0) return (near, 0);
        // Floor before it and top after it; the time is where the given share of the way up is passed.
        var (floor, top) = (double.MaxValue, 0.0);
        for (var i = Math.Max(0, at - 40); i <= at; i++) floor = Math.Min(floor, curve[i]);
        for (var i = at; i < Math.Min(curve.Length, at + 24); i++) top = Math.Max(top, curve[i]);
        var level = floor + PointOfRise * (top - floor);
        var first = at;
        while (first < curve.Length - 1 && curve[first] < level) first++;
        while (first > 1 && curve[first - 1] >= level) first--;
        var part = curve[first] > curve[first - 1] ? (level - curve[first - 1]) / (curve[first] - curve[first - 1]) : 0;
        return (new(startsAt + (first - 1 + part) * Step - Late[BandOf(family)]), Math.Clamp((top - floor) / Math.Max(1e-9, top), 0, 1));
    }

    /// <summary>Root of the power between two frequencies, a value every half millisecond.</summary>
    private static double[] Energy(ReadOnlySpan<float> mono, int rate, double low, double high)
    {
        var (highpass, lowpass) = (Biquad.High(low, rate), Biquad.Low(high, rate));
        var per = Step * rate;
        var values = new double[(int)(mono.Length / per)];
        for (var i = 0; i < mono.Length; i++)
        {
            var sample = lowpass.Next(highpass.Next(mono[i]));
            if ((int)(i / per) is var step && step < values.Length) values[step] += sample * sample;
        }
        var smooth = new double[values.Length];
        for (var i = 0; i < values.Length; i++)
        {
            var sum = 0.0;
            for (var k = 0; k < Smooth && i - k >= 0; k++) sum += values[i - k];
            smooth[i] = Math.Sqrt(sum / Smooth);
        }
        return smooth;
    }

    /// <summary>A second-order Butterworth filter (Bristow-Johnson's forms).</summary>
    private sealed class Biquad(double b0, double b1, double b2, double a1, double a2)
    {
        private double x1, x2, y1, y2;

        public double Next(double x)
        {
            var y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2;
            (x2, x1, y2, y1) = (x1, x, y1, y);
            return y;
        }

        public static Biquad Low(double hz, int rate) => Of(hz, rate, (cos) => ((1 - cos) / 2, 1 - cos));
        public static Biquad High(double hz, int rate) => Of(hz, rate, (cos) => ((1 + cos) / 2, -(1 + cos)));

        private static Biquad Of(double hz, int rate, Func<double, (double Edge, double Middle)> shape)
        {
            var w = 2 * Math.PI * Math.Min(hz, rate * 0.49) / rate;
            var (cos, alpha) = (Math.Cos(w), Math.Sin(w) / Math.Sqrt(2));
            var (edge, middle) = shape(cos);
            var a0 = 1 + alpha;
            return new(edge / a0, middle / a0, edge / a0, -2 * cos / a0, (1 - alpha) / a0);
        }
    }
}
