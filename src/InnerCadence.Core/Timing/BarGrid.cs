using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>A place in a recording's bars. Bars count from 1; those before the first are 0, -1 and so on.</summary>
/// <param name="InBar">From the bar's start, in quarters.</param>
public readonly record struct BarPlace(int Bar, double InBar)
{
    public BarPlace(int bar, Tick inBar) : this(bar, (double)inBar.Value / Tick.PerQuarter) { }
}

/// <summary>The bars of a recording as they follow each other: usual meters in turn, with sections of others and pauses between.</summary>
public sealed class BarGrid
{
    private readonly MeterCycle usual;
    private readonly double[] starts;
    private readonly double[] pauses;

    /// <param name="usual">Meters in turn wherever a section says nothing else.</param>
    /// <param name="sections">From bar 1 on, without gaps.</param>
    public BarGrid(MeterCycle usual, IReadOnlyList<FormSection> sections)
    {
        this.usual = usual;
        var (bars, waits) = (new List<double> { 0 }, new List<double> { 0 });
        Meters = [.. sections.SelectMany(section => Enumerable.Range(0, section.Bars).Select(i => section.MeterOf(i)))];
        foreach (var meter in Meters) bars.Add(bars[^1] + Quarters(meter?.Length ?? usual.MeterOf(bars.Count - 1).Length));
        var wait = 0.0;
        foreach (var section in sections)
        {
            wait += section.PauseSeconds;
            waits.AddRange(Enumerable.Repeat(wait, section.Bars));
        }
        waits.Add(wait);
        (starts, pauses) = ([.. bars], [.. waits.Skip(1)]);
    }

    public BarGrid(MeterCycle usual) : this(usual, []) { }

    private IReadOnlyList<Meter?> Meters { get; }

    /// <summary>The last bar that a section describes.</summary>
    public int LastDescribed => Meters.Count;

    public Meter MeterOf(int bar) => (bar >= 1 && bar <= Meters.Count ? Meters[bar - 1] : null) ?? usual.MeterOf(bar - 1);

    /// <summary>Quarters from the start of bar 1 to the start of a bar.</summary>
    public double StartOf(int bar)
    {
        if (bar >= 1 && bar <= starts.Length) return starts[bar - 1];
        var (from, start) = bar < 1 ? (1, 0.0) : (starts.Length, starts[^1]);
        return start + Usual(bar - 1) - Usual(from - 1);
    }

    /// <summary>The count on which a place falls, from 1, with its part of a beat.</summary>
    public double CountOf(BarPlace place) => place.InBar * Tick.PerQuarter / MeterOf(place.Bar).Beat.Value + 1;

    public double QuartersTo(BarPlace place) => StartOf(place.Bar) + place.InBar;

    /// <summary>Seconds of pauses before the start of a bar.</summary>
    public double PausesBefore(int bar) => bar < 1 ? 0 : pauses[Math.Min(bar, pauses.Length) - 1];

    /// <summary>Quarters before a bar of the usual meters, from 0. Not in ticks: those end after some fifty thousand bars.</summary>
    private double Usual(int bar)
    {
        var (round, index) = (Math.Floor((double)bar / usual.Meters.Count),
            (bar % usual.Meters.Count + usual.Meters.Count) % usual.Meters.Count);
        return round * Quarters(usual.StartOf(usual.Meters.Count)) + Quarters(usual.StartOf(index));
    }

    private static double Quarters(Tick length) => (double)length.Value / Tick.PerQuarter;
}
