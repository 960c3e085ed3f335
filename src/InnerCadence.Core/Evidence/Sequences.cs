using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>Which idea follows which.</summary>
/// <param name="Followed">Of so many sightings, so many are followed by it.</param>
public sealed record Following(long Idea, int Followed, int Of, Contrast? Contrast);

/// <summary>A sighting in the order of its reading.</summary>
/// <param name="Bar">Length of a bar there.</param>
public sealed record Sequenced(long Idea, long Reading, Tick Start, Tick End, Tick Bar);

public static class Sequences
{
    /// <summary>What starts within so many bars of the end of an idea, against how often that follows the other ideas.</summary>
    public static IReadOnlyList<Following> After(long idea, IEnumerable<Sequenced> sightings, int bars)
    {
        var follows = sightings.GroupBy(s => s.Reading).Select(g => g.OrderBy(s => s.Start).ToList()).SelectMany(reading => reading.Select((s, i) =>
            (s.Idea, Next: reading.Skip(i + 1).Where(n => n.Start >= s.End && n.Start <= s.End + new Tick(s.Bar.Value * bars)).Select(n => n.Idea).ToHashSet()))).ToList();
        var (own, others) = (follows.Where(f => f.Idea == idea).ToList(), follows.Where(f => f.Idea != idea).ToList());
        var counted = own.SelectMany(f => f.Next).Distinct().Select(next => (next, With: own.Count(f => f.Next.Contains(next)), Others: others.Count(f => f.Next.Contains(next)))).ToList();
        var contrasts = Contrasts.Of([.. counted.Select(c => new Table(c.With, own.Count - c.With, c.Others, others.Count - c.Others))]);
        return [.. counted.Select((c, i) => new Following(c.next, c.With, own.Count, contrasts[i])).OrderByDescending(f => f.Followed).ThenBy(f => f.Idea)];
    }
}
