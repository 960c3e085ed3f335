using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <summary>The counts above a bar: the usual division of each beat, and every other place where something sounds.</summary>
internal static class Grid
{
    /// <summary>Places of one bar in order, as they are spoken in running count; empty where no count names the place.</summary>
    /// <param name="divided">In how many parts a beat, from 0, is shown; nothing for as many as it sounds in.</param>
    public static IReadOnlyList<(Tick InBar, string Count, bool OnBeat, bool Sounds)> Of(Passage passage, int bar,
        Func<int, int?>? divided = null)
    {
        var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
        var sounding = passage.Strokes.Where(s => s.At >= start && s.At < start + meter.Length).Select(s => s.At - start).ToHashSet();
        var places = new SortedSet<Tick>(sounding);
        for (var beat = 0; beat < meter.Counts; beat++)
        {
            var at = meter.Beat * beat;
            var parts = divided?.Invoke(beat) ?? PartsOf(passage, bar, beat);
            for (var part = 0; part < parts; part++) places.Add(at + new Tick(meter.Beat.Value / parts * part));
        }
        return [.. places.Select(place =>
        {
            var (beat, past) = CountNames.Split(place, meter);
            var syllable = CountNames.Syllable(past, meter);
            return (place, past == Tick.Zero ? $"{beat}" : syllable == "&ta" ? "ta" : syllable ?? "", past == Tick.Zero,
                sounding.Contains(place));
        })];
    }

    /// <summary>In how many parts a beat, from 0, sounds: 4 or 2, or 3 or 6 of a triplet.</summary>
    public static int PartsOf(Passage passage, int bar, int beat)
    {
        var meter = passage.Meters.MeterOf(bar);
        var (from, length) = (passage.Meters.StartOf(bar) + meter.Beat * beat, meter.Beat.Value);
        var sounding = passage.Strokes.Where(s => s.At >= from && s.At < from + meter.Beat).Select(s => (s.At - from).Value).ToList();
        var isTriplet = sounding.Any(t => t % (length / 3) == 0 && t > 0)
            && sounding.All(t => t % (length / 3) == 0 || t * 6 % length == 0);
        return !isTriplet ? length < Tick.PerQuarter ? 2 : 4 : sounding.Any(t => t % (length / 3) != 0) ? 6 : 3;
    }
}
