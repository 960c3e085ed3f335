using MathNet.Numerics.Distributions;

namespace InnerCadence.Core.Evidence;

/// <summary>A number with its 95 % interval.</summary>
public readonly record struct Interval(double Value, double Low, double High);

/// <summary>The formulas of evidence.md on bare counts.</summary>
public static class Estimates
{
    /// <summary>Normal quantile of 0.975.</summary>
    private const double Z = 1.959963984540054;

    /// <summary>95 % interval for a share: <paramref name="hits"/> of <paramref name="searched"/> recordings.</summary>
    /// <remarks>
    /// Wilson (1927), without continuity correction; stays inside 0 to 1 where the textbook interval does not. 6 of 19 gives 0.154 to
    /// 0.540.
    /// None has lower end 0 and all has upper end 1.
    /// </remarks>
    /// <returns>Nothing when nothing was searched: a share of nothing is not a number to show.</returns>
    /// <exception cref="ArgumentOutOfRangeException">Negative, or more hits than were searched.</exception>
    public static Interval? Presence(int hits, int searched)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(hits);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(hits, searched);
        return searched == 0 ? null : Wilson(hits, searched);
    }

    /// <summary>Wilson's interval for effective counts, which need not be whole.</summary>
    internal static Interval Wilson(double hits, double n, double z = Z)
    {
        double share = hits / n, square = z * z;
        var middle = (share + square / (2 * n)) / (1 + square / n);
        var half = z / (1 + square / n) * Math.Sqrt(share * (1 - share) / n + square / (4 * n * n));
        return new(share, hits <= 0 ? 0 : middle - half, hits >= n ? 1 : middle + half);
    }

    /// <summary>Events per 100 bars with the exact 95 % Poisson interval.</summary>
    /// <remarks>Garwood (1936): chi-square quantiles over twice the exposure. 7 in 350 bars gives 2.0, 0.804 to 4.121.</remarks>
    /// <returns>Nothing when no bar was searched.</returns>
    /// <exception cref="ArgumentOutOfRangeException">Negative events or bars.</exception>
    public static Interval? Rate(int events, double bars)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(events);
        ArgumentOutOfRangeException.ThrowIfNegative(bars);
        return bars == 0 ? null : Garwood(events, bars);
    }

    /// <summary>Garwood's interval for effective counts, which need not be whole.</summary>
    /// <param name="tail">What is left out at either end.</param>
    internal static Interval Garwood(double events, double bars, double tail = Estimate.Usual)
    {
        var low = events == 0 ? 0 : ChiSquared.InvCDF(2 * events, tail) / 2;
        var high = ChiSquared.InvCDF(2 * events + 2, 1 - tail) / 2;
        return new(100 * events / bars, 100 * low / bars, 100 * high / bars);
    }
}
