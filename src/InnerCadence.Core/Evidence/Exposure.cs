namespace InnerCadence.Core.Evidence;

/// <summary>How closely something was searched.</summary>
public enum Closeness { Skimmed, Listened, Transcribed }

/// <summary>A stretch of a recording that was searched.</summary>
/// <param name="From">First bar, from 1; nothing where only an amount is known.</param>
/// <param name="Bars">How many bars.</param>
/// <param name="ForEverything">Whatever was noticed counts; otherwise only the ideas named in the coverage.</param>
/// <param name="ForThisIdea">The coverage names the idea in question.</param>
public sealed record Search(Closeness Closeness, int? From, int Bars, bool ForEverything, bool ForThisIdea, DateOnly On);

/// <summary>A passage written down, as far as it adds to what was searched.</summary>
/// <param name="BecauseHeard">It was written down because an idea was heard in it, so it adds nothing by itself.</param>
public sealed record WrittenBars(int? From, int Bars, bool BecauseHeard);

/// <summary>How many bars of one recording count as searched for one idea (evidence.md, "What is counted").</summary>
public static class Exposure
{
    /// <summary>
    /// Bars written down, and bars listened to for this idea or, since it was named, for everything. Bars whose place is known are
    /// counted once; an amount whose place is not known is taken to hold the known ones, so the larger of the two counts, never their sum.
    /// </summary>
    /// <param name="total">Bars of the whole recording; nothing where it is not known.</param>
    /// <param name="named">The day on which the idea got its name.</param>
    public static int Bars(int? total, DateOnly named, IEnumerable<Search> searches, IEnumerable<WrittenBars> written)
    {
        var placed = new HashSet<int>();
        var (unplaced, amount) = (0, 0);
        foreach (var passage in written.Where(w => !w.BecauseHeard))
        {
            if (passage.From is { } from) placed.UnionWith(Enumerable.Range(from, passage.Bars));
            else unplaced += passage.Bars;
        }
        foreach (var search in searches.Where(s => Counts(s, named)))
        {
            if (search.From is { } from) placed.UnionWith(Enumerable.Range(from, search.Bars));
            else amount = Math.Max(amount, search.Bars);
        }
        var bars = Math.Max(placed.Count + unplaced, amount);
        return total is { } all ? Math.Min(bars, all) : bars;
    }

    /// <summary>Skimming finds nothing reliably; listening counts for what it was for, and for everything only since the idea had a name.</summary>
    public static bool Counts(Search search, DateOnly named) => search.Closeness switch
    {
        Closeness.Skimmed => false,
        Closeness.Transcribed => true,
        _ => search.ForThisIdea || (search.ForEverything && search.On >= named),
    };
}
