using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>One place where an idea appears, confirmed by a person: however many entries show it, it is one.</summary>
/// <param name="Sighting">By which it is opened; nothing where it was heard and not written down.</param>
/// <param name="Heard">The entry made by hand that shows it; nothing where there is none.</param>
/// <param name="Words">Where it is, for people: Kelp Road, bar 41 on the e of 3.</param>
/// <param name="Bar">Of the recording, from 1; nothing where that is not known.</param>
/// <param name="Section">Name of the section; empty where nobody said.</param>
/// <param name="Place">Where in its bar it starts; nothing where only the bar was heard.</param>
/// <param name="Counts">Its bar was searched: it is in every number. Else it is shown as outside, and in none.</param>
/// <param name="SureWhoPlays">The player in question certainly drums here.</param>
public sealed record Appearance(long? Sighting, long? Heard, string Words, int? Bar, string Section, Meter? Meter, Tick? Place,
    bool Counts, bool SureWhoPlays)
{
    /// <summary>It rests on strokes that are marked unsure.</summary>
    public bool Unsure { get; init; }
    public bool PartlyUnheard { get; init; }
    /// <summary>Further entries that show the same place.</summary>
    public ValueList<(long? Sighting, long? Heard)> Also { get; init; } = [];
    /// <summary>Quarters from the start of bar 1; nothing where its bar is not known.</summary>
    public double? Start { get; init; }
    public double? End { get; init; }
    /// <summary>Where it was found; nothing where it was heard.</summary>
    public long? Reading { get; init; }

    public string SectionKind => Sections.KindOf(Section);

    /// <summary>Which bar of a phrase of so many, from 1; phrases are counted from bar 1.</summary>
    public int? BarOfPhrase(int of) => Bar is { } bar ? Sections.BarOfPhrase(bar, of) : null;

    /// <summary>The beat in which it starts, from 1.</summary>
    public int? Beat => Place is { } place && Meter is { } meter ? place.Value / meter.Beat.Value + 1 : null;

    internal static Appearance Of(IReadOnlyList<Spot> group, RecordingFacts recording, Exposure exposure)
    {
        var first = group.FirstOrDefault(s => s.InBar is not null) ?? group[0];
        var bar = first.Bar ?? group.Select(s => s.Bar).FirstOrDefault(b => b is not null);
        var all = recording.TotalBars is { } total && exposure.Bars.Count >= total;
        var counts = all || group.Any(s => s.Bar is { } b && exposure.Bars.Contains(b));
        var found = group.FirstOrDefault(s => s.Found is not null)?.Found;
        var section = recording.SectionOf(bar) is { Length: > 0 } said ? said : found?.Section ?? "";
        return new(found?.Id, group.FirstOrDefault(s => s.Heard is not null)?.Heard?.Id, WordsOf(first, recording), bar, section,
            first.Meter, first.InBar, counts, recording.SureWhoPlaysAt(bar))
        {
            Unsure = found?.Unsure ?? false,
            PartlyUnheard = found?.PartlyUnheard ?? false,
            Also = [.. group.Where(s => s.Found is not null ? s.Found.Id != found?.Id
                : s.Heard!.Id != group.First(x => x.Heard is not null).Heard!.Id || found is not null)
                .Select(s => (s.Found?.Id, s.Heard?.Id))],
            Start = first.Start,
            End = first.End,
            Reading = found?.Reading,
        };
    }

    private static string WordsOf(Spot spot, RecordingFacts recording) => spot.Found is null
        ? $"{recording.Name}{(spot.Bar is { } heard ? $", bar {heard}" : "")}{(spot.Heard!.At is { } at ? $", {at}" : "")}, heard"
        : $"{recording.Name}, "
            + $"{(spot.Bar is { } bar ? $"bar {bar}" : $"bar {spot.Found.Meters.Locate(spot.Found.Start).Bar + 1} of a passage")} on "
            + $"{CountNames.Spoken(spot.InBar!.Value, spot.Meter!)}";
}

/// <summary>One recording as evidence about one idea: by what it can be divided, what was searched, what was found.</summary>
public sealed record Performance
{
    public required RecordingFacts Recording { get; init; }
    public Exposure Exposure { get; init; } = Exposure.Nothing;
    /// <summary>Confirmed places, each once, in the order of the recording.</summary>
    public ValueList<Appearance> Appearances { get; init; } = [];
    /// <summary>Places that were judged near misses, each once.</summary>
    public ValueList<Appearance> Near { get; init; } = [];
    /// <summary>Waits for judgement; what was confirmed and is no longer found waits too.</summary>
    public int Waiting { get; init; }

