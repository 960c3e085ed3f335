namespace InnerCadence.Core.Likeness;

/// <summary>The cheapest one-to-one assignment in a square table of weights.</summary>
/// <remarks>
/// Shortest augmenting paths with potentials (Kuhn 1955, Jonker and Volgenant 1987). It starts from pairs that weigh nothing, which no
/// better pairing can undercut at zero potentials, so the work grows with the rows that are left, not with the table.
/// </remarks>
internal static class Assignment
{
    public const long Forbidden = long.MaxValue / 4;

    /// <param name="weights">Row by row; none negative; <see cref="Forbidden"/> where a pair may not be.</param>
    /// <param name="given">Column of each row whose pair weighs nothing, or -1.</param>
    /// <returns>Column of each row; -1 where only forbidden pairs were left.</returns>
    public static int[] Solve(int size, long[] weights, ReadOnlySpan<int> given)
    {
        var (rowOf, columnOf) = (new int[size + 1], given.ToArray());
        Array.Fill(rowOf, -1);
        for (var row = 0; row < size; row++)
            if (columnOf[row] >= 0) rowOf[columnOf[row]] = row;

        var (rowPotential, columnPotential) = (new long[size], new long[size + 1]);
        var (least, cameFrom, seen) = (new long[size + 1], new int[size + 1], new bool[size + 1]);
        for (var start = 0; start < size; start++)
        {
            if (columnOf[start] >= 0) continue;
            Array.Fill(least, long.MaxValue);
            Array.Fill(seen, false);
            var column = size;
            rowOf[size] = start;
            do
            {
                seen[column] = true;
                var row = rowOf[column];
                var (delta, next) = (long.MaxValue, -1);
                for (var other = 0; other < size; other++)
                {
                    if (seen[other]) continue;
                    var reduced = weights[row * size + other] - rowPotential[row] - columnPotential[other];
                    if (reduced < least[other]) (least[other], cameFrom[other]) = (reduced, column);
                    if (least[other] < delta) (delta, next) = (least[other], other);
                }
                for (var other = 0; other <= size; other++)
                {
                    if (seen[other])
                    {
                        rowPotential[rowOf[other]] += delta;
                        columnPotential[other] -= delta;
                    }
                    else if (least[other] < long.MaxValue) least[other] -= delta;
                }
                column = next;
            }
            while (rowOf[column] >= 0);
            while (column != size)
            {
                var previous = cameFrom[column];
                rowOf[column] = rowOf[previous];
                columnOf[rowOf[column]] = column;
                column = previous;
            }
        }
        for (var row = 0; row < size; row++)
            if (weights[row * size + columnOf[row]] >= Forbidden) columnOf[row] = -1;
        return columnOf;
    }
}
