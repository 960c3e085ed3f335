namespace InnerCadence.Core.Ideas;

/// <summary>An idea that comes from another: variant of it, built from it, its opposite.</summary>
public readonly record struct Descent(long Idea, long Of, string Kind);

/// <summary>Which idea comes from which.</summary>
public static class Lineage
{
    public static IReadOnlyList<string> Kinds { get; } = ["variant of", "built from", "opposite of"];

    /// <summary>Whether a new link would make an idea its own ancestor.</summary>
    public static bool WouldClose(IEnumerable<Descent> links, long idea, long of)
    {
        if (idea == of) return true;
        var parents = links.ToLookup(l => l.Idea, l => l.Of);
        var (seen, waiting) = (new HashSet<long>(), new Stack<long>([of]));
        while (waiting.TryPop(out var next))
        {
            if (next == idea) return true;
            if (!seen.Add(next)) continue;
            foreach (var parent in parents[next]) waiting.Push(parent);
        }
        return false;
    }

    /// <summary>The family of an idea as rows of a tree: everything reachable from it either way, ancestors before what comes from
    /// them.</summary>
    /// <returns>Each idea once, at the depth of its longest line of descent, with the link that put it there; in order of depth, then
    /// number.</returns>
    public static IReadOnlyList<(long Idea, int Depth)> Family(IReadOnlyCollection<Descent> links, long idea)
    {
        var (parents, children) = (links.ToLookup(l => l.Idea, l => l.Of), links.ToLookup(l => l.Of, l => l.Idea));
        var (members, waiting) = (new HashSet<long>(), new Stack<long>([idea]));
        while (waiting.TryPop(out var next))
            if (members.Add(next))
                foreach (var other in parents[next].Concat(children[next])) waiting.Push(other);
        var depths = new Dictionary<long, int>();
        int Depth(long of) => depths.TryGetValue(of, out var known) ? known : depths[of] = parents[of].Select(p => Depth(p) + 1)
            .DefaultIfEmpty(0).Max();
        return [.. members.Select(m => (m, Depth(m))).OrderBy(m => m.Item2).ThenBy(m => m.m)];
    }
}
