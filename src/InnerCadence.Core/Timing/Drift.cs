using MathNet.Numerics;

namespace InnerCadence.Core.Timing;

/// <summary>How the tempo moves through a recording.</summary>
/// <param name="Slowest">Quarters a minute.</param>
/// <param name="AMinute">Slope in quarters a minute, per minute of the recording.</param>
/// <param name="Jump">Largest change from one stretch to the next, and the bar where it comes.</param>
public sealed record Drift(double Slowest, double Fastest, double AMinute, (int Bar, double Change) Jump)
{
    /// <summary>Nothing with fewer than two stretches between marks.</summary>
    public static Drift? Of(TempoMap map)
    {
        var tempos = map.Tempos;
        if (tempos.Count < 2) return null;
        var middles = tempos.Select(t => (t.From.At.Milliseconds + t.To.At.Milliseconds) / 120_000.0).ToArray();
        var (_, slope) = Fit.Line(middles, [.. tempos.Select(t => t.Bpm)]);
        var jump = tempos.Zip(tempos.Skip(1), (a, b) => (b.From.Bar, Change: b.Bpm - a.Bpm)).MaxBy(j => Math.Abs(j.Change));
        return new(tempos.Min(t => t.Bpm), tempos.Max(t => t.Bpm), slope, jump);
    }
}
