namespace InnerCadence.Core.Music;

/// <summary>How loud the whole kit is, on top of ghost, normal and accent; its number is in steps from mf.</summary>
public enum Level { Pp = -3, P = -2, Mp = -1, Mf = 0, F = 1, Ff = 2 }

public static class LevelWords
{
    public static IReadOnlyList<Level> All { get; } = [Level.Pp, Level.P, Level.Mp, Level.Mf, Level.F, Level.Ff];

    /// <summary>As it is written: pp, p, mp, mf, f, ff.</summary>
    public static string Written(this Level level) => level.ToString().ToLowerInvariant();

    /// <summary>As it is said.</summary>
    public static string Spoken(this Level level) => level switch
    {
        Level.Pp => "very soft",
        Level.P => "soft",
        Level.Mp => "rather soft",
        Level.Mf => "neither soft nor loud",
        Level.F => "loud",
        _ => "very loud",
    };

    /// <summary>By how much a stroke is louder or softer: each step multiplies it by 1.25.</summary>
    /// <param name="steps">From mf.</param>
    public static double Factor(double steps) => Math.Pow(1.25, steps);

    public static Level? Find(string written) => All.Where(l => l.Written() == written).Select(l => (Level?)l).FirstOrDefault();
}
