using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>One confirmed appearance of an idea, and where it lies.</summary>
/// <param name="Sighting">By which it is opened; nothing where it was heard and not written down.</param>
/// <param name="Words">Where it is, for people: Kelp Road, bar 41, the e of 3.</param>
/// <param name="Bar">Of the recording, from 1; nothing where that is not known.</param>
/// <param name="Section">Name of the section; empty where nobody said.</param>
/// <param name="Place">Where in its bar it starts.</param>
/// <param name="SureWhoPlays">The player in question certainly drums here.</param>
public sealed record Appearance(long? Sighting, string Words, int? Bar, string Section, Meter? Meter, Tick? Place, bool BecauseHeard, bool SureWhoPlays)
{
    public string SectionKind => Sections.KindOf(Section);

    /// <summary>Which bar of a phrase of so many, from 1; phrases are counted from bar 1.</summary>
    public int? BarOfPhrase(int of) => Bar is { } bar ? (bar - 1) % of + 1 : null;
}

/// <summary>One recording as evidence about one idea: by what it can be divided, what was searched, what was found.</summary>
public sealed record Performance
{
    public required long Id { get; init; }
    public required string Name { get; init; }
    public required string Title { get; init; }
    public required long Player { get; init; }
    public string Kind { get; init; } = "";
    public string Ensemble { get; init; } = "";
    public PartialDate? Recorded { get; init; }
    public PartialDate? Issued { get; init; }
    /// <summary>As it is felt.</summary>
    public double? Tempo { get; init; }
    public double? Minutes { get; init; }
    /// <summary>It is certain who drums, as far as the whole recording goes.</summary>
    public bool SureWhoPlays { get; init; } = true;
    public required RecordingEvidence Evidence { get; init; }
    public IReadOnlyList<Appearance> Appearances { get; init; } = [];

    /// <summary>Confirmed, inside what was searched.</summary>
    public int Events => Evidence.Confirmed - Evidence.Outside;
    public int Bars => Evidence.Exposure;
    public bool IsSearched => Evidence.IsSearched(Answer.UsualShare);

    /// <summary>Events and searched bars of each title: its takes and repeats hang together.</summary>
    public static IReadOnlyList<TitleCount> ByTitle(IEnumerable<Performance> performances) =>
        [.. performances.GroupBy(p => p.Title).Select(g => new TitleCount(g.Sum(p => p.Events), g.Sum(p => p.Bars), g.Count(p => p.IsSearched && p.Events > 0), g.Count(p => p.IsSearched))).Where(t => t.Bars > 0)];
}

/// <summary>A bar that is written down, as evidence about the places it has.</summary>
/// <param name="Number">In its recording; nothing where that is not known.</param>
public sealed record WrittenBar(long Recording, string Title, int? Number, string Section)
{
    public string SectionKind => Sections.KindOf(Section);

    public int? BarOfPhrase(int of) => Number is { } bar ? (bar - 1) % of + 1 : null;
}

public static class Sections
{
    /// <summary>Verse 2 is a verse.</summary>
    public static string KindOf(string name) => name.Trim().TrimEnd('0', '1', '2', '3', '4', '5', '6', '7', '8', '9').Trim().ToLowerInvariant();
}
