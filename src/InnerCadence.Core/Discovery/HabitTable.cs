using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Core.Discovery;

/// <summary>A passage of one player's title with its traits.</summary>
public sealed record TitledPassage(Passage Passage, Traits Traits, string Title);

/// <summary>How often passages of either side have a trait.</summary>
/// <param name="With">Passages, of <paramref name="Of"/> of which it is known.</param>
/// <param name="Share">The mean of the titles' shares.</param>
/// <param name="Corrected">How often chance alone differs by as much in any of the habits; nothing where too few titles are written
/// down.</param>
public sealed record HabitRow(Habit Habit, int With, int Of, int OthersWith, int OthersOf, Estimate? Share, Estimate? OthersShare,
    double? Corrected)
{
    public bool StandsOut => Corrected < 0.05;
}

/// <summary>Habits of hand and foot, one side beside another; the unit is the title (evidence.md, "Fingerprint, habits, stock of bars,
/// traits").</summary>
public static class HabitTable
{
    public static IReadOnlyList<HabitRow> Of(IReadOnlyCollection<TitledPassage> side, IReadOnlyCollection<TitledPassage> others)
    {
        List<TitleAmount[]> Counted(IEnumerable<TitledPassage> passages) =>
            [.. passages.GroupBy(p => p.Title).OrderBy(g => g.Key, StringComparer.Ordinal).Select(g => Habit.All.Select(habit =>
        {
            var told = g.Select(p => habit.Has(p.Passage, p.Traits)).OfType<bool>().ToList();
            return new TitleAmount(told.Count(x => x), told.Count);
        }).ToArray())];
        static double[] Shares(TitleAmount[] title) => [.. title.Select(t => t.Amount > 0 ? t.Events / t.Amount : double.NaN)];
        var (one, two) = (Counted(side), Counted(others));
        var corrected = Permutation.Corrected([.. one.Select(Shares)], [.. two.Select(Shares)]);
        return [.. Habit.All.Select((habit, i) => new HabitRow(
            habit, (int)one.Sum(t => t[i].Events), (int)one.Sum(t => t[i].Amount), (int)two.Sum(t => t[i].Events),
                (int)two.Sum(t => t[i].Amount),
            Estimate.MeanShare(one.Select(t => t[i])), Estimate.MeanShare(two.Select(t => t[i])), corrected?[i]))];
    }
}
