using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>A passage's bars as they lie on a clock: each lasts as long as it does there, and those beyond the known ones as long as the
/// last.</summary>
/// <remarks>sound.md, "A passage on its record". Within a bar the text's own tempos say how its time is shared out.</remarks>
public sealed class LaidBars
{
    private readonly IReadOnlyList<Seconds> lines;
    private readonly Passage passage;
    private readonly IReadOnlyList<TempoChange> tempos;

    /// <param name="lines">Two or more bar lines, each later than the one before.</param>
    public LaidBars(IReadOnlyList<Seconds> lines, Passage passage, IReadOnlyList<TempoChange>? tempos = null)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(lines.Count, 2);
        (this.lines, this.passage) = (lines, passage);
        this.tempos = tempos ?? (passage.Tempos is { Count: > 0 } said ? said : [new(Tick.Zero, Bpm.Usual)]);
    }

    /// <summary>From a first bar line on, each bar as long as the tempo has it.</summary>
    /// <param name="bars">One or more.</param>
    public static LaidBars AtEvenPace(Seconds from, Bpm tempo, MeterCycle meters, int bars) =>
        new([.. Enumerable.Range(0, bars + 1).Select(b => from + tempo.SecondsOf(meters.StartOf(b)))], new Passage(meters, bars, []));

    /// <summary>From the first bar line on, at the tempos the text names.</summary>
    /// <param name="otherwise">Where it names none.</param>
    public static LaidBars AtItsTempo(Passage passage, Bpm otherwise)
    {
        IReadOnlyList<TempoChange> tempos = passage.Tempos is { Count: > 0 } said ? said : [new(Tick.Zero, otherwise)];
        return new([.. Enumerable.Range(0, passage.Bars + 1).Select(b => TempoChange.SecondsTo(passage.Meters.StartOf(b), tempos))],
            passage, tempos);
    }

    /// <summary>Quarters a minute of each bar, from its line to the next.</summary>
    public IReadOnlyList<double> BarTempos => [.. Enumerable.Range(0, passage.Bars)
        .Select(b => 60.0 * passage.Meters.MeterOf(b).Length.Value / Tick.PerQuarter / (At(passage.Meters.StartOf(b
            + 1)) - At(passage.Meters.StartOf(b))))];

    /// <summary>Where a stroke lies that is so much later than its place, in ticks after it; before it below zero.</summary>
    public double TicksLate(Tick at, Seconds late) => TickAt(At(at) + late) - at.Value;

    /// <summary>Which say how the time within a bar is shared out.</summary>
    public IReadOnlyList<TempoChange> Tempos => tempos;

    public MeterCycle Meters => passage.Meters;
    public int Bars => passage.Bars;
    public Tick Length => passage.Length;

    /// <summary>Seconds of a quarter, over all bars.</summary>
    public Seconds PerQuarter => (End - Start) / ((double)Length.Value / Tick.PerQuarter);

    public Seconds Start => lines[0];
    public Seconds End => At(passage.Length);

    public Seconds At(Tick at)
    {
        var bar = Math.Clamp(passage.Meters.Locate(at < Tick.Zero ? Tick.Zero : at).Bar, 0, Math.Max(0, passage.Bars - 1));
        var (start, end) = Written(bar);
        var (from, length) = Heard(bar);
        return from + length * ((TempoChange.SecondsTo(at, tempos) - start) / (end - start));
    }

    /// <summary>The place of a time, in ticks and parts of them; before the first bar line it is below zero.</summary>
    public double TickAt(Seconds at)
    {
        var bar = 0;
        while (bar < passage.Bars - 1 && at >= Heard(bar + 1).From) bar++;
        var (start, end) = Written(bar);
        var (from, length) = Heard(bar);
        return TempoChange.QuartersAt(start + (end - start) * ((at - from) / length), tempos) * Tick.PerQuarter;
    }

    private (Seconds From, Seconds Length) Heard(int bar)
    {
        var last = lines.Count - 2;
        var length = lines[last + 1] - lines[last];
        return bar <= last ? (lines[bar], lines[bar + 1] - lines[bar]) : (lines[^1] + length * (bar - last - 1), length);
    }

    private (Seconds Start, Seconds End) Written(int bar) =>
        (TempoChange.SecondsTo(passage.Meters.StartOf(bar), tempos), TempoChange.SecondsTo(passage.Meters.StartOf(bar + 1), tempos));
}
