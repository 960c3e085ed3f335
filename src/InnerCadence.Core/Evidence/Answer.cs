using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>How often an idea appears: in how many recordings, and how often per 100 bars, with the intervals by titles.</summary>
public sealed record Answer
{
    /// <summary>Share of a recording that must have been searched for it to count, unless the researcher sets another.</summary>
    public const double UsualShare = 0.5;

    /// <summary>With fewer searched recordings every number is a first hint.</summary>
    public const int FewestRecordings = 5;

    /// <summary>Recordings with it, of <see cref="Searched"/> that count as searched.</summary>
    public required int Found { get; init; }
    public required int Searched { get; init; }
    /// <summary>Confirmed places in <see cref="Bars"/> searched.</summary>
    public required int Events { get; init; }
    public required int Occasions { get; init; }
    public required int Bars { get; init; }
    /// <summary>Confirmed places outside what was searched.</summary>
    public required int Outside { get; init; }
    public required int NearMisses { get; init; }
    public required int Waiting { get; init; }
    /// <summary>Titles of a player with searched bars.</summary>
    public required ValueList<TitleCount> Titles { get; init; }
    /// <summary>Searched bars of which nobody said where: in no number.</summary>
    public required int NotPlaced { get; init; }
    /// <summary>Bars listened to before the idea had its name, while nobody said whether it would have been noticed.</summary>
    public required int Unasked { get; init; }

    public Estimate? Presence { get; private init; }
    public Estimate? Rate { get; private init; }
    public Estimate? OccasionRate { get; private init; }

    public int Confirmed => Events + Outside;
    public bool FewRecordings => Searched < FewestRecordings;
    public bool FewBars => Bars < 50;
    public bool IsFew => FewRecordings || FewBars;

    /// <param name="share">Of its bars that make a recording count as searched.</param>
    public static Answer Of(IEnumerable<Performance> performances, double share = UsualShare)
    {
        var all = performances.ToList();
        var titles = Performance.ByTitle(all);
        var searched = all.Where(p => p.IsSearchedBy(share)).ToList();
        return new()
        {
            Found = searched.Count(p => p.Events > 0),
            Searched = searched.Count,
            Events = all.Sum(p => p.Events),
            Occasions = all.Sum(p => p.Occasions),
            Bars = all.Sum(p => p.Bars),
            Outside = all.Sum(p => p.Outside),
            NearMisses = all.Sum(p => p.NearMisses),
            Waiting = all.Sum(p => p.Waiting),
            NotPlaced = all.Sum(p => p.Exposure.NotPlaced),
            Unasked = all.Sum(p => p.Exposure.Unasked.Count),
            Titles = [.. titles],
            Rate = Estimate.Rate(titles.Select(t => t.Rate)),
            OccasionRate = Estimate.Rate(titles.Select(t => t.OccasionRate)),
            Presence = Estimate.Share(searched.GroupBy(p => (p.Player, p.Title))
                .Select(g => new TitleAmount(g.Count(p => p.Events > 0), g.Count()))),
        };
    }

    /// <summary>Events and minutes searched, of the recordings whose length is known; nothing where none is.</summary>
    public static (int Events, double Minutes, Estimate PerMinute)? InMinutes(IEnumerable<Performance> performances)
    {
        var timed = performances.Where(p => p is { Bars: > 0, Minutes: not null, Recording.TotalBars: > 0 }).ToList();
        double Of(Performance p) => p.Minutes!.Value * Math.Min(1, p.Bars / (double)p.Recording.TotalBars!.Value);
        return Estimate.Rate(timed.GroupBy(p => (p.Player, p.Title))
            .Select(g => new TitleAmount(g.Sum(p => p.Events), g.Sum(Of)))) is { } rate ? (timed.Sum(p => p.Events), timed.Sum(Of), rate)
            : null;
    }
}

/// <summary>Adjacent places of one idea in one stretch are one decision of the player's.</summary>
public static class Occasions
{
    /// <summary>Counted places, joined where the next starts within one bar of the last one's end, also over two passages that adjoin. Each
    /// as its first place.</summary>
    public static IReadOnlyList<Appearance> Of(Performance performance)
    {
        var occasions = new List<Appearance>();
        var end = double.NegativeInfinity;
        foreach (var place in performance.Counted.Where(a => a.Start is not null).OrderBy(a => a.Start))
        {
            if (place.Start > end + performance.BarAt(place) + 1e-9) occasions.Add(place);
            end = Math.Max(end, place.End ?? place.Start!.Value);
        }
        // Of what has no place in the bars nothing says that it adjoins anything, except within one bar.
        var bars = performance.Counted.Where(a => a is { Start: not null, Bar: not null }).Select(a => a.Bar!.Value).ToHashSet();
        foreach (var heard in performance.Counted.Where(a => a.Start is null))
            if (heard.Bar is not { } bar || bars.Add(bar)) occasions.Add(heard);
        return occasions;
    }
}
