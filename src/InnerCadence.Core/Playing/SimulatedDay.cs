using InnerCadence.Core.Music;

namespace InnerCadence.Core.Playing;

/// <summary>How one simulated recording differs from the next: another kit, another room, with or without a band, old or new.</summary>
/// <param name="Pitch">Of the whole kit, 1 as it is.</param>
/// <param name="Band">A bass and chords play along.</param>
/// <param name="Room">Seconds until its echo has died away.</param>
/// <param name="Echo">Of the drums, how loud it is.</param>
/// <param name="Top">Hz above which the record has little.</param>
/// <param name="Hiss">Of the loudest sound.</param>
/// <param name="BackbeatLate">How far the snare lies behind, ghosts apart.</param>
public sealed record SimulatedDay(double Pitch, bool Band, double Room, double Echo, double Top, double Hiss, Seconds BackbeatLate)
{
    /// <summary>Records before it sound old; from the next one on the player's back-beat is late: a habit whose truth is known.</summary>
    private const int Old = 1967, Late = 1970;

    /// <param name="year">Of the recording; nothing where it has no date.</param>
    public static SimulatedDay Of(int seed, int? year)
    {
        var random = new Random(seed * 7919);
        return new(0.88 + 0.24 * random.NextDouble(), seed % 3 != 0, 0.15 + 0.6 * random.NextDouble(), 0.05 + 0.15 * random.NextDouble(),
            year < Old ? 5500 + 1500 * random.NextDouble() : 16_000, year < Old ? 0.004 : 0, year >= Late ? Seconds.OfMilliseconds(18)
                : Seconds.Zero);
    }

    /// <summary>The drums in their room: an echo of some reflections that darken.</summary>
    internal void PutInRoom(float[] mix, int rate)
    {
        // Feedback delays of lengths without a common measure (Schroeder 1962).
        var dry = (float[])mix.Clone();
        foreach (var delay in (double[])[0.0297, 0.0371, 0.0411, 0.0437])
        {
            var (line, at, back) = (new float[(int)(delay * rate)], 0, (float)Math.Pow(10, -3 * delay / Room));
            var dark = 0f;
            for (var i = 0; i < mix.Length; i++)
            {
                var heard = line[at];
                dark += 0.35f * (heard - dark);
                line[at] = dry[i] + dark * back;
                at = (at + 1) % line.Length;
                mix[i] += (float)Echo * heard;
            }
        }
    }

    /// <summary>The record as it has come down: its top cut off, hiss under it.</summary>
    internal void Age(float[] mix, int rate, Random random)
    {
        if (Top < 15_000)
        {
            var share = (float)(1 - Math.Exp(-2 * Math.PI * Top / rate));
            for (var pass = 0; pass < 2; pass++)
            {
                var low = 0f;
                for (var i = 0; i < mix.Length; i++) mix[i] = low += share * (mix[i] - low);
            }
        }
        if (Hiss == 0 || mix.Length == 0) return;
        var loud = (float)(mix.Max(Math.Abs) * Hiss);
        for (var i = 0; i < mix.Length; i++) mix[i] += loud * (float)(2 * random.NextDouble() - 1);
    }
}
