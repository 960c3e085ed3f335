namespace InnerCadence.Core.Evidence;

/// <summary>How well two series of judgements agree beyond what chance would give.</summary>
/// <param name="Pairs">Judged twice.</param>
/// <param name="Same">Judged alike.</param>
/// <param name="Kappa">Cohen's kappa: 1 agrees always, 0 as often as chance; nothing where chance alone would always agree.</param>
public sealed record Agreement(int Pairs, int Same, double? Kappa)
{
    /// <summary>
    /// Cohen, "A coefficient of agreement for nominal scales" (1960): (observed - expected) / (1 - expected), where expected is what the
    /// shares of both series would give. Nothing where nothing was judged twice.
    /// </summary>
    public static Agreement? Of<T>(IReadOnlyCollection<(T First, T Second)> pairs) where T : notnull
    {
        if (pairs.Count == 0) return null;
        var same = pairs.Count(p => p.First.Equals(p.Second));
        double n = pairs.Count;
        var expected = pairs.Select(p => p.First).Distinct().Sum(word => pairs.Count(p => p.First.Equals(word)) / n * (pairs.Count(p => p.Second.Equals(word)) / n));
        return new(pairs.Count, same, expected < 1 ? (same / n - expected) / (1 - expected) : null);
    }
}
