using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>What a comparison of two sides says first: what is only here, what is not, what is surely more or less.</summary>
/// <remarks>evidence.md, "Against others": a side where nothing was searched says nothing.</remarks>
public sealed record SidesInWords(ValueList<SideBySide> OnlyHere, ValueList<SideBySide> NotHere, ValueList<SideBySide> MoreHere,
    ValueList<SideBySide> LessHere)
{
    /// <param name="rows">Corrected together; within each list the surest first.</param>
    public static SidesInWords Of(IReadOnlyList<SideBySide> rows)
    {
        ValueList<SideBySide> Those(Func<SideBySide, bool> are) => [.. rows.Where(r => r.One.Bars > 0 && r.Two.Bars > 0 && are(r))
            .OrderBy(r => r.Q ?? 1).ThenByDescending(r => Math.Max(r.One.Events, r.Two.Events)).ThenBy(r => r.Idea)];
        return new(Those(r => r.One.Events > 0 && r.Two.Events == 0), Those(r => r.One.Events == 0 && r.Two.Events > 0),
            Those(r => r.One.Events > 0 && r.Two.Events > 0 && r.Times is { Interval.Low: > 1 }),
            Those(r => r.One.Events > 0 && r.Two.Events > 0 && r.Times is { Interval.High: < 1 }));
    }
}
