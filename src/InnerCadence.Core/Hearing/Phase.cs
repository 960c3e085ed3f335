using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>How well a first beat fits what is struck.</summary>
/// <remarks>sound.md, "A proposal".</remarks>
public static class Phase
{
    /// <summary>How far from its place a stroke is played and still belongs to it.</summary>
    private static readonly Seconds Reach = Seconds.OfMilliseconds(15);

    /// <summary>The strengths of the strokes over a stretch, each the less the farther it lies from a sixteenth.</summary>
    public static double Fit(IEnumerable<HeardStroke> strokes, Seconds from, Bpm tempo, Tick length)
    {
        var (step, end) = (tempo.SecondsPerQuarter / 4, from + tempo.SecondsOf(length));
        return strokes.Where(o => o.At > from - step && o.At < end).Sum(o =>
        {
            var places = (o.At - from) / step;
            var off = (places - Math.Round(places)) * step / Reach;
            return o.Strength * Math.Exp(-off * off / 2);
        });
    }
}
