using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Hearing;

/// <summary>Why a proposal begins where it does.</summary>
public enum BeginsAt
{
    /// <summary>Only one place was known.</summary>
    AsTold,

    /// <summary>A bar line near by fits what is struck clearly better than the start that was told.</summary>
    ClearerBarLine,

    /// <summary>The clock time fits better than the bar line that is meant by it.</summary>
    ClockTime,

    /// <summary>The bar line fits better than the clock time that was typed.</summary>
    BarLine,
}

/// <summary>Some bars of a recording, as far as is known of them before anything in them is heard (sound.md, "A proposal").</summary>
/// <param name="Start">Where the first beat falls.</param>
/// <param name="Bar">Which bar of the recording that is; nothing where it is not known.</param>
/// <param name="Typed">The start that was typed, where the bar line taken for it lies elsewhere; nothing where they are one.</param>
public sealed record HeardStretch(ClockTime Start, int? Bar, Bpm Tempo, MeterCycle Meters, ClockTime? Typed = null)
{
    /// <summary>
    /// Once it was heard what is struck: at the bar line nearest to the start, where its first beat fits that clearly better (any two beats
    /// of one grid fit alike); else, where a typed start and its bar line are over 20 ms apart, at the one of both that fits better.
    /// </summary>
    /// <param name="meters">The recording's own.</param>
    public (HeardStretch Stretch, BeginsAt Why) Settled(IReadOnlyList<HeardStroke> strokes, RecordPace pace, BarGrid grid,
        MeterCycle meters, int bars)
    {
        double Fit(HeardStretch stretch) => Phase.Fit(strokes, pace.Laid(stretch, strokes, bars));
        var typed = IsDoubtful ? this with { Start = Typed!.Value } : this;
        var fitting = IsDoubtful && Fit(typed) >= Fit(this) ? typed : this;
        if (AtNearestLine(pace, grid, meters, bars) is { } line && Fit(line) > RecordPace.Clearly * Fit(fitting))
            return (line, BeginsAt.ClearerBarLine);
        return (fitting, !IsDoubtful ? BeginsAt.AsTold : fitting == typed ? BeginsAt.ClockTime : BeginsAt.BarLine);
    }

    /// <summary>At the bar line nearest to the start, by the marks or, where there are none, as it was heard; nothing where none is within
    /// half a bar of it.</summary>
    private HeardStretch? AtNearestLine(RecordPace pace, BarGrid grid, MeterCycle meters, int bars) =>
        pace.Map is not { } map ? AtLineOf(pace.Beats)
            : map.BarLineNear(Start, HalfABar) is { } line ? Of(map, grid, Tempo, meters, line.At, line.Bar, bars).Stretch : null;

    private HeardStretch? AtLineOf(IReadOnlyList<HeardBeat> beats)
    {
        int[] near = [.. Lines(beats).Where(line => Math.Abs(line - Start.Milliseconds) <= HalfABar.Milliseconds)
            .OrderBy(line => Math.Abs(line - Start.Milliseconds)).Take(1)];
        return near is [var line] ? this with { Start = new(line), Typed = null } : null;
    }

    private Seconds HalfABar => Tempo.SecondsOf(Meters.StartOf(1)) / 2;

    /// <summary>Bar lines in milliseconds.</summary>
    private static IEnumerable<int> Lines(IReadOnlyList<HeardBeat> beats) =>
        beats.Where(b => b.Bar).Select(b => (int)Math.Round(b.At.Milliseconds));

    /// <summary>What of the sound is asked about: its bars, and what lies right before and after them.</summary>
    public (Seconds From, Seconds To) Asked(int bars)
    {
        var start = Seconds.OfMilliseconds(Start.Milliseconds);
        return (start - new Seconds(1), start + Tempo.SecondsOf(Meters.StartOf(bars)) + new Seconds(1));
    }

    /// <summary>The typed start is worth a word.</summary>
    public bool IsDoubtful => Typed is { } typed && Math.Abs(typed.Milliseconds - Start.Milliseconds) > PassageClock.Doubtful.Milliseconds;

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
        var typed = start is { } told && told != from ? told : (ClockTime?)null;
        if (map is null || bar is not >= 1) return (new(from, bar, pace, meters, typed), false);
        Meter[] inForm = [.. Enumerable.Range(bar.Value, bars).Select(grid.MeterOf)];
        return (new(from, bar, pace, new MeterCycle([.. inForm.Distinct().Count() == 1 ? inForm.Take(1) : inForm]), typed), false);
    }

    /// <summary>Where nobody told a tempo or marked bars: the likeliest tempo that was heard, and the bar line nearest to a
    /// start.</summary>
    /// <param name="start">Nothing for the first bar line.</param>
    /// <param name="bar">Of the recording, from 1; taken as it is told.</param>
    /// <returns>Nothing where no tempo was heard, or neither start nor bar line is there; whether a bar line was taken for the start, which
    /// none is that lies over half a bar away.</returns>
    public static (HeardStretch Stretch, bool AtBarLine)? ByEar(IReadOnlyList<HeardBeat> beats, IReadOnlyList<SoundTempo> tempos,
        MeterCycle meters, ClockTime? start, int? bar)
    {
        if (tempos is not [var likeliest, ..] || likeliest.Quarters(meters) is not { } tempo) return null;
        if (start is { } typed)
        {
            var there = new HeardStretch(typed, bar, tempo, meters);
            return there.AtLineOf(beats) is { } near ? (near, true) : (there, false);
        }
        int[] first = [.. Lines(beats).Take(1)];
        return first is [var line] ? (new(new ClockTime(line), bar, tempo, meters), true) : null;
    }
}
