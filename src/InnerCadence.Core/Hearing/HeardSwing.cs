using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>Off-beats that are all played late alike.</summary>
/// <param name="Share">Of the quarter, before the off-beat.</param>
/// <param name="AsLet">It is written as the let of a triplet, else as an off-beat that swings.</param>
/// <remarks>sound.md, "A proposal".</remarks>
internal readonly record struct HeardSwing(double Share, bool AsLet)
{
    /// <summary>Shares of a quarter between which something struck may be its off-beat, and from which it is late.</summary>
    private const double Earliest = 0.44, Latest = 0.72, Late = 0.54;

    /// <summary>From here on it is the let of a triplet.</summary>
    private const double Let = 0.6;

    /// <summary>What lies nearer to another is at one moment with it; farther from the share it is no off-beat.</summary>
    private const double OneMoment = 0.05, Near = 0.06;

    /// <summary>Off-beats that it takes, and the part of them that must lie near the middle one.</summary>
    private const int Least = 6;
    private const double Most = 0.75;

    /// <param name="quarters">Where something is struck.</param>
    /// <returns>Nothing where there are too few off-beats, or they are straight, or as they come.</returns>
    public static HeardSwing? Of(IEnumerable<double> quarters)
    {
        double[] offBeats = [.. quarters.GroupBy(Math.Floor)
            .Select(beat => beat.Select(q => q - beat.Key).Where(share => share is > Earliest and < Latest).ToList())
            .Where(beat => beat.Count > 0 && beat.Max() - beat.Min() < OneMoment).Select(beat => beat.Average()).Order()];
        if (offBeats.Length < Least) return null;
        var middle = offBeats[offBeats.Length / 2];
        return middle >= Late && offBeats.Count(share => Math.Abs(share - middle) < OneMoment) >= Most * offBeats.Length
            ? new(middle, middle >= Let) : null;
    }

    /// <summary>What the text says of it.</summary>
    public Feel Feel => AsLet ? Feel.Straight : Feel.Straight with { Swing = true, SwingShare = Math.Round(Share, 2) };

    /// <summary>Where something that is struck there is written.</summary>
    public double Written(double quarters)
    {
        var beat = Math.Floor(quarters);
        var share = quarters - beat;
        var off = Math.Abs(share - Share);
        var isOffBeat = off < Near && off <= Math.Abs(share - 0.75) && (!AsLet || off <= Math.Abs(share - 0.5));
        return isOffBeat ? beat + (AsLet ? Feel.UsualSwing : 0.5) : quarters;
    }
}
