using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Storage.Passages;

/// <summary>A passage in the list of all, with everything by which it is found again.</summary>
/// <param name="Ideas">Numbers of the ideas that were found in it and not refused.</param>
public sealed record ListedPassage(WrittenPassage Row, PassageFacts Facts, int Found, int Waiting, IReadOnlySet<long> Ideas)
{
    public ClockTime? StartsAt => Facts.StartsAtMs is { } ms ? new(ms) : null;
    public double? Tempo => Row.Passage.Tempo?.Value ?? Row.RecordingTempo;

    /// <summary>It is read in more than one way, or the preferred one is a guess.</summary>
    public bool InDoubt => Facts.Readings > 1 || Facts.Confidence == PassageDraft.Confidences[^1];

    public bool Has(Habit habit) => WrittenPassages.TraitsOf(Row.Text) is { } traits && habit.Has(Row.Passage, traits) == true;
}

/// <param name="Confidence">Of the preferred reading.</param>
public readonly record struct PassageFacts(int? StartsAtMs, int Readings, string Confidence, bool HasSound);

/// <summary>One way in which passages are told apart in their list.</summary>
/// <param name="Word">In the address.</param>
/// <param name="Says">Before its choices.</param>
/// <param name="Of">Which of its values a passage has.</param>
/// <param name="Several">More than one can be asked for: then a passage has all of them.</param>
public sealed record PassageFacet(string Word, string Says, Func<ListedPassage, IEnumerable<string>> Of, bool Several = false)
{
    public const string HandsUnknown = "hands-unknown", InDoubt = "doubt", Sound = "sound", Waiting = "waiting";

    public static IReadOnlyList<PassageFacet> All { get; } =
    [
        new("kind", "Kind", p => [p.Row.Kind.Word]),
        new("player", "Drums", p => [p.Row.PlayerId.ToString()]),
        new("section", "Section", p => p.Row.Section.Length > 0 ? [p.Row.Section.ToLowerInvariant()] : []),
        new("meter", "Meter", p => [p.Row.Passage.Meters.ToString()]),
        new("tempo", "Tempo", p => Division.BandOf(p.Tempo) is { } band ? [band] : []),
        new("idea", "Idea", p => p.Ideas.Select(i => i.ToString(CultureInfo.InvariantCulture))),
        new("trait", "Trait", p => Habit.All.Where(p.Has).Select(h => h.Word)),
        new("with", "With", p => new[] { (HandsUnknown, p.Row.Passage.HasUnknownHands), (InDoubt, p.InDoubt), (Sound, p.Facts.HasSound),
            (Waiting, p.Waiting > 0) }.Where(x => x.Item2).Select(x => x.Item1), Several: true),
    ];
}

/// <summary>What of a list of passages is shown.</summary>
/// <param name="Asked">By the word of a facet.</param>
/// <param name="Text">Part of the recording's name, in any case.</param>
public sealed record PassageFilter(IReadOnlyDictionary<string, IReadOnlyList<string>> Asked, string Text, string Sort, bool Descending)
{
    public static readonly IReadOnlyList<string> Sorts = ["recorded", "recording", "tempo", "bars", "found", "waiting"];

    public bool IsOpen => Asked.Values.All(v => v.Count == 0) && Text.Length == 0;

    public bool Asks(PassageFacet facet, string value) => Asked.GetValueOrDefault(facet.Word)?.Contains(value) == true;

    private bool Takes(ListedPassage passage, PassageFacet? but) => (Text.Length == 0
        || passage.Row.RecordingName.Contains(Text, StringComparison.OrdinalIgnoreCase))
        && PassageFacet.All.Where(f => f != but).All(f => Asked.GetValueOrDefault(f.Word) is not { Count: > 0 } asked
            || asked.All(f.Of(passage).Contains));

    /// <summary>In the order that is asked for; where it leaves them equal, by date and place.</summary>
    public IReadOnlyList<ListedPassage> Of(IReadOnlyList<ListedPassage> all)
    {
        var taken = all.Where(p => Takes(p, null));
        IEnumerable<ListedPassage> By<T>(Func<ListedPassage, T> of) => Descending ? taken.OrderByDescending(of) : taken.OrderBy(of);
        return [.. Sort switch
        {
            "recording" => By(p => p.Row.RecordingName.ToLowerInvariant()),
            "tempo" => By(p => p.Tempo ?? 0),
            "bars" => By(p => p.Row.Passage.Bars),
            "found" => By(p => p.Found),
            "waiting" => By(p => p.Waiting),
            _ => Descending ? taken.Reverse() : taken,
        }];
    }

    /// <summary>How many would be shown with each value of a facet, all else as it is asked.</summary>
    public IReadOnlyDictionary<string, int> Counts(PassageFacet facet, IReadOnlyList<ListedPassage> all)
    {
        // What can be asked for together narrows what is shown already.
        var taken = all.Where(p => Takes(p, facet.Several ? null : facet));
        return taken.SelectMany(p => facet.Of(p).Distinct()).GroupBy(v => v).ToDictionary(g => g.Key, g => g.Count());
    }
}
