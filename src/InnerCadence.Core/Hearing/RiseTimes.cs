using System.Numerics.Tensors;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>When a stroke was struck, to the millisecond: which stroke it is the ear says, when it was is read from the sound.</summary>
/// <remarks>sound.md, "The time of a stroke": the rise of the energy in the family's band, in steps of half a millisecond.</remarks>
public sealed class RiseTimes
{
    private const double Step = 0.0005;

    /// <summary>The point of the rise that counts, of its height, for every family.</summary>
    private const double PointOfRise = 0.15;

    /// <summary>Seconds by which the filters of a band put its rise later than it is, measured on strokes of several kits whose time is
    /// known: of the lowest alone, of the middle, above it, of the top, of the wires.</summary>
    private static readonly double[] Late = [0.002, 0.0007, 0, -0.0003, 0];

    /// <summary>Beside a stroke of these seconds another drum's rise may be read for its own.</summary>
    private const double Nearby = 0.05;

    /// <summary>So much more strokes stand out above 3.5 kHz than above 8 kHz where there is nothing but hiss up there.</summary>
    private const double OnlyHiss = 1.6;

    private const int Low = 0, Middle = 1, Upper = 2, Top = 3, Wires = 4;

    /// <summary>Energy is smoothed over so many steps: a period of the lowest band is longer, so that its edge is read and not its
    /// swing.</summary>
    private const int Smooth = 4;

    private readonly double[][] energy = new double[5][];
    private readonly double startsAt;

    /// <param name="mono">Samples of a stretch.</param>
    /// <param name="startsAt">Where in the sound the stretch begins.</param>
    /// <param name="echoes">Heard in the sound: their rises are nobody's strokes.</param>
    public RiseTimes(ReadOnlySpan<float> mono, int rate, Seconds startsAt, IReadOnlyList<HeardEcho> echoes)
    {
        this.startsAt = startsAt;
        (double Low, double High)[] bands = [(30, 110), (140, 420), (400, 1500), (Math.Min(8000, rate * 0.35), rate * 0.48),
            (Math.Min(1800, rate * 0.2), Math.Min(5500, rate * 0.4))];
        var samples = mono.ToArray();
        HeardEcho.TakeOut(samples, rate, startsAt, echoes);
        Parallel.For(0, bands.Length, band => energy[band] = Energy(samples, rate, bands[band].Low, bands[band].High));
        // An old record has nothing up there but its hiss.
        var below = Energy(samples, rate, Math.Min(3500, rate * 0.2), rate * 0.48);
        if (Stands(below) > OnlyHiss * Stands(energy[Top])) energy[Top] = below;

        static double Stands(double[] curve) => curve.Length == 0 ? 1
            : curve.Order().ToArray() is var order ? order[order.Length * 99 / 100] / Math.Max(1e-9, order[order.Length / 2]) : 1;
    }

    /// <summary>Milliseconds by which one kit's strokes are read earlier or later than another's of the same family: one deviation, beside
    /// what scatters from stroke to stroke.</summary>
    public static double Doubt(Voice voice) => voice.Family switch
    {
        Family.Kick => 1.9,
        Family.Snare or Family.Tom => 1.8,
        _ => 0.5,
    };

    /// <param name="stroke">Where the ear puts it.</param>
    /// <param name="all">What else was heard.</param>
    /// <returns>When it was, and how sure that is: the share of the rise in what sounds after it, 0 to 1.</returns>
    public (Seconds At, double Sureness) Of(HeardStroke stroke, IEnumerable<HeardStroke> all)
    {
        HeardStroke? Nearest(Family family) => all.Where(o => o.Family == family && Math.Abs(o.At - stroke.At) < Nearby)
            .MinBy(o => Math.Abs(o.At - stroke.At));
        switch (stroke.Family)
        {
            case Family.Kick when (Nearest(Family.Snare) ?? Nearest(Family.Tom)) is not null:
                return In(Low, stroke.At);
            case Family.Kick:
                // Its lowest tones say which rise it is; what it has above them rises at once.
                var low = In(Low, stroke.At);
                var middle = In(Middle, low.At, 0.003, 0.008);
                return middle.Sureness > 0.5 ? middle with { Sureness = low.Sureness } : low;
            case Family.Snare or Family.Tom when Nearest(Family.Kick) is { } kick:
                return SecondRise(stroke.At, In(Low, kick.At).At) is { } apart ? In(Wires, apart, 0.004, 0.008) : In(Upper, stroke.At);
            case Family.Snare or Family.Tom:
                return In(Middle, stroke.At);
            default:
                return In(Top, stroke.At);
        }
    }

