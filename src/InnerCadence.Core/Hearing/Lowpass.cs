using MathNet.Numerics;

namespace InnerCadence.Core.Hearing;

/// <summary>Filters that let through what is below a frequency: a windowed sinc whose taps sum to 1.</summary>
internal static class Lowpass
{
    /// <param name="hertz">At <paramref name="rate"/> samples a second.</param>
    /// <param name="count">Odd, so that nothing moves.</param>
    public static float[] Taps(double hertz, double rate, int count)
    {
        var taps = Enumerable.Range(0, count).Select(i => Trig.Sinc(2 * hertz / rate * (i - count / 2))
            * (0.5 - 0.5 * Math.Cos(2 * Math.PI * (i + 1) / (count + 1)))).ToArray();
        var sum = taps.Sum();
        return [.. taps.Select(t => (float)(t / sum))];
    }
}
