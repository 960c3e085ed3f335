namespace InnerCadence.Core.Evidence;

/// <summary>One idea on two sides.</summary>
/// <param name="Times">How many times as often per bar; nothing where a side was not searched or neither has it.</param>
/// <param name="Q">Its p corrected for all ideas that are shown together.</param>
/// <param name="Drawn">The same ratio by drawing titles, from eight on each side.</param>
/// <param name="RecordingsWith">Of the one side, with it in searched bars.</param>
/// <param name="OtherRecordingsWith">Of the other.</param>
public sealed record SideBySide(long Idea, Answer One, Answer Two, TimesAsOften? Times, double? Q, Interval? Drawn, int RecordingsWith,
    int OtherRecordingsWith)
{
    /// <summary>Surely more often, after correction, and no matter of one tune: in at least 3 recordings of at least 2 titles (evidence.md,
    /// "Against others").</summary>
    public bool IsSignature => Times is { Interval.Low: > 1 } && IsSure(One, RecordingsWith);

    /// <summary>By the same rule, of the other side.</summary>
    public bool IsSignatureOfOther => Times is { Interval.High: < 1 } && IsSure(Two, OtherRecordingsWith);

    private bool IsSure(Answer side, int recordings) => Q < 0.05 && recordings >= 3 && side.Titles.Count(t => t.Events > 0) >= 2;

    /// <summary>All ideas that are shown, corrected together.</summary>
    public static IReadOnlyList<SideBySide> Of(IReadOnlyList<(long Idea, IReadOnlyList<Performance> One,
        IReadOnlyList<Performance> Two)> ideas)
    {
        static int With(IReadOnlyList<Performance> side) => side.Count(p => p.Events > 0);
        var rows = ideas.Select(i => (i.Idea, One: Answer.Of(i.One), Two: Answer.Of(i.Two), With: With(i.One), OtherWith: With(i.Two)))
            .Select(r => (r.Idea, r.One, r.Two, r.With, r.OtherWith, Times: Between(r.One, r.Two))).ToList();
        var q = new Queue<double>(Contrasts.Adjust([.. rows.Where(r => r.Times is not null).Select(r => r.Times!.P)]));
        return [.. rows.Select(r => new SideBySide(r.Idea, r.One, r.Two, r.Times, r.Times is null ? null : q.Dequeue(),
            DrawnOf(r.One, r.Two), r.With, r.OtherWith))];
    }

    public static TimesAsOften? Between(Answer one, Answer two) =>
        TimesAsOften.Of(one.Titles.Select(t => t.Rate), two.Titles.Select(t => t.Rate));

    private static Interval? DrawnOf(Answer one, Answer two) => Math.Min(one.Titles.Count, two.Titles.Count) >= Resampling.LeastTitles
        ? Resampling.Times([.. one.Titles.Select(t => t.Rate)], [.. two.Titles.Select(t => t.Rate)], Resampling.Seed) : null;
}
