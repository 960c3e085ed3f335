using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>When somebody has an idea for the first time, as far as dates are known: one answer for every page (evidence.md, "First and
/// last").</summary>
/// <remarks>Of all confirmed places, also those heard by hand and those outside what was searched.</remarks>
/// <param name="By">At the latest then: the earliest of the last days on which a certain sighting can have been recorded.</param>
/// <param name="NotBefore">At the earliest then, whoever drums.</param>
/// <param name="First">The recording of the certain one; where nobody certainly drums, of the earliest.</param>
/// <param name="Place">The first place in it.</param>
/// <param name="Perhaps">Recordings with it that may be earlier: their date is less clear, or who drums.</param>
/// <param name="Found">Confirmed places in all.</param>
/// <param name="Undated">Recordings with it of which no date is known.</param>
/// <param name="Without">Recordings searched before it, and without it.</param>
public sealed record FirstOnRecord(
    DateOnly? By, DateOnly? NotBefore, Performance? First, Appearance? Place, ValueList<Performance> Perhaps, int Found, int Undated,
        ValueList<Performance> Without)
{
    public static FirstOnRecord Of(IReadOnlyCollection<Performance> performances)
    {
        var with = performances.Where(p => p.Appearances.Count > 0).ToList();
        var dated = with.Where(p => p.Recorded is not null).OrderBy(p => p.Recorded!.Value.Latest).ThenBy(p => p.Recorded!.Value.Earliest)
            .ThenBy(p => p.Name, StringComparer.Ordinal).ToList();
        var certain = dated.FirstOrDefault(p => p.Appearances.Any(a => a.SureWhoPlays));
        var first = certain ?? dated.FirstOrDefault();
        var from = first?.Recorded?.Earliest;
        return new(
            certain?.Recorded?.Latest, dated.Count > 0 ? dated.Min(p => p.Recorded!.Value.Earliest) : null, first,
            first is null ? null : first.Appearances.FirstOrDefault(a => a.SureWhoPlays) ?? first.Appearances[0],
            [.. dated.Where(p => p != first && p.Recorded!.Value.Earliest < from).OrderBy(p => p.Recorded!.Value.Earliest)],
            with.Sum(p => p.Appearances.Count), with.Count(p => p.Recorded is null),
            from is null ? [] : [.. performances.Where(p => p.IsSearched && p.Appearances.Count == 0 && p.Recorded?.Latest < from)]);
    }

    public bool SureWhoPlays => By is not null;

    /// <summary>How the first place was found: heard by hand, outside what was searched; empty where neither is so.</summary>
    public string Remark => string.Join(", ", new[]
    {
        Place is { Sighting: null } ? "heard by hand" : "", Place is { Counts: false } ? "outside what was searched" : "",
            First is not null && !SureWhoPlays ? "not certain who drums" : "",
        Perhaps.Count > 0 ? $"perhaps earlier: {string.Join("; ", Perhaps.Take(3).Select(p => $"{p.Name}, {p.Recorded}"))}" : "",
    }.Where(part => part.Length > 0));
}
