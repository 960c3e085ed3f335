using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Hearing;

/// <summary>Some bars of a recording, as far as is known of them before anything in them is heard (sound.md, "A proposal").</summary>
/// <param name="Start">Where the first beat falls.</param>
/// <param name="Bar">Which bar of the recording that is; nothing where it is not known.</param>
public sealed record HeardStretch(ClockTime Start, int? Bar, Bpm Tempo, MeterCycle Meters)
{
    /// <summary>
    /// Where bars are marked the tempo is that of the place, and a start within half a quarter of a bar line is that bar line; a bar that
    /// is known has the meter of the form.
    /// Else the recording's own tempo and meters hold.
    /// </summary>
    /// <param name="start">Nothing for the start of the bar, else of the first.</param>
    /// <param name="bar">Of the recording, from 1.</param>
    /// <returns>Nothing where neither start nor tempo is known, and which of them is missing.</returns>
    public static (HeardStretch? Stretch, bool NoStart) Of(TempoMap? map, BarGrid grid, Bpm? tempo, MeterCycle meters, ClockTime? start,
        int? bar, int bars)
    {
        var at = start ?? (bar is >= 1 and var b ? map?.ClockOf(b) : null) ?? map?.ClockOf(1);
        if (at is not { } from) return (null, true);
        if (map is not null) tempo = Bpm.Of(map.TempoAt(map.PlaceOf(from).Bar));
        if (tempo is not { } pace) return (null, false);
        if (map?.BarLineNear(from, pace.SecondsPerQuarter / 2) is { } line) (from, bar) = (line.At, line.Bar);
        if (map is null || bar is not >= 1) return (new(from, bar, pace, meters), false);
        Meter[] inForm = [.. Enumerable.Range(bar.Value, bars).Select(grid.MeterOf)];
        return (new(from, bar, pace, new MeterCycle([.. inForm.Distinct().Count() == 1 ? inForm.Take(1) : inForm])), false);
    }
}
