using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Core.Discovery;

/// <summary>A family of like bars in a player's stock.</summary>
/// <param name="Share">The mean of the titles' own shares: a groove kept up for sixteen bars is one decision.</param>
public sealed record StockRow(BarFamily Family, Estimate Share);

/// <summary>Which bars a player has ready, and how much of each title they are (evidence.md, "Fingerprint, habits, stock of bars,
/// traits").</summary>
public static class BarStock
{
    /// <param name="bars">Each with its strokes counted from its start, and the player's title it is from.</param>
    public static IReadOnlyList<StockRow> Of(IReadOnlyList<(Meter Meter, IReadOnlyList<Stroke> Strokes, string Title)> bars)
    {
        var titles = bars.CountBy(b => b.Title).ToList();
        return [.. BarFamilies.Of([.. bars.Select(b => (b.Meter, b.Strokes))]).Select(family =>
        {
            var own = family.Members.CountBy(m => bars[m.Bar].Title).ToDictionary();
            return new StockRow(family, Estimate.MeanShare(titles.Select(t => new TitleAmount(own.GetValueOrDefault(t.Key), t.Value)))!);
        })];
    }
}
