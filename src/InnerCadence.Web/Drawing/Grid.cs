using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <summary>The counts above a bar: the usual division of each beat, and every other place where something sounds.</summary>
internal static class Grid
{
    /// <summary>Places of one bar in order, as they are spoken in running count; empty where no count names the place.</summary>
    public static IReadOnlyList<(Tick InBar, string Count, bool OnBeat, bool Sounds)> Of(Passage passage, int bar)
    {
        var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
        var sounding = passage.Strokes.Where(s => s.At >= start && s.At < start + meter.Length).Select(s => s.At - start).ToHashSet();
        var places = new SortedSet<Tick>(sounding);
        for (var beat = 0; beat < meter.Counts; beat++)
        {
            var at = meter.Beat * beat;
            var inBeat = sounding.Where(t => t >= at && t < at + meter.Beat).Select(t => (t - at).Value).ToList();
            foreach (var division in Divisions(inBeat, meter.Beat.Value)) places.Add(at + new Tick(division));
        }
        return [.. places.Select(place =>
        {
            var (beat, past) = CountNames.Split(place, meter);
            var syllable = CountNames.Syllable(past, meter);
            return (place, past == Tick.Zero ? $"{beat}" : syllable == "&ta" ? "ta" : syllable ?? "", past == Tick.Zero,
                sounding.Contains(place));
        })];
    }

    private static IEnumerable<int> Divisions(List<int> sounding, int beat)
    {
        var parts = beat < Tick.PerQuarter ? 2 : 4;
        var isTriplet = sounding.Any(t => t % (beat / 3) == 0 && t > 0) && sounding.All(t => t % (beat / 3) == 0 || t * 6 % beat == 0);
        if (isTriplet) parts = sounding.Any(t => t % (beat / 3) != 0) ? 6 : 3;
        return Enumerable.Range(0, parts).Select(i => beat / parts * i);
    }
}
