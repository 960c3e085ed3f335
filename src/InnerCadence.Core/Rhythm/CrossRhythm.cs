using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>So many strokes in the time of so many beats: 3:2.</summary>
public sealed record CrossRhythm(string Markers, int Strokes, int Beats)
{
    public string Ratio => $"{Strokes}:{Beats}";

    public override string ToString() => $"{Strokes} in the time of {Beats} beats";

    /// <summary>
    /// Of three or more equal gaps in a row, the last one round the join too, each ratio to the pulse that is a true cross-rhythm
    /// (rhythm.md). Where the
    /// pulses of the first bar are uneven the lower figure is the pulse.
    /// </summary>
    public static IReadOnlyList<CrossRhythm> Of(Passage passage)
    {
        if (passage.Bars == 0) return [];
        var meter = passage.Meters.MeterOf(0);
        var pulse = meter.Pulses.Distinct().Count() == 1 ? meter.Beat * meter.Pulses[0] : meter.Beat;
        return [.. Rhythm.Markers.Of(passage).SelectMany(m => Repeated(Grouping.Gaps(m.At, passage.Length)).Distinct()
            .Select(gap => Of(m.Name, gap, pulse.Value)).OfType<CrossRhythm>())];
    }

    private static CrossRhythm? Of(string name, int gap, int pulse)
    {
        var common = Common(gap, pulse);
        var (p, q) = (gap / common, pulse / common);
        return p == 1 || q == 1 ? null : new(name, q, p);
    }

    /// <summary>Gaps that come three times or more in a row, the row going round.</summary>
    private static IEnumerable<int> Repeated(IReadOnlyList<int> gaps)
    {
        if (gaps.Count < 3) yield break;
        for (var i = 0; i < gaps.Count; i++)
            if (gaps[i] == gaps[(i + 1) % gaps.Count] && gaps[i] == gaps[(i + 2) % gaps.Count]) yield return gaps[i];
    }

    private static int Common(int a, int b) => b == 0 ? a : Common(b, a % b);
}
