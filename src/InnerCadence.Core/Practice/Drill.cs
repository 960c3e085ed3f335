namespace InnerCadence.Core.Practice;

/// <summary>Rounds of a figure in which it drops out, so that coming back is practised (rhythm.md, "Re-entry"), or is traded with bars of
/// one's own.</summary>
/// <param name="Sounds">The figure is heard in this round; else only the click is.</param>
public sealed record DrillRound(int Number, bool Sounds);

public static class Drills
{
    /// <summary>So many rounds with the figure, then so many without, over and over; with a seed the figure drops out at random instead,
    /// never in the first round nor longer than said.</summary>
    public static IReadOnlyList<DrillRound> Of(int rounds, int with, int without, int? seed = null)
    {
        if (seed is not { } s) return [.. Enumerable.Range(0, rounds).Select(i => new DrillRound(i + 1, i % (with + without) < with))];
        var random = new Random(s);
        var (list, silent) = (new List<DrillRound>(), 0);
        for (var i = 0; i < rounds; i++)
        {
            var sounds = i == 0 || silent >= without || random.Next(with + without) < with;
            silent = sounds ? 0 : silent + 1;
            list.Add(new(i + 1, sounds));
        }
        return list;
    }
}
