using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>How closely something was searched.</summary>
public enum Closeness { Skimmed, Listened, Transcribed }

/// <summary>A stretch of a recording that was searched.</summary>
/// <param name="Id">By which a listener's statement names it.</param>
/// <param name="From">First bar, from 1; nothing where only an amount is known.</param>
/// <param name="Bars">How many bars.</param>
/// <param name="For">The ideas that were looked for; none for everything.</param>
public sealed record Search(long Id, Closeness Closeness, int? From, int Bars, ValueList<long> For, DateOnly On)
{
    public bool ForEverything => For.Count == 0;

    /// <summary>Its bars; an amount that is all of the recording has a place, a smaller one has none until somebody says it.</summary>
    /// <param name="total">Bars of the whole recording; nothing where it is not known.</param>
    public BarSet? PlacedIn(int? total) => From is { } from ? BarSet.Of(from, Bars) : total is { } all && Bars >= all ? BarSet.Of(1, all)
        : null;
}

/// <summary>A passage written down, as far as it adds to what was searched.</summary>
/// <param name="Section">As typed; empty where nobody said.</param>
/// <param name="BecauseHeard">It was written down because an idea was heard in it, so it adds nothing by itself.</param>
public sealed record WrittenBars(int? From, int Bars, bool BecauseHeard, string Section = "");

/// <summary>What a listener says of the time before an idea had its name: would it have been noticed?</summary>
public enum NoticedBefore { NotAsked, Asked, Everywhere, Somewhere, No }

/// <summary>An idea as far as exposure depends on it.</summary>
/// <param name="NamedOn">The day on which it got its name.</param>
/// <param name="NoticedIn">Of “somewhere”: the searches in which it would have been noticed.</param>
public sealed record NamedIdea(long Id, DateOnly NamedOn, NoticedBefore Noticed, ValueList<long> NoticedIn);

/// <summary>Which bars of one recording count as searched for one idea (evidence.md, "What is counted").</summary>
/// <param name="Bars">Those in every denominator.</param>
/// <param name="Unasked">Listened to for everything before the idea had its name, while nobody said whether it would have been noticed: in
/// no amount.</param>
/// <param name="NotPlaced">Searched bars of which nobody said where: in no amount.</param>
public sealed record Exposure(BarSet Bars, BarSet Unasked, int NotPlaced)
{
    /// <summary>Enough of a recording was searched for its silence to mean something.</summary>
    /// <param name="total">Bars of the whole recording; nothing where it is not known.</param>
    public static bool IsEnough(double searched, int? total, double share = Answer.UsualShare) =>
        total is > 0 and var all && searched >= all * share;

    public static Exposure Nothing { get; } = new(BarSet.Empty, BarSet.Empty, 0);

    /// <summary>
    /// Bars written down, and bars listened to for this idea or, since it was named, for everything; before it was named where the listener
    /// states that it would have been
    /// noticed. Only bars with a place count, each once.
    /// </summary>
    /// <param name="total">Bars of the whole recording; nothing where it is not known.</param>
    public static Exposure Of(int? total, NamedIdea idea, IReadOnlyCollection<Search> searches, IEnumerable<WrittenBars> written)
    {
        var counted = searches.Where(s => Counts(s, idea)).ToList();
        var bars = Laid(total, Written(written).Concat(Placed(total, counted)));
        var before = searches.Where(s => idea.Noticed is NoticedBefore.Asked or NoticedBefore.NotAsked && IsBefore(s, idea)).ToList();
        return new(bars, Laid(total, Placed(total, before)).Without(bars), NotPlacedIn(total, counted, bars));
    }

    /// <summary>Bars searched at all, whatever for; skimming finds nothing reliably.</summary>
    public static Exposure AtAll(int? total, IReadOnlyCollection<Search> searches, IEnumerable<WrittenBars> written) =>
        Any(total, searches, written, _ => true);

    /// <summary>Bars in which whatever was played would have been written down or noticed: what a passage written because an idea was heard
    /// needs, to be material like any other.</summary>
    public static Exposure ForEverything(int? total, IReadOnlyCollection<Search> searches, IEnumerable<WrittenBars> written) =>
        Any(total, searches, written, s => s.ForEverything);

    private static Exposure Any(int? total, IReadOnlyCollection<Search> searches, IEnumerable<WrittenBars> written, Func<Search,
        bool> which)
    {
        var counted = searches.Where(s => s.Closeness != Closeness.Skimmed && which(s)).ToList();
        var bars = Laid(total, Written(written).Concat(Placed(total, counted)));
        return new(bars, BarSet.Empty, NotPlacedIn(total, counted, bars));
    }

    /// <summary>Skimming finds nothing reliably; listening counts for what it was for, and for everything since the idea had a name or
    /// where it is stated.</summary>
    private static bool Counts(Search search, NamedIdea idea) => search.Closeness switch
    {
        Closeness.Skimmed => false,
        Closeness.Transcribed => true,
        _ => search.For.Contains(idea.Id) || (search.ForEverything && (search.On >= idea.NamedOn
            || idea.Noticed == NoticedBefore.Everywhere || (idea.Noticed == NoticedBefore.Somewhere
                && idea.NoticedIn.Contains(search.Id)))),
    };

    /// <summary>Listened to for everything before the idea had its name: what a listener is asked about.</summary>
    public static bool IsBefore(Search search, NamedIdea idea) => search is { Closeness: Closeness.Listened, ForEverything: true }
        && search.On < idea.NamedOn;

    private static IEnumerable<(int From, int Bars)> Written(IEnumerable<WrittenBars> written) =>
        written.Where(w => w is { BecauseHeard: false, From: not null }).Select(w => (w.From!.Value, w.Bars));

    private static IEnumerable<(int From, int Bars)> Placed(int? total, IEnumerable<Search> searches) =>
        searches.Select(s => s.PlacedIn(total)).OfType<BarSet>().SelectMany(b => b.Runs).Select(r => (r.From, r.To - r.From + 1));

    private static BarSet Laid(int? total, IEnumerable<(int From, int Bars)> spans) => BarSet.Of(spans) is var bars && total is { } last
        ? bars.UpTo(last) : bars;

    /// <summary>The largest amount without a place is taken to hold what is placed.</summary>
    private static int NotPlacedIn(int? total, IEnumerable<Search> counted, BarSet bars) =>
        Math.Max(0, counted.Where(s => s.PlacedIn(total) is null).Select(s => s.Bars).DefaultIfEmpty(0).Max() - bars.Count);
}
