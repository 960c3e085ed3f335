using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>Where one repetition of a cycle starts.</summary>
/// <param name="Bar">From 1.</param>
/// <param name="Beat">Count of the lower figure, from 1.</param>
/// <param name="Rest">Past that count.</param>
public readonly record struct CycleStart(int Bar, int Beat, Tick Rest);

/// <summary>When a cycle and the bars come together again.</summary>
/// <param name="Bars">After so many bars; a cycle of changing meters counts as one long bar.</param>
/// <param name="Starts">One for each repetition.</param>
public sealed record Realignment(long Bars, IReadOnlyList<CycleStart> Starts)
{
    /// <summary>More repetitions than anybody counts.</summary>
    public const int Most = 10_000;

    /// <summary>After lcm(cycle, bar) both start together (rhythm.md, "Cross-rhythm and polymeter").</summary>
    /// <returns>Nothing where that takes more than <see cref="Most"/> repetitions.</returns>
    /// <exception cref="ArgumentOutOfRangeException">The cycle is not longer than nothing.</exception>
    public static Realignment? Of(Tick cycle, MeterCycle meters)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(cycle.Value);
        var bar = meters.StartOf(meters.Meters.Length).Value;
        var common = Common(cycle.Value, bar);
        long repetitions = bar / common, bars = cycle.Value / common;
        if (repetitions > Most) return null;
        // The counts of the long bar, each with where it falls.
        var counts = meters.Meters.SelectMany((meter, i) => Enumerable.Range(0, meter.Counts).Select(n => meters.StartOf(i).Value + meter.Beat.Value * n)).ToList();
        return new(bars, [.. Enumerable.Range(0, (int)repetitions).Select(i =>
        {
            var (index, inBar) = Math.DivRem((long)i * cycle.Value, bar);
            var beat = counts.FindLastIndex(at => at <= inBar);
            return new CycleStart((int)index + 1, beat + 1, new((int)(inBar - counts[beat])));
        })]);
    }

    private static long Common(long a, long b) => b == 0 ? a : Common(b, a % b);
}
