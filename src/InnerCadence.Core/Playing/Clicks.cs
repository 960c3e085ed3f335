using InnerCadence.Core.Music;

namespace InnerCadence.Core.Playing;

/// <summary>One click.</summary>
/// <param name="At">From the start of bar 1.</param>
/// <param name="First">On the first count of its bar.</param>
public readonly record struct Click(Seconds At, bool First);

/// <summary>When the pulse of bars is clicked: as a meter says its pulse, on whole, half or double beats as the feel says.</summary>
public static class Clicks
{
    /// <summary>The clicks of the passage's bars.</summary>
    /// <param name="seconds">From the start of the passage to a tick of it.</param>
    public static IReadOnlyList<Click> Of(Passage passage, Func<Tick, Seconds> seconds) =>
        [.. Enumerable.Range(0, passage.Bars).SelectMany(bar =>
            OfBar(passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar), passage.Feel, seconds))];

    /// <summary>One bar of the first meter before the passage, then so many bars of it.</summary>
    public static IReadOnlyList<Click> CountedIn(Passage passage, int bars, Bpm otherwise)
    {
        var tempos = passage.Tempos is { Count: > 0 } said ? said : [new(Tick.Zero, otherwise)];
        Seconds Seconds(Tick at) => TempoChange.SecondsTo(at, tempos);
        var meter = passage.Meters.MeterOf(0);
        return [.. OfBar(Tick.Zero - meter.Length, meter, passage.Feel, Seconds), .. Of(passage with { Bars = bars }, Seconds)];
    }

    private static IEnumerable<Click> OfBar(Tick start, Meter meter, Feel feel, Func<Tick, Seconds> seconds)
    {
        var (at, index) = (start, 0);
        foreach (var length in meter.Pulses.Select(counts => meter.Beat * counts))
        {
            // Half-time feel is felt on every other beat, double-time on every half.
            if (feel.Time != FeelTime.Half || index % 2 == 0) yield return new(seconds(at), index == 0);
            if (feel.Time == FeelTime.Double) yield return new(seconds(at + new Tick(length.Value / 2)), false);
            (at, index) = (at + length, index + 1);
        }
    }
}
