using System.Numerics;

namespace InnerCadence.Core.Playing;

/// <summary>Adds what drums and cymbals are made of to a mono signal: decaying modes and shaped noise.</summary>
internal sealed class Modes(float[] signal, Random random)
{
    public const int Rate = 44_100;

    /// <summary>One mode: a sine that decays, at <paramref name="from"/> Hz gliding down to <paramref name="to"/>.</summary>
    /// <param name="decay">Seconds until it is a thousandth.</param>
    public void Mode(double from, double to, double glide, double decay, double level, double delay = 0)
    {
        var phase = random.NextDouble() * 0.3;
        var start = (int)(delay * Rate);
        for (var i = start; i < signal.Length; i++)
        {
            var t = (i - start) / (double)Rate;
            var envelope = Math.Exp(-6.9 * t / decay);
            if (envelope < 1e-4) break;
            phase += (to + (from - to) * Math.Exp(-t / glide)) / Rate;
            signal[i] += (float)(Math.Sin(2 * Math.PI * phase) * envelope * level * Math.Min(1, t / 0.0006 + 0.1));
        }
    }

    /// <summary>A cloud of modes between two frequencies, the higher ones shorter, as a cymbal has.</summary>
    /// <param name="bloom">Seconds in which the shimmer builds up after the stick.</param>
    public void Cloud(int count, double low, double high, double decay, double level, double bloom, double tilt = 0.6)
    {
        for (var n = 0; n < count; n++)
        {
            var place = (n + random.NextDouble()) / count;
            var frequency = low * Math.Pow(high / low, place);
            var own = decay * (1.15 - 0.75 * place) * (0.7 + 0.6 * random.NextDouble());
            var amplitude = level / Math.Sqrt(count) * Math.Pow(low / frequency, tilt * 0.5) * (0.4 + random.NextDouble());
            Ring(frequency, own, amplitude, bloom * (0.5 + random.NextDouble()), random.NextDouble());
        }
    }

    /// <summary>A stroke on a cymbal.</summary>
    /// <param name="cymbal">The same number is the same cymbal.</param>
    /// <param name="lean">dB by which its top is louder and its bottom softer.</param>
    public void Plate(Plate plate, int cymbal, double lean, double level)
    {
        // No two strokes meet a plate at the same spot.
        var struck = plate.Of(cymbal, lean).Select(p => p with
        {
            Amplitude = level * p.Amplitude * (0.7 + 0.6 * random.NextDouble()),
            Phase = 2 * Math.PI * random.NextDouble(),
        });
        // Some at once: neighbours decay alike.
        foreach (var some in struck.Chunk(Vector<double>.Count)) RingTogether(some, plate);
    }

    private void RingTogether(Plate.Partial[] partials, Plate plate)
    {
        Vector<double> Each(Func<Plate.Partial, double> of) =>
            new([.. partials.Select(of), .. Enumerable.Repeat(0.0, Vector<double>.Count - partials.Length)]);
        double Step(Plate.Partial partial) => 2 * Math.PI * partial.Hz / Rate;
        double Falls(double seconds, Plate.Partial partial) => Math.Exp(-6.9 / (seconds * partial.Pace * Rate));
        // Sines by recurrence, as one alone.
        var (turn, amplitude) = (Each(p => 2 * Math.Cos(Step(p))), Each(p => p.Amplitude));
        var (before, now) = (Each(p => Math.Sin(p.Phase - Step(p))), Each(p => Math.Sin(p.Phase)));
        var rest = Math.Pow(10, plate.Rest / 20);
        var (early, late) = (amplitude * (1 - rest), amplitude * rest);
        var (quick, slow) = (Each(p => Falls(plate.Early, p)), Each(p => Falls(plate.Late, p)));
        var missing = Each(p => p.Bloom > 0 ? 1 - AtOnce : 0);
        var comes = Each(p => p.Bloom > 0 ? Math.Exp(-1 / (p.Bloom * Rate)) : 0);
        var floor = amplitude * 2e-4;
        for (var i = 0; i < signal.Length; i++)
        {
            var envelope = early + late;
            if (i % 1024 == 1023 && Vector.LessThanOrEqualAll(envelope, floor)) break;
            signal[i] += (float)Vector.Dot(now * envelope, Vector<double>.One - missing);
            (early, late, missing) = (early * quick, late * slow, missing * comes);
            (before, now) = (now, turn * now - before);
        }
    }

    /// <summary>Noise between two frequencies that decays.</summary>
    public void Noise(double low, double high, double decay, double level, double attack = 0.0005, double delay = 0)
    {
        var (lowPass, highPass) = (1 - Math.Exp(-2 * Math.PI * high / Rate), 1 - Math.Exp(-2 * Math.PI * low / Rate));
        var (smooth, slow) = (0.0, 0.0);
        var start = (int)(delay * Rate);
        for (var i = start; i < signal.Length; i++)
        {
            var t = (i - start) / (double)Rate;
            var envelope = Math.Exp(-6.9 * t / decay) * Math.Min(1, t / attack);
            if (t > attack && envelope < 1e-4) break;
            smooth += lowPass * (random.NextDouble() * 2 - 1 - smooth);
            slow += highPass * (smooth - slow);
            signal[i] += (float)((smooth - slow) * envelope * level);
        }
    }

    /// <summary>How much of what blooms is there as the stick strikes.</summary>
    private const double AtOnce = 0.3;

    private void Ring(double frequency, double decay, double level, double bloom, double phase)
    {
        // A sine by recurrence: s(n) = 2 cos(w) s(n-1) - s(n-2).
        var step = 2 * Math.PI * frequency / Rate;
        var turn = 2 * Math.Cos(step);
        var (before, now) = (Math.Sin(phase * 2 * Math.PI - step), Math.Sin(phase * 2 * Math.PI));
        var (fade, envelope, rise) = (Math.Exp(-6.9 / (decay * Rate)), level, AtOnce);
        var grow = bloom <= 0 ? 1 : 1 - Math.Exp(-1 / (bloom * Rate));
        for (var i = 0; i < signal.Length && envelope > level * 2e-4; i++)
        {
            rise += (1 - rise) * grow;
            signal[i] += (float)(now * envelope * rise);
            envelope *= fade;
            (before, now) = (now, turn * now - before);
        }
    }
}