    /// <summary>Where a drum is struck beside a kick and not with it: its skin and its wires rise, so many octaves of power on the
    /// whole.</summary>
    /// <param name="kick">The rise that is the kick's.</param>
    /// <returns>Nothing where the two are struck as one, or the second is not heard.</returns>
    private Seconds? SecondRise(Seconds near, Seconds kick)
    {
        const double Least = 1.5, Apart = 0.007, Spread = 0.025, Quiet = 0.03;
        const int Span = 8, Reach = 90;
        var middle = (int)((near - startsAt) / Step);
        var (from, to) = (Math.Max(Span, middle - Reach), Math.Min(energy[Wires].Length - Span - 1, middle + Reach));
        if (to <= from) return null;
        (double[] Curve, double Floor)[] bands = [.. new[] { Middle, Upper, Wires }
            .Select(b => (energy[b], Quiet * TensorPrimitives.Max<double>(energy[b].AsSpan(from, to - from))))];
        double[] rises = [.. Enumerable.Range(from, to - from).Select(Rise)];
        var (best, found) = (0.0, (Seconds?)null);
        for (var i = 1; i + 1 < rises.Length; i++)
        {
            var at = new Seconds(startsAt + (from + i) * Step);
            if (rises[i] < Least || rises[i] < rises[i - 1] || rises[i] < rises[i + 1] || Math.Abs(at - kick) < Apart) continue;
            var off = (at - near) / Spread;
            var value = rises[i] * Math.Exp(-0.5 * off * off);
            if (value > best) (best, found) = (value, at);
        }
        return found;

        // Of the two bands that rise most: what one band lacks under the kick the others show.
        double Rise(int at)
        {
            double[] octaves = [.. bands.Select(b => Math.Clamp(Math.Log2(Mean(b, at + 1) / Mean(b, at - Span)), -2, 3)).Order()];
            return (octaves[1] + octaves[2]) / 2;
        }

        static double Mean((double[] Curve, double Floor) band, int from)
        {
            var sum = 0.0;
            for (var i = from; i < from + Span; i++) sum += band.Curve[i];
            return band.Floor + sum / Span;
        }
    }

    /// <summary>Moments of strokes that were read one by one, those of drums that are struck nearly at once read together.</summary>
    public IReadOnlyList<Seconds> Together(IReadOnlyList<(Family Family, Seconds At)> strokes) =>
        new RisesTogether(energy, Step, startsAt).Of(strokes);

    /// <summary>The two strokes of a flam of which the ear heard one.</summary>
    /// <param name="one">Where it is.</param>
    /// <returns>The louder, later one, and the softer before it; nothing where only one is in the sound.</returns>
    public (Seconds Main, Seconds Grace)? Flam(Seconds one)
    {
        const double Nearest = 0.014, Farthest = 0.06, Soft = 0.1, AsLoud = 1.3;
        var (curve, at) = (energy[Upper], (int)((one - startsAt) / Step));
        const int Steep = 10;
        double Rise(int i) => i < Steep || i + Steep >= curve.Length ? 0 : curve[i + Steep] - curve[i - Steep];
        int Steepest(double from, double to) =>
            Enumerable.Range(at + (int)(from / Step), (int)((to - from) / Step) + 1).MaxBy(Rise);
        var (own, before, after) = (Steepest(-0.005, 0.005), Steepest(-Farthest, -Nearest), Steepest(Nearest, Farthest));
        if (Rise(own) <= 0) return null;
        if (Rise(after) > AsLoud * Rise(own)) return (In(Upper, Clock(after), 0.004, 0.01).At, one);
        return Rise(before) > Soft * Rise(own) && IsPeak(before) ? (one, In(Upper, Clock(before), 0.004, 0.01).At) : null;

        bool IsPeak(int i) => Rise(i) > Rise(i - 4) && Rise(i) > Rise(i + 4);
        Seconds Clock(int i) => new(startsAt + i * Step);
    }

    /// <param name="spread">How near the steepest rise is looked for, seconds, and <paramref name="reach"/> how far at most.</param>
    private (Seconds At, double Sureness) In(int band, Seconds near, double spread = 0.018, double reach = 0.045)
    {
        var curve = energy[band];
        var middle = (int)((near - startsAt) / Step);
        var (from, to) = (Math.Max(1, middle - (int)(reach / Step)), Math.Min(curve.Length - 2, middle + (int)(reach / Step)));
        if (to - from < 10) return (near, 0);
        // The steepest rise of the curve near it, weighted by how near it is.
        var (best, at) = (0.0, middle);
        const int Steep = 12;
        for (var i = Math.Max(from, Steep); i < Math.Min(to, curve.Length - Steep); i++)
        {
            var rise = curve[i + Steep] - curve[i - Steep];
            if (rise <= 0) continue;
            var off = (i - middle) * Step / spread;
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
        return (new(startsAt + (first - 1 + part) * Step - Late[band]), Math.Clamp((top - floor) / Math.Max(1e-9, top), 0, 1));
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
