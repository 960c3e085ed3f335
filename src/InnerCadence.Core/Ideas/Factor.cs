using InnerCadence.Core.Likeness;

namespace InnerCadence.Core.Ideas;

/// <summary>How much longer the gaps of a sighting are than the exemplar's: 4/3 where sixteenths came back as triplets.</summary>
public readonly record struct Factor(int Over, int Under)
{
    public static readonly Factor One = new(1, 1);

    /// <summary>Every factor that is tried when the rate may be proportional.</summary>
    public static readonly IReadOnlyList<Factor> All = [One, new(1, 2), new(2, 3), new(3, 4), new(4, 3), new(3, 2), new(2, 1)];

    /// <summary>As it is written, 4/3; one where it cannot be read.</summary>
    public static Factor Of(string written) => All.FirstOrDefault(f => f.ToString() == written, One);

    /// <summary>A distance of the passage in 12ths of a pattern tick; whole for every factor.</summary>
    public long Unscale(int ticks) => (long)ticks * Under * (Difference.Fine / Over);

    /// <summary>A distance of the pattern, in 12ths of its tick, in ticks of the passage; nothing where that is no whole number.</summary>
    public int? Scale(long fine) => fine * Over % (Under * Difference.Fine) == 0 ? (int)(fine * Over / (Under * Difference.Fine)) : null;

    /// <summary>First tick of the passage at or past a distance of the pattern.</summary>
    public int ScaleUp(long fine) => (int)((fine * Over + Under * Difference.Fine - 1) / (Under * Difference.Fine));

    public override string ToString() => Under == 1 ? $"{Over}" : $"{Over}/{Under}";
}
