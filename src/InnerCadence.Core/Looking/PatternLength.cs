using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <summary>Whether bars go by ones, twos or fours: what explains more.</summary>
/// <remarks>sound.md, "The commonest bar, and what departs from it": each bar is compared with what most of the other bars of its turn
/// have; a bar that is altogether another one, such as a fill, counts as so many strokes at most. The longer pattern stands where it spares
/// a fifth of a stroke a bar.</remarks>
public static class PatternLength
{
    private const int MostOff = 4, FewestOfATurn = 3;
    private const double Spares = 0.2;

    /// <param name="first">The bar at which a pattern begins.</param>
    /// <param name="struck">By bar, of one meter.</param>
    /// <returns>1, 2 or 4.</returns>
    public static int Of(int first, IReadOnlyDictionary<int, HashSet<(Voice Voice, int Tick)>> struck)
    {
        var (best, off) = (1, Off(1, first, struck));
        foreach (var longer in new[] { 2, 4 })
        {
            var turns = struck.Keys.GroupBy(b => (b - first) % longer).ToList();
            if (turns.Count < longer || turns.Any(t => t.Count() < FewestOfATurn)) break;
            if (Off(longer, first, struck) is var less && less < off - Spares) (best, off) = (longer, less);
        }
        return best;
    }

    /// <summary>Strokes a bar that are not as the others of its turn have them.</summary>
    private static double Off(int length, int first, IReadOnlyDictionary<int, HashSet<(Voice Voice, int Tick)>> struck) =>
        struck.GroupBy(b => (b.Key - first) % length, b => b.Value).Sum(turn =>
        {
            var bars = turn.ToList();
            var times = bars.SelectMany(b => b).GroupBy(p => p).ToDictionary(g => g.Key, g => g.Count());
            return bars.Sum(bar => Math.Min(MostOff, times.Count(p => bar.Contains(p.Key)
                != (2 * (p.Value - (bar.Contains(p.Key) ? 1 : 0)) > bars.Count - 1))));
        }) / (double)struck.Count;
}
