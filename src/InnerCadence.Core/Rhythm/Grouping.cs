using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>A cycle divided by markers: 7+4+5 eighths in 2 bars of 4/4.</summary>
/// <param name="Groups">Lengths in the unit, from the first marker on, the last one round to the first marker of the next time.</param>
/// <param name="Unit">The coarsest that divides every length; nothing where none does.</param>
/// <param name="Bars">After how many bars the groups start over.</param>
/// <param name="Starts">The markers of one time, in ticks.</param>
/// <param name="CrossesBarLine">A group straddles a bar line.</param>
public sealed record Grouping(string Markers, ValueList<int> Groups, string Unit, int Bars, ValueList<Tick> Starts,
    bool CrossesBarLine)
{
    private static readonly (string Name, int Ticks)[] Units =
        [("8ths", 5040), ("8t", 3360), ("16ths", 2520), ("16t", 1680), ("32nds", 1260), ("32t", 840)];

    /// <summary>7+4+5 eighths</summary>
    public override string ToString() => $"{string.Join('+', Groups)} {UnitWords}";

    private string UnitWords => Unit switch
    {
        "8ths" => "eighths",
        "8t" => "eighth triplets",
        "16ths" => "sixteenths",
        "16t" =>
        "sixteenth triplets",
        "32nds" => "thirty-seconds",
        _ => "thirty-second triplets"
    };

    /// <summary>Group lengths between successive markers of a cycle; nothing where no usual unit divides every gap.</summary>
    /// <param name="markers">In order, at least one, all before <paramref name="cycle"/>.</param>
    public static (ValueList<int> Groups, string Unit)? Lengths(IReadOnlyList<Tick> markers, Tick cycle)
    {
        var gaps = Gaps(markers, cycle);
        foreach (var (name, ticks) in Units)
            if (gaps.All(g => g % ticks == 0)) return ([.. gaps.Select(g => g / ticks)], name);
        return null;
    }

    /// <summary>What each of a passage's markers makes of it (rhythm.md, "Grouping"). A line with a gap over half the cycle is left
    /// out.</summary>
    public static IReadOnlyList<Grouping> Of(Passage passage) =>
        passage.Bars == 0 ? [] : [.. Rhythm.Markers.Of(passage).Select(m => Of(passage, m)).OfType<Grouping>()];

    /// <summary>Nothing where a gap is over half the cycle or no usual unit divides every gap.</summary>
    public static Grouping? Of(Passage passage, Markers markers)
    {
        if (markers.At.Count == 0 || Gaps(markers.At, passage.Length).Any(g => g * 2 > passage.Length.Value)) return null;
        var bars = Period(passage, markers.At);
        var length = passage.Meters.StartOf(bars);
        ValueList<Tick> once = [.. markers.At.Where(at => at < length)];
        if (once.Count == 0 || Lengths(once, length) is not { } lengths) return null;
        return new(markers.Name, lengths.Groups, lengths.Unit, bars, once, CrossesBar(passage, once, length));
    }

    /// <summary>The one to begin with: not all groups alike, at least not a marker on every unit, which groups nothing; in the fewest
    /// groups, the fewest bars, the coarsest unit; the earlier of equals.</summary>
    public static Grouping? Plainest(IReadOnlyList<Grouping> groupings) => groupings
        .OrderBy(g => g.Groups.Distinct().Count() > 1 ? 0 : g.Groups.Any(n => n > 1) ? 1 : 2).ThenBy(g => g.Groups.Count)
            .ThenBy(g => g.Bars).ThenBy(g => Array.FindIndex(Units, u => u.Name == g.Unit)).FirstOrDefault();

    /// <summary>The fewest bars after which meters and markers are as they were.</summary>
    private static int Period(Passage passage, ValueList<Tick> markers)
    {
        var set = markers.ToHashSet();
        for (var bars = 1; bars < passage.Bars; bars++)
        {
            if (passage.Bars % bars != 0) continue;
            if (!Enumerable.Range(0, passage.Bars - bars)
                .All(b => passage.Meters.MeterOf(b).Equals(passage.Meters.MeterOf(b + bars)))) continue;
            var shift = passage.Meters.StartOf(bars);
            if (markers.All(at => set.Contains(at + shift < passage.Length ? at + shift : at + shift - passage.Length))) return bars;
        }
        return passage.Bars;
    }

    private static bool CrossesBar(Passage passage, ValueList<Tick> starts, Tick length)
    {
        for (var i = 0; i < starts.Count; i++)
        {
            var end = i + 1 < starts.Count ? starts[i + 1] : starts[0] + length;
            var next = passage.Meters.StartOf(passage.Meters.Locate(starts[i]).Bar + 1);
            if (next < end) return true;
        }
        return false;
    }

    internal static IReadOnlyList<int> Gaps(IReadOnlyList<Tick> markers, Tick cycle) =>
        [.. markers.Select((at, i) => i + 1 < markers.Count ? (markers[i + 1] - at).Value : (cycle - at + markers[0]).Value)];
}
