using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>An idea over the years: each dated recording that has it, and since when it was looked for in vain.</summary>
/// <param name="With">Recordings that have it, by the middle of what is known of their date, in years with their fraction.</param>
/// <param name="SearchedFrom">The first dated recording searched far enough, where it came before all that have it; nothing where none
/// did.</param>
public sealed record OverTime(ValueList<(double At, Performance Performance)> With, double? SearchedFrom)
{
    public static OverTime Of(IEnumerable<Performance> performances)
    {
        var dated = performances.Where(p => p.Recorded is not null).ToList();
        var with = dated.Where(p => p.Appearances.Count > 0).Select(p => (At: Middle(p.Recorded!.Value), p)).OrderBy(x => x.At).ToList();
        double? searched = dated.Where(p => p.IsSearched).Select(p => (double?)YearOf(p.Recorded!.Value.Earliest)).Min();
        return new(with, searched is { } from && (with.Count == 0 || from < with[0].At) ? from : null);
    }

    private static double Middle(PartialDate date) => (YearOf(date.Earliest) + YearOf(date.Latest)) / 2;

    private static double YearOf(DateOnly day) => day.Year + day.DayOfYear / 366.0;
}
