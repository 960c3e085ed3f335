using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>A named span of a recording.</summary>
/// <param name="Kind">What it is: verse, chorus, stop.</param>
/// <param name="Name">Kind and which one: verse 2.</param>
/// <param name="FirstBar">Its first bar, from 1.</param>
/// <param name="Bars">How many; none for a pause.</param>
public sealed record FormSection(string Kind, string Name, int FirstBar, int Bars)
{
    /// <summary>Meters in turn, where they are not the recording's.</summary>
    public MeterCycle? Meters { get; init; }
    /// <summary>A pause on the clock, before its bars.</summary>
    public Seconds PauseSeconds { get; init; }
    /// <summary>Where it starts on the clock, if that was written.</summary>
    public ClockTime? At { get; init; }

    public int LastBar => FirstBar + Bars - 1;

    public Meter? MeterOf(int index) => Meters?.MeterOf(index);
}
