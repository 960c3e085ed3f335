using System.Globalization;
using MathNet.Numerics;
using MathNet.Numerics.Distributions;

namespace InnerCadence.Core.Timing;

/// <summary>How the tempo moves through a recording.</summary>
/// <param name="Slowest">Quarters a minute.</param>
/// <param name="Slope">In quarters a minute, per minute of the recording, with its 95 % interval; nothing with too few stretches to have
/// one.</param>
/// <param name="Jump">Largest change from one stretch to the next, and the bar where it comes.</param>
public sealed record Drift(double Slowest, double Fastest, (double Value, double Low, double High)? Slope, (int Bar, double Change) Jump)
{
    /// <summary>With fewer stretches one odd bar is taken for a drift.</summary>
    private const int Least = 4;

    /// <summary>The tempo goes one way: its whole interval is on one side of none.</summary>
    public bool IsSteady => Slope is { } s && (s.Low > 0 || s.High < 0);

    /// <summary>2.1 faster a minute (1.0 to 3.2); no steady drift; empty where nothing can be said.</summary>
    public string Words => Slope is not { } s ? ""
        : IsSteady ? string.Create(CultureInfo.InvariantCulture,
            $"{Math.Abs(s.Value):0.0} {(s.Value < 0 ? "slower" : "faster")} a minute ({Math.Min(Math.Abs(s.Low), Math.Abs(s.High)):0.0} "
            + $"to {Math.Max(Math.Abs(s.Low), Math.Abs(s.High)):0.0})") : "no steady drift";

    /// <summary>Nothing with fewer than two stretches between marks. The slope is a least-squares line through the stretches' tempos, its
    /// interval Student's t on it.</summary>
    public static Drift? Of(TempoMap map)
    {
        var tempos = map.Tempos;
        if (tempos.Count < 2) return null;
        var middles = tempos.Select(t => (t.From.At.Milliseconds + t.To.At.Milliseconds) / 120_000.0).ToArray();
        var jump = tempos.Zip(tempos.Skip(1), (a, b) => (b.From.Bar, Change: b.Bpm - a.Bpm)).MaxBy(j => Math.Abs(j.Change));
        return new(tempos.Min(t => t.Bpm), tempos.Max(t => t.Bpm), SlopeOf(middles, [.. tempos.Select(t => t.Bpm)]), jump);
    }

    private static (double, double, double)? SlopeOf(double[] minutes, double[] tempos)
    {
        if (tempos.Length < Least) return null;
        var (first, slope) = Fit.Line(minutes, tempos);
        var middle = minutes.Average();
        var left = minutes.Zip(tempos, (x, y) => y - first - slope * x).Sum(r => r * r);
        var error = Math.Sqrt(left / (tempos.Length - 2) / minutes.Sum(x => (x - middle) * (x - middle)));
        var wide = StudentT.InvCDF(0, 1, tempos.Length - 2, 0.975) * error;
        return (slope, slope - wide, slope + wide);
    }
}
