using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>A sighting that two judges see differently, and nobody has settled.</summary>
/// <param name="Last">What each judge said last, in the order in which it was said.</param>
public sealed record Disagreement(long Sighting, ValueList<MadeJudgement> Last)
{
    /// <summary>Settled is what was judged with both verdicts in view; another verdict after that opens it again.</summary>
    /// <param name="made">In the order in which they were made.</param>
    public static IReadOnlyList<Disagreement> Among(IEnumerable<MadeJudgement> made) =>
    [
        .. from sighting in made.GroupBy(m => m.Sighting)
           let all = sighting.ToList()
           let last = all.GroupBy(m => m.Judge).Select(judge => judge.Last()).OrderBy(all.IndexOf).ToList()
           where last.Select(m => m.Judgement).Distinct().Count() > 1 && !IsSettled(all)
           select new Disagreement(sighting.Key, [.. last]),
    ];

    private static bool IsSettled(List<MadeJudgement> made) => made.FindLastIndex(m => m.Settles) is >= 0 and var at
        && made.Skip(at + 1).All(m => m.Judgement == made[at].Judgement);
}
