using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>How often one idea comes after another.</summary>
/// <param name="Of">So many places of the first.</param>
public readonly record struct Step(long First, long Then, int Followed, int Of);

/// <summary>Two ideas in the tunes of one player.</summary>
/// <param name="Together">Tunes with both, of <paramref name="Of"/> that were searched for both.</param>
/// <param name="Never">How often chance alone would put them into no tune together.</param>
public readonly record struct PairOfIdeas(long One, long Other, int WithOne, int WithOther, int Together, int Of, double Never)
{
    /// <summary>The same, corrected for every pair that was looked at.</summary>
    public double Corrected { get; init; }

    /// <summary>Chance hardly explains it.</summary>
    public bool IsRare => Corrected < Rare;

    private const double Rare = 0.05;
}

/// <param name="Ideas">With how often each is counted in it, the commonest first.</param>
public sealed record RichRecording(long Id, string Name, int Bars, ValueList<(long Idea, int Events)> Ideas)
{
    public int Events => Ideas.Sum(i => i.Events);
}

/// <summary>How the ideas of one player go together: what follows what, what never is in one tune, which recordings have most of
/// them.</summary>
/// <remarks>evidence.md, "Sequences"; the unit of what is together is the title, as takes of one hang together.</remarks>
public sealed record SetOfIdeas(ValueList<Step> Steps, ValueList<PairOfIdeas> Pairs, ValueList<RichRecording> Recordings)
{
    /// <summary>Bars within which an idea follows another: a phrase of four.</summary>
    public const int Phrase = 4;

    /// <summary>Fewer tunes with one of them say nothing of what they avoid.</summary>
    private const int FewTunes = 2;

    /// <summary>In no tune together, though both are in several; what chance explains least first.</summary>
    public IEnumerable<PairOfIdeas> NeverTogether => Pairs.Where(p => p is { Together: 0, WithOne: >= FewTunes, WithOther: >= FewTunes })
        .OrderBy(p => p.Never);

    /// <param name="ideas">Every idea of the player, with every recording.</param>
    public static SetOfIdeas Of(IReadOnlyDictionary<long, IReadOnlyList<Performance>> ideas)
    {
        var named = ideas.Keys.Order().ToList();
        var steps = named.SelectMany(first => Sequences.After(first, ideas, Phrase)
            .Select(f => new Step(first, f.Idea, f.Followed, f.Of))).OrderBy(s => s.First).ThenBy(s => s.Then);
        var tunes = named.ToDictionary(i => i, i => ideas[i].GroupBy(p => p.Title).Where(g => g.Any(p => p.IsSearched))
            .ToDictionary(g => g.Key, g => g.Any(p => p.HasIt)));
        var pairs = named.SelectMany((one, i) => named.Skip(i + 1).Select(other => Pair(one, other, tunes[one], tunes[other])));
        var recordings = ideas.SelectMany(i => i.Value.Select(p => (Idea: i.Key, Performance: p))).GroupBy(x => x.Performance.Id)
            .Select(g => new RichRecording(g.Key, g.First().Performance.Name, g.Max(x => x.Performance.Bars),
                [.. g.Where(x => x.Performance.Events > 0).Select(x => (x.Idea, x.Performance.Events)).OrderByDescending(x => x.Events)
                    .ThenBy(x => x.Idea)]))
            .Where(r => r.Ideas.Count > 0).OrderByDescending(r => r.Ideas.Count)
            .ThenByDescending(r => (double)r.Events / Math.Max(1, r.Bars)).ThenBy(r => r.Id);
        return new([.. steps], [.. Weighed([.. pairs])], [.. recordings]);
    }

    /// <summary>Only what could meet and does not is a question; each is held against all of them.</summary>
    private static IEnumerable<PairOfIdeas> Weighed(IReadOnlyList<PairOfIdeas> pairs)
    {
        var asked = pairs.Where(p => p is { WithOne: >= FewTunes, WithOther: >= FewTunes }).ToList();
        var corrected = Contrasts.Adjust([.. asked.Select(p => p.Together == 0 ? p.Never : 1)]);
        var of = asked.Zip(corrected).ToDictionary(x => (x.First.One, x.First.Other), x => x.Second);
        return pairs.Select(p => p with { Corrected = of.GetValueOrDefault((p.One, p.Other), 1) });
    }

    private static PairOfIdeas Pair(long one, long other, IReadOnlyDictionary<string, bool> first, IReadOnlyDictionary<string, bool> second)
    {
        var both = first.Keys.Where(second.ContainsKey).ToList();
        var (a, b) = (both.Count(t => first[t]), both.Count(t => second[t]));
        return new(one, other, a, b, both.Count(t => first[t] && second[t]), both.Count, NoneByChance(both.Count, a, b));
    }

    /// <summary>That b of n tunes, drawn at random, are none of the a: the hypergeometric share of nothing.</summary>
    private static double NoneByChance(int n, int a, int b)
    {
        if (a + b > n) return 0;
        var none = 1.0;
        for (var i = 0; i < b; i++) none *= (n - a - i) / (double)(n - i);
        return none;
    }
}
