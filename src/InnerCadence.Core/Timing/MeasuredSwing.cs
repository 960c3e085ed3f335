using InnerCadence.Core.Music;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Statistics;

namespace InnerCadence.Core.Timing;

/// <summary>How far a beat is swung, measured: first part to second, 1.0 straight, 2.0 as a triplet.</summary>
/// <param name="Beats">How many off-beats it rests on.</param>
public sealed record MeasuredSwing(double Ratio, double Low, double High, int Beats)
{
    /// <summary>Of the beat, before the off-beat.</summary>
    public double Share => Ratio / (1 + Ratio);

    /// <summary>With fewer off-beats nothing is said.</summary>
    public const int Least = 8;

    /// <param name="beats">Seconds of each beat, of the off-beat in it and of the next beat.</param>
    /// <remarks>time.md, "Micro-timing": f is the share of the beat before the off-beat; its mean with Student's t interval; the ratio is f
    /// / (1 - f), the ends likewise.</remarks>
    /// <returns>Nothing below <see cref="Least"/> off-beats.</returns>
    /// <exception cref="ArgumentException">An off-beat does not lie between its beats.</exception>
    public static MeasuredSwing? Of(IReadOnlyCollection<(double On, double Off, double Next)> beats)
    {
        if (beats.Any(b => !(b.On < b.Off && b.Off < b.Next))) throw new ArgumentException("An off-beat lies between its beats.",
            nameof(beats));
        if (beats.Count < Least) return null;
        var shares = beats.Select(b => (b.Off - b.On) / (b.Next - b.On)).ToArray();
        var (mean, spread) = shares.MeanStandardDeviation();
        var half = StudentT.InvCDF(0, 1, shares.Length - 1, 0.975) * spread / Math.Sqrt(shares.Length);
        return new(AsRatio(mean), AsRatio(mean - half), AsRatio(mean + half), shares.Length);
    }

    /// <summary>Of the voice with most off-beats, each between its own strokes on the beat before and after.</summary>
    public static MeasuredSwing? Of(Passage passage, LaidBars laid, IReadOnlyCollection<StrokeOffset> offsets)
    {
        const int Quarter = Tick.PerQuarter;
        var most = offsets.GroupBy(o => o.Voice).Select(of =>
        {
            var at = of.ToDictionary(o => o.At.Value, o => laid.At(Swing.Played(o.At, passage)).Value + o.Milliseconds / 1000);
            return at.Keys.Where(tick => tick % Quarter is Quarter / 2 or Quarter / 3 * 2)
                .Select(tick => (On: tick / Quarter * Quarter, Off: tick))
                .Where(b => at.ContainsKey(b.On) && at.ContainsKey(b.On + Quarter)).Select(b => (at[b.On], at[b.Off], at[b.On + Quarter]))
                .Where(b => b.Item1 < b.Item2 && b.Item2 < b.Item3).ToList();
        }).OrderByDescending(b => b.Count).FirstOrDefault();
        return most is null ? null : Of(most);
    }

    private static double AsRatio(double share) => share / (1 - share);
}
