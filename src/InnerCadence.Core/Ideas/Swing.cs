using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>Where written places sound under a swing feel (ideas.md, "Swing").</summary>
public static class Swing
{
    /// <summary>Off-beats between these shares count as the let of a triplet.</summary>
    private const double LetFrom = 0.60, LetTo = 0.72;

    /// <summary>Where a written place of the passage sounds; triplets and sextuplets are never warped, and only pulses of a quarter are.</summary>
    public static Tick Sounding(Tick at, Passage passage)
    {
        if (!passage.Feel.Swing) return at;
        var (bar, inBar) = passage.Meters.Locate(at);
        var meter = passage.Meters.MeterOf(bar);
        var pulse = meter.PulseStart(inBar);
        if (PulseLength(meter, pulse) != Tick.PerQuarter) return at;
        var inPulse = inBar - pulse;
        var unit = passage.Feel.SwingSixteenths ? Tick.PerQuarter / 2 : Tick.PerQuarter;
        var inUnit = inPulse.Value % unit;
        return inUnit * 2 == unit ? at + new Tick(OffBeat(passage.Feel, unit) - inUnit) : at;
    }

    private static int OffBeat(Feel feel, int unit)
    {
        var share = feel.SwingShare ?? Feel.UsualSwing;
        return share is >= LetFrom and <= LetTo ? unit * 2 / 3 : (int)Math.Round(unit * share);
    }

    private static int PulseLength(Meter meter, Tick start)
    {
        var at = Tick.Zero;
        foreach (var counts in meter.Pulses)
        {
            if (at == start) return (meter.Beat * counts).Value;
            at += meter.Beat * counts;
        }
        return 0;
    }
}
