using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>A title as a tempo with the idea or without it: its takes are no independent witnesses.</summary>
/// <param name="Tempo">The median of its searched takes.</param>
/// <param name="With">Any of them has it.</param>
public sealed record TitleTempo(string Title, double Tempo, bool With, ValueList<Performance> Takes)
{
    /// <summary>With fewer titles no threshold can be trusted.</summary>
    public const int Few = 8;

    /// <summary>Slowest first; of what is searched far enough and has a tempo.</summary>
    public static IReadOnlyList<TitleTempo> Of(IEnumerable<Performance> performances) =>
    [
        .. performances.Where(p => p is { IsSearched: true, Tempo: not null }).GroupBy(p => (p.Player, p.Title))
            .Select(g => new TitleTempo(g.Key.Title, Math.Round(Median([.. g.Select(p => p.Tempo!.Value).Order()]), 1),
                g.Any(p => p.Events > 0), [.. g])).OrderBy(t => t.Tempo).ThenBy(t => t.Title, StringComparer.Ordinal),
    ];

    /// <summary>Where the tempo divides the titles with it from those without; nothing where all have one tempo.</summary>
    public static TempoThreshold? Threshold(IEnumerable<TitleTempo> titles) =>
        Contrasts.Threshold(titles.Select(t => (t.Tempo, t.With ? 1 : 0, t.With ? 0 : 1)));

    /// <summary>From the slowest to the fastest title with it; nothing where none has it.</summary>
    public static (double Low, double Median, double High)? Range(IEnumerable<TitleTempo> titles) =>
        titles.Where(t => t.With).Select(t => t.Tempo).Order().ToList() is { Count: > 0 } with ? (with[0], Median(with), with[^1]) : null;

    private static double Median(List<double> sorted) => (sorted[(sorted.Count - 1) / 2] + sorted[sorted.Count / 2]) / 2;
}
