using System.Numerics.Tensors;
using MathNet.Numerics.LinearAlgebra;

namespace InnerCadence.Core.Hearing;

/// <summary>Takes an echo out of a sound.</summary>
/// <remarks>sound.md, "Echoes": what comes after the delay is foretold from what came before it, and what was foretold is left out, as
/// linear prediction does over one period.</remarks>
internal sealed class EchoFilter
{
    /// <summary>How often the echo comes back itself, and samples on each side of the delay: a delay is no whole number of them.</summary>
    private const int Repeats = 3, Beside = 1;

    /// <summary>Against what cannot be told apart: a share of the power.</summary>
    private const double Ridge = 1e-3;

    private readonly int[] lags;
    private readonly float[] shares;

    private EchoFilter(int delay, int[] lags, float[] shares)
    {
        (Delay, this.lags, this.shares) = (delay, lags, shares);
        Decibels = 20 * Math.Log10(Math.Max(1e-3, shares.Take(2 * Beside + 1).Sum()));
    }

    /// <summary>In samples.</summary>
    public int Delay { get; }

    /// <summary>How much louder the echo is than what it repeats: below 0.</summary>
    public double Decibels { get; }

    /// <param name="near">The delay, right within some samples.</param>
    public static EchoFilter For(ReadOnlySpan<float> sound, int near)
    {
        // Of steps from sample to sample: the lows, of which a sound has most, say least of when.
        var steps = new float[sound.Length - 1];
        TensorPrimitives.Subtract(sound[1..], sound[..^1], steps);
        var known = new Dictionary<int, double>();
        double Alike(int lag)
        {
            lag = Math.Abs(lag);
            if (!known.TryGetValue(lag, out var alike))
                known[lag] = alike = TensorPrimitives.Dot<float>(steps.AsSpan(lag), steps.AsSpan(0, steps.Length - lag));
            return alike;
        }

        var delay = Enumerable.Range(near - 8, 17).MaxBy(Alike);
        int[] lags = [.. from times in Enumerable.Range(1, Repeats) from beside in Enumerable.Range(-Beside, 2 * Beside + 1)
            select times * delay + beside];
        var between = Matrix<double>.Build.Dense(lags.Length, lags.Length,
            (i, j) => Alike(lags[i] - lags[j]) + (i == j ? Ridge * Alike(0) : 0));
        var shares = between.Solve(Vector<double>.Build.Dense(lags.Length, i => Alike(lags[i])));
        return new(delay, lags, [.. shares.Select(share => (float)share)]);
    }

    /// <summary>In place, from the end: what a sample is foretold from is still as it was.</summary>
    public void TakeOut(Span<float> sound)
    {
        for (var end = sound.Length; end > 0;)
        {
            var start = Math.Max(0, end - lags[0]);
            for (var i = 0; i < lags.Length; i++)
            {
                var from = Math.Max(start, lags[i]);
                if (from >= end) continue;
                var into = sound[from..end];
                TensorPrimitives.MultiplyAdd(sound[(from - lags[i])..(end - lags[i])], -shares[i], into, into);
            }
            end = start;
        }
    }
}
