namespace InnerCadence.Core.Evidence;

/// <summary>Which idea follows which.</summary>
/// <param name="Followed">Of so many places of the one, so many are followed by it.</param>
/// <param name="Titles">In so many titles.</param>
/// <param name="Contrast">Titles in which it follows the one, against titles in which it follows another; nothing where there is no
/// other.</param>
public sealed record Following(long Idea, int Followed, int Of, int Titles, Contrast? Contrast);

/// <summary>What comes after an idea within so many bars (evidence.md, "Sequences"). The unit is the title.</summary>
public static class Sequences
{
    /// <param name="ideas">Every idea of one player, with its recordings.</param>
    public static IReadOnlyList<Following> After(long idea, IReadOnlyDictionary<long, IReadOnlyList<Performance>> ideas, int bars)
    {
        var places = ideas.SelectMany(i => i.Value.SelectMany(p => p.Counted.Where(a => a.Start is not null)
            .Select(a => (Idea: i.Key, p.Title, p.Id, Bar: p.BarAt(a), Start: a.Start!.Value, End: a.End ?? a.Start.Value)))).ToList();
        var follows = places.GroupBy(p => p.Id).Select(g => g.OrderBy(s => s.Start).ToList())
            .SelectMany(recording => recording.Select((s, i) =>
            (s.Idea, s.Title, Next: recording.Skip(i + 1).TakeWhile(n => n.Start <= s.End + s.Bar * bars + Near)
                .Where(n => n.Start >= s.End - Near).Select(n => n.Idea).ToHashSet()))).ToList();
        var (own, others) = (follows.Where(f => f.Idea == idea).ToList(), follows.Where(f => f.Idea != idea).ToList());
        var (ownTitles, otherTitles) = (own.Select(f => f.Title).Distinct().Count(), others.Select(f => f.Title).Distinct().Count());
        var counted = own.SelectMany(f => f.Next).Distinct().Select(next => (
            Next: next, Times: own.Count(f => f.Next.Contains(next)),
            With: own.Where(f => f.Next.Contains(next)).Select(f => f.Title).Distinct().Count(),
                Others: others.Where(f => f.Next.Contains(next)).Select(f => f.Title).Distinct().Count())).ToList();
        var contrasts = Contrasts.Of([.. counted.Select(c => new Table(c.With, ownTitles - c.With, c.Others, otherTitles - c.Others))]);
        return [.. counted.Select((c, i) => new Following(c.Next, c.Times, own.Count, c.With, contrasts[i]))
            .OrderByDescending(f => f.Followed).ThenBy(f => f.Idea)];
    }

    /// <summary>A tick more or less is the same place.</summary>
    private const double Near = 1e-6;
}
