using System.Globalization;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Claims;

/// <summary>Who of two had an idea first: date ranges, who drums, and how much the later one's silence before is worth (evidence.md,
/// "Claims").</summary>
public sealed record Precedence(FirstOnRecord One, FirstOnRecord Other, Silence? SilenceOfOther, string? Hearing, Stand Stand)
{
    /// <param name="one">Recordings of the one who is said to have had it first, with what was searched and found.</param>
    public static Precedence Of(IReadOnlyList<Performance> one, IReadOnlyList<Performance> other, string name, string otherName)
    {
        var (a, b) = (FirstOnRecord.Of(one), FirstOnRecord.Of(other));
        var silence = a.By is { } by ? SilenceUntil(other, by, one) : null;
        var hearing = HearingOf(one, b, otherName);
        var figures = $"{name} by {Day(a.By)}, {otherName} {(b.NotBefore is null ? "not found" : $"from {Day(b.NotBefore)}")}, "
            + $"{silence?.Bars ?? 0} bars of silence";
        Stand Say(Standing standing, string reason, string? settles = null, string? breaks = null, IEnumerable<Witness>? counter = null) =>
            new(standing, reason, figures)
            {
                Settles = settles,
                Breaks = breaks,
                For = a.First is { } own ? [.. own.Appearances.Take(3).Select(x => Witness.Of(x, own))] : [],
                Counter = [.. counter ?? []],
                Look = a.By is not { } until ? [] : [.. other.Where(p => !p.IsSearched && p.Recorded?.Latest <= until).Select(Witness.Of)],
                Few = (silence?.Bars ?? 0) < 50,
            };
        return new(a, b, silence, hearing, Judge());

        Stand Judge()
        {
            if (a.Found == 0) return Say(Standing.Open, $"It is not found in {name}’s playing.", "a confirmed sighting");
            if (b is { By: { } theirs } && a.NotBefore is { } mine && theirs < mine)
                return Say(Standing.Contradicted, $"{otherName} has it by {Day(theirs)}, {name} not before {Day(mine)}.",
                    counter: b.First!.Appearances.Take(3).Select(o => Witness.Of(o, b.First)));
            if (b.Found == 0) return Say(Standing.Open, $"It is not found in {otherName}’s playing, so there is nothing to be before.",
                $"a sighting by {otherName}, or a claim of how often each plays it");
            if (a.By is not { } first) return Say(Standing.Open, $"No recording in which {name} certainly plays it has a date.",
                "dates, or who drums");
            if (b.Undated > 0) return Say(Standing.Open, $"{otherName} has it in a recording without a date.", "its date");
            if (b.NotBefore is not { } later || first >= later) return Say(Standing.Open,
                $"{name} has it by {Day(first)}, {otherName} perhaps from {Day(b.NotBefore)}: the dates overlap.",
                "closer dates, or who drums");
            if (silence is null) return Say(Standing.Open,
                $"{name} has it by {Day(first)}, {otherName} not before {Day(later)}; but nothing by {otherName} up to then was "
                + $"searched for it, so the silence means nothing.", $"searching {otherName} up to {Day(first)}");
            var weighed = string.Create(CultureInfo.InvariantCulture,
                $"{name} has it by {Day(first)}, {otherName} not before {Day(later)}. {silence.Bars} bars by {otherName} up to "
                + $"{Day(first)} are without it; at the lower end of the rate seen elsewhere ({silence.Per100:0.0} per 100) they would "
                + $"show {silence.Expected:0.0}, none: {Standings.Chance(silence.None)}.{(hearing is null ? "" : " " + hearing)}");
            return silence.IsStrong
                ? Say(Standing.Supported, weighed, breaks: $"One certain sighting by {otherName} before {Day(a.NotBefore)}.")
                : Say(Standing.Open, weighed, silence.BarsToStrong <= Settling.Reach
                    ? $"about {Standings.Many(silence.BarsToStrong, "more bar")} by {otherName} up to {Day(first)} searched without it"
                    : Claims.Stand.OutOfReach);
        }
    }

    /// <summary>What was searched of the other up to a day, weighed at the rate the other has it elsewhere, or the one has it where the
    /// other never does.</summary>
    private static Silence? SilenceUntil(IReadOnlyList<Performance> other, DateOnly by, IReadOnlyList<Performance> one)
    {
        var before = other.Where(p => p.Recorded?.Latest <= by && p.Appearances.Count == 0).ToList();
        var elsewhere = Answer.Of(other.Except(before)).Rate?.Interval;
        if (elsewhere is not { Low: > 0 }) elsewhere = Answer.Of(one).Rate?.Interval;
        return Silence.Of(before.Sum(p => p.Bars), elsewhere);
    }

    /// <summary>Borrowing needs hearing: whether a record with it was out before the other is known to have it.</summary>
    private static string? HearingOf(IReadOnlyList<Performance> one, FirstOnRecord other, string otherName)
    {
        if (other.NotBefore is not { } theirs) return null;
        var issued = one.Where(p => p.Issued is not null && p.Appearances.Count > 0).MinBy(p => p.Issued!.Value.Latest);
        if (issued?.Issued is not { } out_) return $"No record with it has an issue date, so whether {otherName} could have heard one "
            + $"is not known.";
        return out_.Latest < theirs ? $"A record with it was out by {Day(out_.Latest)}: {otherName} could have heard it."
            : out_.Earliest > theirs ? $"No record with it was out before {Day(theirs)}: {otherName} could only have heard it played."
                : $"Whether a record with it was out before {otherName} had it, the dates do not say.";
    }

    private static string Day(DateOnly? day) => day?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "no known day";
}
