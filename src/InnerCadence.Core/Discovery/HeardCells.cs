using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Discovery;

/// <summary>Stretches that come back in what the ear heard of several titles.</summary>
/// <remarks>sound.md, "What comes back unnamed": cells as in what is written, by family, of half a bar to two bars.</remarks>
public static class HeardCells
{
    private const int Most = 60;

    public static CellFacets Facets { get; } = CellFacets.Usual with { Voicing = VoicingRule.Family };

    /// <param name="sources">Whole recordings, those of one title together.</param>
    /// <returns>Those that chance explains least first.</returns>
    public static IReadOnlyList<RankedCell> Of(IReadOnlyList<Source> sources, int titles, CancellationToken stop = default) =>
        CellRanking.Of(sources, Facets, [.. Cells.Find(sources, Facets, titles).Where(c => IsLongEnough(c, sources))], Most, stop);

    private static bool IsLongEnough(Cell cell, IReadOnlyList<Source> sources)
    {
        var first = cell.Occurrences[0];
        var passage = sources[first.Source].Passage;
        var bar = passage.Meters.MeterOf(passage.Meters.Locate(first.Start).Bar).Length.Value;
        // Its last stroke rings to the end of its beat.
        var lasts = (first.End - first.Start).Value + Tick.PerQuarter;
        return 2 * lasts >= bar && lasts <= 2 * bar;
    }
}
