namespace InnerCadence.Core.Practice;

/// <summary>A round that was played, or what a body said of it.</summary>
/// <param name="Outcome">Nothing where only pain is told.</param>
/// <param name="Pain">0 to 3; nothing where nobody asked.</param>
public sealed record PracticeRound(DateOnly Day, double Tempo, Outcome? Outcome, int? Pain);

/// <summary>One day with a figure.</summary>
/// <param name="Best">The fastest clean round, in beats a minute; nothing where none was.</param>
/// <param name="Pain">The worst that was told.</param>
public sealed record PracticeDay(DateOnly Day, double? Best, int Clean, int Failed, int Pain)
{
    /// <summary>More clean rounds than failures, and no pain that stops (hands.md, "Practice").</summary>
    public bool WentWell => Clean > Failed && Pain < Ladder.PainThatStops;

    /// <summary>Day by day, oldest first.</summary>
    public static IReadOnlyList<PracticeDay> Of(IEnumerable<PracticeRound> rounds) =>
        [.. rounds.GroupBy(r => r.Day).OrderBy(g => g.Key).Select(g => new PracticeDay(
        g.Key, g.Where(r => r.Outcome == Outcome.Clean).Max(r => (double?)r.Tempo), g.Count(r => r.Outcome == Outcome.Clean),
            g.Count(r => r.Outcome == Outcome.Failed), g.Max(r => r.Pain ?? 0)))];
}
