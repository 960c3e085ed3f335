namespace InnerCadence.Core.Evidence;

/// <summary>One judgement as it was made.</summary>
/// <param name="Blind">Without seeing what was judged before.</param>
/// <param name="Settles">With the verdicts of those who differ in view.</param>
public sealed record MadeJudgement(long Sighting, string Judge, string Judgement, bool Blind, DateTime MadeAt = default,
    bool Settles = false);

/// <summary>How well two series of judgements agree beyond what chance would give.</summary>
/// <param name="Pairs">Judged twice.</param>
/// <param name="Same">Judged alike.</param>
/// <param name="Kappa">Cohen's kappa: 1 agrees always, 0 as often as chance; nothing where chance alone would always agree.</param>
public sealed record Agreement(int Pairs, int Same, double? Kappa)
{
    /// <summary>Of a judge with himself, from what was judged blind twice: each time beside the time before it.</summary>
    /// <param name="made">In the order in which they were made.</param>
    public static Agreement? WithOneself(IEnumerable<MadeJudgement> made) =>
        Of([.. made.Where(m => m.Blind).GroupBy(m => (m.Sighting, m.Judge))
            .SelectMany(g => g.Zip(g.Skip(1), (a, b) => (a.Judgement, b.Judgement)))]);

    /// <summary>Of every two judges of one sighting, by what each said last.</summary>
    /// <param name="made">In the order in which they were made.</param>
    public static Agreement? BetweenJudges(IEnumerable<MadeJudgement> made) => Of([.. made.GroupBy(m => m.Sighting).SelectMany(sighting =>
    {
        var last = sighting.GroupBy(m => m.Judge).OrderBy(judge => judge.Key, StringComparer.Ordinal)
            .Select(judge => judge.Last().Judgement).ToList();
        return last.SelectMany((first, i) => last.Skip(i + 1).Select(second => (first, second)));
    })]);

    /// <summary>
    /// Cohen, "A coefficient of agreement for nominal scales" (1960): (observed - expected) / (1 - expected), where expected is what the
    /// shares of both series would give. Nothing where nothing was judged twice.
    /// </summary>
    public static Agreement? Of<T>(IReadOnlyCollection<(T First, T Second)> pairs) where T : notnull
    {
        if (pairs.Count == 0) return null;
        var same = pairs.Count(p => p.First.Equals(p.Second));
        double n = pairs.Count;
        var expected = pairs.Select(p => p.First).Distinct()
            .Sum(word => pairs.Count(p => p.First.Equals(word)) / n * (pairs.Count(p => p.Second.Equals(word)) / n));
        return new(pairs.Count, same, expected < 1 ? (same / n - expected) / (1 - expected) : null);
    }
}
