using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Interchange;

/// <summary>Files of others hold places that no count, tuplet or lick leads to; a passage can hold only what can be written.</summary>
internal static class Placing
{
    /// <summary>Parts of a quarter that counts and tuplets name.</summary>
    private static readonly int[] Parts = [5, 6, 7, 8, 9, 10, 12, 14, 15, 16];

    /// <summary>Where the strokes go that nothing leads to: to the nearest place that a count names, the earlier of two as near.</summary>
    /// <param name="doubts">Says how many, and how far.</param>
    public static IReadOnlyDictionary<Tick, Tick> Moved(Passage passage, List<string> doubts)
    {
        var moved = passage.Strokes.Select(s => s.At).Distinct().Where(at => !CountWriter.Leads(passage, at))
            .ToDictionary(at => at, at => Nearest(passage, at));
        if (moved.Count > 0)
            doubts.Add(FormattableString.Invariant(
                $"No count leads to {moved.Count} of the places: they went to the nearest ones, by up to ")
                + FormattableString.Invariant(
                    $"{moved.Max(m => Math.Abs((m.Key - m.Value).Value)) / (double)Tick.PerQuarter:0.###} of a quarter."));
        return moved;
    }

    /// <summary>Of two strokes of one voice that meet at a place one is kept.</summary>
    public static Passage Onto(Passage passage, IReadOnlyDictionary<Tick, Tick> moved) =>
        passage with
        {
            Strokes = Passage.InOrder(passage.Strokes.Select(s => s with { At = moved.GetValueOrDefault(s.At, s.At) })
            .DistinctBy(s => (s.At, s.Voice)))
        };

    private static Tick Nearest(Passage passage, Tick at) => Parts
        .SelectMany(part => (int[])[at.Value * part / Tick.PerQuarter, at.Value * part / Tick.PerQuarter + 1], (part, n) =>
            new Tick(Tick.PerQuarter / part * n))
        .Where(t => t < passage.Length && CountWriter.Leads(passage, t)).Append(passage.Meters.StartOf(passage.Meters.Locate(at).Bar))
            .OrderBy(t => Math.Abs((t - at).Value)).ThenBy(t => t).First();
}
