using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Hearing;

/// <summary>How well a first beat fits what is struck.</summary>
/// <remarks>sound.md, "A proposal".</remarks>
public static class Phase
{
    /// <summary>How far from its place a stroke is played and still belongs to it.</summary>
    private static readonly Seconds Reach = Seconds.OfMilliseconds(15);

    /// <summary>The strengths of the strokes over some bars, each the less the farther it lies from a sixteenth.</summary>
    public static double Fit(IEnumerable<HeardStroke> strokes, LaidBars laid)
    {
        const double PerStep = Tick.PerQuarter / 4.0;
        var end = laid.Length.Value / PerStep;
        return strokes.Select(o => (o.Strength, Place: laid.TickAt(o.At) / PerStep)).Where(o => o.Place > -1 && o.Place < end).Sum(o =>
        {
            var off = (o.Place - Math.Round(o.Place)) * (laid.PerQuarter / 4) / Reach;
            return o.Strength * Math.Exp(-off * off / 2);
        });
    }
}
