using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>Where one repetition of a cycle starts.</summary>
/// <param name="Bar">From 1.</param>
/// <param name="Beat">Count of the lower figure, from 1.</param>
/// <param name="Rest">Past that count.</param>
public readonly record struct CycleStart(int Bar, int Beat, Tick Rest);

/// <summary>When a cycle and the bars come together again.</summary>
/// <param name="Bars">After so many bars, each counted as it is, also where meters change.</param>
/// <param name="Starts">One for each repetition.</param>
public sealed record Realignment(long Bars, ValueList<CycleStart> Starts)
{
    /// <summary>Notes in which a cycle is told.</summary>
    public static IReadOnlyList<(string Name, Tick Length)> Units { get; } =
        [("quarters", Tick.OfQuarter(1, 1)), ("eighths", Tick.OfQuarter(1, 2)), ("eighth triplets", Tick.OfQuarter(1, 3)),
            ("sixteenths", Tick.OfQuarter(1, 4)), ("sixteenth triplets", Tick.OfQuarter(1, 6))];

    /// <summary>More repetitions than anybody counts.</summary>
    public const int Most = 10_000;

    /// <summary>After lcm(cycle, round of the meters) both start together (rhythm.md, "Cross-rhythm and polymeter"): 4 eighths against 7/8
    /// 6/8 6/8 after 12 bars.</summary>
    /// <returns>Nothing where that takes more than <see cref="Most"/> repetitions.</returns>
    /// <exception cref="ArgumentOutOfRangeException">The cycle is not longer than nothing.</exception>
    public static Realignment? Of(Tick cycle, MeterCycle meters)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(cycle.Value);
        var round = meters.StartOf(meters.Meters.Count).Value;
        var common = Common(cycle.Value, round);
        long repetitions = round / common, rounds = cycle.Value / common;
        if (repetitions > Most) return null;
        return new(rounds * meters.Meters.Count, [.. Enumerable.Range(0, (int)repetitions).Select(i =>
        {
            var (before, rest) = Math.DivRem((long)i * cycle.Value, round);
            var (bar, inBar) = meters.Locate(new((int)rest));
            var beat = meters.MeterOf(bar).Beat.Value;
            return new CycleStart((int)before * meters.Meters.Count + bar + 1, inBar.Value / beat + 1, new(inBar.Value % beat));
        })]);
    }

    private static long Common(long a, long b) => b == 0 ? a : Common(b, a % b);
}
