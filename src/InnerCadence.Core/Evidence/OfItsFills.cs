namespace InnerCadence.Core.Evidence;

/// <summary>In how many of the fills that are material an idea is confirmed (evidence.md, "Because-heard passages"), with the interval by
/// titles.</summary>
public sealed record OfItsFills(int With, int Of, Estimate Share)
{
    /// <param name="fills">Title and reading of each.</param>
    /// <returns>Nothing where no fill is written down.</returns>
    public static OfItsFills? Among(IEnumerable<(string Title, long Reading)> fills, IEnumerable<Performance> performances)
    {
        var readings = performances.SelectMany(p => p.Counted).Select(a => a.Reading).OfType<long>().ToHashSet();
        var titles = fills.GroupBy(f => f.Title).Select(g => new TitleAmount(g.Count(f => readings.Contains(f.Reading)), g.Count()))
            .ToList();
        return Estimate.Share(titles) is { } share ? new((int)share.Events, (int)share.Amount, share) : null;
    }
}
