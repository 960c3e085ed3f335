using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>What a comparison of two sides says first: what is only here, what is not, what is more or less.</summary>
/// <remarks>evidence.md, "Against others": a side where nothing was searched says nothing, and a place that is confirmed outside what
/// was searched is in no rate and all the same contradicts that a side never has it.</remarks>
public sealed record SidesInWords(ValueList<SideBySide> OnlyHere, ValueList<SideBySide> NotHere, ValueList<SideBySide> MoreHere,
    ValueList<SideBySide> LessHere)
{
    /// <param name="rows">Corrected together; within each list the surest first.</param>
    public static SidesInWords Of(IReadOnlyList<SideBySide> rows)
    {
        ValueList<SideBySide> Those(Func<SideBySide, bool> are) => [.. rows.Where(r => r.One.Bars > 0 && r.Two.Bars > 0 && are(r))
            .OrderBy(r => r.Q ?? 1).ThenByDescending(r => Math.Max(r.One.Events, r.Two.Events)).ThenBy(r => r.Idea)];
        return new(Those(IsOnlyHere), Those(IsNotHere), Those(r => !IsOnlyHere(r) && r.Times is { Interval.Low: > 1 }),
            Those(r => !IsNotHere(r) && r.Times is { Interval.High: < 1 }));
    }

    private static bool IsOnlyHere(SideBySide row) => row.One.Events > 0 && Never(row.Two);
    private static bool IsNotHere(SideBySide row) => row.Two.Events > 0 && Never(row.One);
    private static bool Never(Answer side) => side is { Events: 0, Outside: 0 };
}
