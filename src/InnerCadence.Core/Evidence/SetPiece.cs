using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

public enum SetPieceStanding { Open, Arranged, Vocabulary }

/// <summary>Whether an idea is worked out for the tune, or played anywhere (evidence.md, "Set piece or vocabulary").</summary>
/// <param name="Again">Separate times that another performance of the title has at the same place of the form, of <paramref name="Of"/>
/// that could.</param>
/// <param name="Share">By titles.</param>
/// <param name="ByChance">The share that random places would give at the rate of those performances.</param>
/// <param name="Places">Title and place of those that come again.</param>
public sealed record SetPiece(int Again, int Of, Estimate Share, double ByChance, ValueList<string> Places)
{
    /// <summary>Half of them at the same place, and surely more than chance: arranged. Surely fewer than half: vocabulary.</summary>
    public SetPieceStanding Standing => Share.Interval switch
    {
        { } i when i.Low > ByChance && i.Value >= 0.5 => SetPieceStanding.Arranged,
        { High: < 0.5 } => SetPieceStanding.Vocabulary,
        _ => SetPieceStanding.Open,
    };

    /// <summary>Nothing where no title has it in a performance whose place was searched in another one.</summary>
    public static SetPiece? Over(IEnumerable<Performance> performances)
    {
        var (titles, again, of, chance, places) = (new List<TitleAmount>(), 0, 0, 0.0, new List<string>());
        foreach (var title in performances.Where(p => p.Bars > 0).GroupBy(p => (p.Player, p.Title)))
        {
            var takes = title.ToList();
            var withIt = takes.ToDictionary(t => t.Id, t => t.Counted.Where(a => a.Bar is not null).Select(a => a.Bar!.Value).ToHashSet());
            var (hits, could) = (0, 0);
            foreach (var take in takes)
                foreach (var place in Occasions.Of(take).Where(a => a.Bar is not null))
                {
                    var others = takes.Where(t => t.Id != take.Id).Select(t => (Take: t, Bar: SamePlaceIn(t, take, place.Bar!.Value)))
                        .Where(o => o.Bar is { } bar && o.Take.Exposure.Bars.Contains(bar)).ToList();
                    if (others.Count == 0) continue;
                    could++;
                    chance += 1 - others.Aggregate(1.0, (none, o) => none * (1 - withIt[o.Take.Id].Count / (double)o.Take.Bars));
                    if (!others.Any(o => withIt[o.Take.Id].Contains(o.Bar!.Value))) continue;
                    hits++;
                    places.Add($"{take.Title}: {(place.Section.Length > 0 ? place.Section : "")}{(place.Section.Length > 0 ? ", " : "")}"
                        + $"bar {place.Bar}");
                }
            if (could > 0) titles.Add(new(hits, could));
            (again, of) = (again + hits, of + could);
        }
        return Estimate.Share(titles) is { } share ? new(again, of, share, chance / of, [.. places.Distinct()]) : null;
    }

    /// <summary>The bar of another performance at the same place of its form; without a form the bar of the same number.</summary>
    private static int? SamePlaceIn(Performance other, Performance own, int bar)
    {
        if (own.Recording.Form.SectionOf(bar) is not { } section) return other.Recording.Form.Sections.Count == 0 ? bar : null;
        if (other.Recording.Form.Sections.Count == 0) return null;
        return other.Recording.Form.Sections.FirstOrDefault(s => s.Name == section.Name) is { } there
            && bar - section.FirstBar < there.Bars ? there.FirstBar + bar - section.FirstBar : null;
    }
}
