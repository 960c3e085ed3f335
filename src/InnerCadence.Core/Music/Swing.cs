namespace InnerCadence.Core.Music;

/// <summary>Where written off-beats sound under a swing feel (ideas.md, "Swing"). Triplets and sextuplets are never warped, and only pulses
/// of a quarter are.</summary>
public static class Swing
{
    /// <summary>Off-beats between these shares count as the let of a triplet when passages are compared.</summary>
    private const double LetFrom = 0.60, LetTo = 0.72;

    /// <summary>Where a place is played: an off-beat at the swing's share of its beat.</summary>
    public static Tick Played(Tick at, Passage passage) => Moved(at, passage, share => share);

    /// <summary>Where a place sounds for the sake of comparing: as played, but an off-beat near the let of a triplet is on it.</summary>
    public static Tick Sounding(Tick at, Passage passage) =>
        Moved(at, passage, share => share is >= LetFrom and <= LetTo ? 2.0 / 3 : share);

    private static Tick Moved(Tick at, Passage passage, Func<double, double> heard)
    {
        if (!passage.Feel.Swing) return at;
        var (bar, inBar) = passage.Meters.Locate(at);
        var meter = passage.Meters.MeterOf(bar);
        var pulse = meter.PulseStart(inBar);
        if (PulseLength(meter, pulse) != Tick.PerQuarter) return at;
        var unit = passage.Feel.SwingSixteenths ? Tick.PerQuarter / 2 : Tick.PerQuarter;
        var inUnit = (inBar - pulse).Value % unit;
        if (inUnit * 2 != unit) return at;
        return at + new Tick((int)Math.Round(unit * heard(passage.Feel.SwingShare ?? Feel.UsualSwing)) - inUnit);
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
