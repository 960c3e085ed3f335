namespace InnerCadence.Core.Evidence;

/// <summary>Whether an idea keeps to one place of a piece (evidence.md, "Set piece or vocabulary").</summary>
/// <param name="Usual">Appearances at their title's usual place, of all.</param>
/// <param name="Places">Title and its usual place.</param>
public sealed record SetPiece(int Usual, int Of, IReadOnlyList<string> Places)
{
    public Interval? Share => Estimates.Presence(Usual, Of);

    /// <summary>Over titles with it in several performances, with their sections named; nothing where there is none.</summary>
    public static SetPiece? Over(IEnumerable<Performance> performances, Func<Appearance, string> placeOf)
    {
        var titles = performances.GroupBy(p => p.Title)
            .Select(g => (Title: g.Key, At: g.SelectMany(p => p.Appearances.Where(o => o.Section.Length > 0).Select(o => (p.Id, o))).ToList()))
            .Where(t => t.At.Select(x => x.Id).Distinct().Count() > 1).ToList();
        if (titles.Count == 0) return null;
        var best = titles.Select(t => (t.Title, Usual: t.At.GroupBy(x => placeOf(x.o)).MaxBy(g => g.Count())!)).ToList();
        return new(best.Sum(b => b.Usual.Count()), titles.Sum(t => t.At.Count), [.. best.Select(b => $"{b.Title}: {b.Usual.Key}")]);
    }
}
