namespace InnerCadence.Core.Ideas;

/// <summary>Windows that hang together by strokes they share: what one chooses in one group leaves the others as they are.</summary>
/// <remarks>
/// Where strokes between those of a match are invisible (a bed, a crash that only an ending sees), two matches may lie across one another
/// and share nothing,
/// so that runs of strokes are no measure of it.
/// </remarks>
internal static class SharedStrokes
{
    /// <summary>Each group in the order of its first window.</summary>
    public static IEnumerable<IReadOnlyList<Candidate>> Groups(IReadOnlyList<Candidate> windows, int strokes)
    {
        var parent = Enumerable.Range(0, windows.Count).ToArray();
        var holder = new Dictionary<int, int>();
        for (var i = 0; i < windows.Count; i++)
        {
            foreach (var stroke in windows[i].Taken.Select(s => s % strokes))
            {
                if (holder.TryGetValue(stroke, out var other)) parent[Root(i)] = Root(other);
                else holder[stroke] = i;
            }
        }
        return Enumerable.Range(0, windows.Count).GroupBy(Root).Select(g => (IReadOnlyList<Candidate>)[.. g.Select(i => windows[i])]);

        int Root(int i)
        {
            while (parent[i] != i) i = parent[i] = parent[parent[i]];
            return i;
        }
    }

    /// <summary>Every set in which no two windows share a stroke, whether more could join it or not.</summary>
    public static IEnumerable<List<Candidate>> Sets(IReadOnlyList<Candidate> windows, int strokes)
    {
        return From(0, [], []);

        IEnumerable<List<Candidate>> From(int next, List<Candidate> chosen, HashSet<int> taken)
        {
            if (next == windows.Count)
            {
                yield return [.. chosen];
                yield break;
            }
            foreach (var set in From(next + 1, chosen, taken)) yield return set;
            var own = windows[next].Taken.Select(s => s % strokes).ToHashSet();
            if (taken.Overlaps(own)) yield break;
            foreach (var set in From(next + 1, [.. chosen, windows[next]], [.. taken, .. own])) yield return set;
        }
    }
}
