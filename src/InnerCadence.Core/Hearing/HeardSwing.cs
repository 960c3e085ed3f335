using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>Off-beats that are all played late alike.</summary>
/// <param name="Share">Of the quarter or the eighth, before its off-beat.</param>
/// <param name="AsLet">It is written as the let of a triplet, else as an off-beat that swings.</param>
/// <param name="Sixteenths">Those of eighths.</param>
/// <remarks>sound.md, "A proposal".</remarks>
internal readonly record struct HeardSwing(double Share, bool AsLet, bool Sixteenths = false)
{
    /// <summary>Shares between which something struck may be the off-beat, and from which it is late.</summary>
    private const double Earliest = 0.44, Latest = 0.72, Late = 0.54;

    /// <summary>By how much a sixteenth that swings is late at least: less is how somebody plays.</summary>
    private static readonly Seconds LateSixteenth = Seconds.OfMilliseconds(15);

    /// <summary>Between eighths, not on one of them.</summary>
    private const double Between = 0.15;

    /// <summary>From here on it is the let of a triplet.</summary>
    private const double Let = 0.6;

    /// <summary>What lies nearer to another is at one moment with it; farther from the share it is no off-beat. In quarters.</summary>
    private const double OneMoment = 0.05, Near = 0.06;

    /// <summary>Off-beats that it takes, and the part of them that must lie near the middle one.</summary>
    private const int Least = 6;
    private const double Most = 0.75;

    /// <summary>Of the off-beats the part that must lie in the second half of the quarter, for triplets have one in the first; and of those
    /// that are lets the part that first lets go before, where they are sextuplets.</summary>
    private const double InTheSecond = 0.25, InThrees = 0.25;

    /// <param name="quarters">Where something is struck.</param>
    /// <returns>Nothing where there are too few off-beats, or they are straight, or as they come.</returns>
    public static HeardSwing? Of(IReadOnlyCollection<double> quarters, Seconds perQuarter)
    {
        if (AllLate(quarters, OneMoment, Late) is { } eighth) return new(eighth.Share, eighth.Share >= Let);
        double[] eighths = [.. quarters.Select(q => q * 2)];
        return AllLate(eighths, 2 * OneMoment, Math.Max(Late, 0.5 + 2 * (LateSixteenth / perQuarter))) is { } sixteenth
            && sixteenth.Beats.Count >= Most * Parted(eighths)
            && sixteenth.Beats.Count(beat => beat % 2 != 0) >= InTheSecond * sixteenth.Beats.Count
            ? new(sixteenth.Share, sixteenth.Share >= Let && FirstLets(eighths) >= InThrees * sixteenth.Beats.Count, Sixteenths: true)
            : null;
    }

    /// <summary>The share at which off-beats are all late alike, and the beats in which one is.</summary>
    private static (double Share, IReadOnlyList<double> Beats)? AllLate(IEnumerable<double> struck, double oneMoment, double late)
    {
        (double Beat, double Share)[] offBeats = [.. struck.GroupBy(Math.Floor)
            .Select(beat => (Beat: beat.Key, Shares: beat.Select(q => q - beat.Key).Where(share => share is > Earliest and < Latest)
                .ToList()))
            .Where(beat => beat.Shares.Count > 0 && beat.Shares.Max() - beat.Shares.Min() < oneMoment)
            .Select(beat => (beat.Beat, beat.Shares.Average())).OrderBy(beat => beat.Item2)];
        if (offBeats.Length < Least) return null;
        var middle = offBeats[offBeats.Length / 2].Share;
        return middle >= late && offBeats.Count(beat => Math.Abs(beat.Share - middle) < oneMoment) >= Most * offBeats.Length
            ? (middle, [.. offBeats.Select(beat => beat.Beat)]) : null;
    }

    private static int Parted(IEnumerable<double> struck) => struck.GroupBy(Math.Floor)
        .Count(beat => beat.Any(q => q - beat.Key is > Between and < 1 - Between));

    private static int FirstLets(IEnumerable<double> struck) => struck.GroupBy(Math.Floor)
        .Count(beat => beat.Any(q => Math.Abs(q - beat.Key - (1 - Feel.UsualSwing)) < 2 * Near));

    /// <summary>What the text says of it.</summary>
    public Feel Feel => AsLet ? Feel.Straight
        : Feel.Straight with { Swing = true, SwingSixteenths = Sixteenths, SwingShare = Math.Round(Share, 2) };

    /// <summary>Where something that is struck there is written.</summary>
    public double Written(double quarters)
    {
        var unit = Sixteenths ? 0.5 : 1;
        var beat = Math.Floor(quarters / unit);
        var share = quarters / unit - beat;
        var off = Math.Abs(share - Share);
        var isOffBeat = off * unit < Near && off <= Math.Abs(share - 0.75) && (!AsLet || off <= Math.Abs(share - 0.5));
        return isOffBeat ? (beat + (AsLet ? Feel.UsualSwing : 0.5)) * unit : quarters;
    }
}
