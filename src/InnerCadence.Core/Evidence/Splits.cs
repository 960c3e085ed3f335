namespace InnerCadence.Core.Evidence;

/// <summary>One part of a split: so many in so much searched.</summary>
public sealed record SplitPart(string Name, int Events, int Bars)
{
    public Interval? Rate => Bars > 0 ? Estimates.Rate(Events, Bars) : null;
}

/// <summary>Dividing what was found, each part with its own searched amount, so that an uneven search does not look like a habit (evidence.md, "Where").</summary>
public static class Splits
{
    /// <summary>By something that a whole recording has; recordings without it, and those not searched, are in no part.</summary>
    public static IReadOnlyList<SplitPart> ByRecording(IEnumerable<Performance> performances, Func<Performance, string?> part) =>
        [.. performances.Where(p => p.Bars > 0).GroupBy(part).Where(g => !string.IsNullOrEmpty(g.Key)).OrderBy(g => g.Key, StringComparer.Ordinal)
            .Select(g => new SplitPart(g.Key!, g.Sum(p => p.Events), g.Sum(p => p.Bars)))];

    /// <summary>By something that a bar has: known only of what is written down for another reason than the idea itself.</summary>
    public static IReadOnlyList<SplitPart> ByBar(IEnumerable<WrittenBar> written, IEnumerable<Performance> performances, Func<WrittenBar, string?> ofBar, Func<Appearance, string?> ofOccurrence)
    {
        var events = performances.SelectMany(p => p.Appearances).Where(o => o.Sighting is not null && !o.BecauseHeard).Select(ofOccurrence).Where(k => !string.IsNullOrEmpty(k)).GroupBy(k => k!).ToDictionary(g => g.Key, g => g.Count());
        return [.. written.Select(ofBar).Where(k => !string.IsNullOrEmpty(k)).GroupBy(k => k!).OrderBy(g => g.Key, StringComparer.Ordinal).Select(g => new SplitPart(g.Key, events.GetValueOrDefault(g.Key), g.Count()))];
    }

    /// <summary>By the beat in which it starts; every searched bar has each of them once.</summary>
    public static IReadOnlyList<SplitPart> ByBeat(IReadOnlyCollection<Performance> performances)
    {
        var bars = performances.Sum(p => p.Bars);
        return [.. performances.SelectMany(p => p.Appearances).Where(o => o is { Place: not null, Meter: not null }).GroupBy(o => o.Place!.Value.Value / o.Meter!.Beat.Value + 1).OrderBy(g => g.Key)
            .Select(g => new SplitPart($"{g.Key}", g.Count(), bars))];
    }
}