    public long Id => Recording.Id;
    public string Name => Recording.Name;
    public string Title => Recording.Title;
    public long Player => Recording.Player;
    public RecordingKind Kind => Recording.Kind;
    public string Ensemble => Recording.Ensemble;
    public PartialDate? Recorded => Recording.Recorded;
    public PartialDate? Issued => Recording.Issued;
    public double? Tempo => Recording.Tempo;
    public double? Minutes => Recording.Minutes;

    /// <summary>What every number counts: confirmed places in searched bars.</summary>
    public IEnumerable<Appearance> Counted => Appearances.Where(a => a.Counts);
    public int Events => Appearances.Count(a => a.Counts);
    public int Bars => Exposure.Bars.Count;
    public int Confirmed => Appearances.Count;
    public int NearMisses => Near.Count;
    public int Outside => Appearances.Count(a => !a.Counts);

    /// <summary>Counted places, those within a bar of one another in one stretch once: a groove kept up is one decision.</summary>
    public int Occasions => Core.Evidence.Occasions.Of(this).Count;

    /// <summary>Quarters of the bar in which a place is.</summary>
    internal double BarAt(Appearance place) => Recording.Grid.MeterOf(place.Bar ?? 1).Length.Value / (double)Tick.PerQuarter;

    /// <summary>Enough of the recording was searched for its silence to mean something.</summary>
    public bool IsSearched => IsSearchedBy(Answer.UsualShare);
    public bool IsSearchedBy(double share) => Exposure.IsEnough(Bars, Recording.TotalBars, share);

    /// <summary>With it, in what was searched far enough to count.</summary>
    public bool HasIt => IsSearched && Events > 0;

    /// <summary>In 100 bars, of this recording by itself.</summary>
    public Interval? Rate => Estimates.Rate(Events, Bars);

    public RecordingEvidence Evidence => new(Recording.TotalBars, Bars, Confirmed, Occasions, NearMisses, Waiting, Outside);

    /// <summary>Events and searched bars of each title of each player: its takes and repeats hang together.</summary>
    public static IReadOnlyList<TitleCount> ByTitle(IEnumerable<Performance> performances) =>
        [.. performances.Where(p => p.Bars > 0).GroupBy(p => (p.Player, p.Title)).Select(g => new TitleCount(
            g.Key.Title, g.Sum(p => p.Events), g.Sum(p => p.Bars), g.Count(p => p.HasIt), g.Count(p => p.IsSearched),
                g.Sum(p => p.Occasions)))];
}

/// <summary>What one title says about an idea.</summary>
/// <param name="Found">Recordings with it, of <paramref name="Searched"/> that count as searched.</param>
public readonly record struct TitleCount(string Title, int Events, double Bars, int Found, int Searched, int Occasions = 0)
{
    public TitleAmount Rate => new(Events, Bars);
    public TitleAmount OccasionRate => new(Occasions, Bars);
    public TitleAmount Presence => new(Found, Searched);
}

/// <summary>Numbers of one recording and one idea, as tables tell them.</summary>
/// <param name="TotalBars">Nothing where it is not known.</param>
/// <param name="Exposure">Bars searched for this idea.</param>
/// <param name="Confirmed">Confirmed places, each once.</param>
/// <param name="Occasions">Of those in searched bars, adjacent ones counted once.</param>
/// <param name="Outside">Confirmed places outside what was searched: shown, and in no rate.</param>
public sealed record RecordingEvidence(int? TotalBars, int Exposure, int Confirmed, int Occasions, int NearMisses, int Waiting,
    int Outside);

public static class Sections
{
    /// <summary>Verse 2 is a verse.</summary>
    public static string KindOf(string name) => name.Trim().TrimEnd('0', '1', '2', '3', '4', '5', '6', '7', '8', '9').Trim()
        .ToLowerInvariant();

    /// <summary>Which bar of a phrase of so many, from 1; phrases are counted from bar 1.</summary>
    public static int BarOfPhrase(int bar, int of) => (bar - 1) % of + 1;
}
