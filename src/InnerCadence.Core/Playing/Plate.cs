namespace InnerCadence.Core.Playing;

/// <summary>A cymbal: hundreds of partials without a common measure, loud and long as struck plates are in each band.</summary>
/// <param name="Levels">Of the nine <see cref="Centres"/>, in dB; between them by straight lines over the octaves.</param>
/// <param name="Early">Seconds in which most of it has fallen by 60 dB.</param>
/// <param name="Late">Seconds in which the rest has.</param>
/// <param name="Rest">How much softer the rest is at the stroke, in dB.</param>
/// <param name="Bloom">Seconds in which what lies above 600 Hz comes up after the stroke.</param>
/// <remarks>Levels and decays are means over struck cymbals of free kits (tools/ear_workshop/synthesis.py).</remarks>
internal sealed record Plate(double[] Levels, double Early, double Late, double Rest, double Bloom = 0, int Partials = 260)
{
    private static readonly double[] Centres = [60, 150, 350, 800, 1700, 3000, 5000, 8500, 14_000];
    private const double Lowest = 120, Highest = 16_500, Upper = 600;

    /// <summary>More partials toward the top, where a plate has them closer together.</summary>
    private const double Closer = 0.7;

    internal readonly record struct Partial(double Hz, double Amplitude, double Pace, double Bloom, double Phase);

    /// <summary>Of one cymbal: the same seed is the same cymbal. Together as loud as a sine of 1.</summary>
    /// <param name="lean">dB by which the top is louder and the bottom softer: a soft stroke is darker.</param>
    internal Partial[] Of(int seed, double lean)
    {
        var random = new Random(seed);
        var partials = new Partial[Partials];
        for (var n = 0; n < Partials; n++)
        {
            var place = (n + random.NextDouble()) / Partials;
            var hz = Lowest * Math.Pow(Highest / Lowest, Math.Pow(place, Closer));
            // As much power in an octave as its level says, however many partials share it.
            var share = Math.Pow(place, Closer - 1);
            var level = Level(hz) + lean * (Math.Log(hz / Lowest) / Math.Log(Highest / Lowest) * 2 - 1);
            partials[n] = new(hz, Math.Pow(10, level / 20) * Math.Sqrt(share) * (0.4 + random.NextDouble()),
                (0.6 + 0.4 * Math.Min(1, hz / 1500)) * (0.75 + 0.6 * random.NextDouble()),
                hz < Upper ? 0 : Bloom * (0.6 + random.NextDouble()), 0);
        }
        var whole = Math.Sqrt(partials.Sum(p => p.Amplitude * p.Amplitude));
        return [.. partials.Select(p => p with { Amplitude = p.Amplitude / whole })];
    }

    private double Level(double hz)
    {
        var band = Array.FindIndex(Centres, centre => centre > hz);
        if (band < 0) return Levels[^1];
        if (band == 0) return Levels[0];
        var part = Math.Log(hz / Centres[band - 1]) / Math.Log(Centres[band] / Centres[band - 1]);
        return Levels[band - 1] + part * (Levels[band] - Levels[band - 1]);
    }
}
