using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Discovery;

/// <summary>Which recurring cells are one player's and nobody else's, by titles (evidence.md, "Against others").</summary>
public static class HersNeverTheirs
{
    /// <summary>
    /// For each cell how often chance alone would put it as unevenly on the two sides: Fisher's exact test, corrected over all cells that
    /// were found together, since a cell is looked
    /// at because it is on one side only.
    /// </summary>
    /// <param name="cells">In how many titles of hers and of theirs each comes.</param>
    /// <param name="own">Titles of hers that were looked through; <paramref name="theirs"/> likewise.</param>
    /// <returns>Nothing for all where nothing of one side was looked through.</returns>
    public static IReadOnlyList<double?> Corrected(IReadOnlyList<(int Hers, int Theirs)> cells, int own, int theirs) =>
        [.. Contrasts.Of([.. cells.Select(c => new Table(c.Hers, own - c.Hers, c.Theirs, theirs - c.Theirs))]).Select(c => c?.Q)];
}
