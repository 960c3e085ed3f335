namespace InnerCadence.Core.Evidence;

/// <summary>What a searched silence is worth (evidence.md, "How strong is the silence").</summary>
/// <param name="Bars">Searched without it.</param>
/// <param name="Per100">The lower end of the rate seen elsewhere.</param>
/// <param name="Expected">How many the bars would show at that rate.</param>
/// <param name="None">How likely none is.</param>
public sealed record Silence(int Bars, double Per100, double Expected, double None)
{
    /// <summary>None is unlikely enough for the silence to mean something.</summary>
    public const double Strong = 0.05;

    public bool IsStrong => None < Strong;

    /// <summary>Nothing where no bar was searched, or too little was found elsewhere to weigh it against.</summary>
    public static Silence? Of(int bars, Interval? elsewhere)
    {
        if (bars <= 0 || elsewhere is not { Low: > 0 } rate) return null;
        var (expected, none) = Contrasts.Silence(rate.Low, bars);
        return new(bars, rate.Low, expected, none);
    }

    /// <summary>Of what was searched before the first sighting, against the rate of all the rest; nothing where that has no date.</summary>
    public static Silence? Before(FirstOnRecord first, IReadOnlyCollection<Performance> own)
    {
        if (first.First?.Recorded is not { } date) return null;
        var before = own.Where(p => p.Recorded?.Latest < date.Earliest && p.Appearances.Count == 0).ToList();
        return Of(before.Sum(p => p.Bars), Answer.Of(own.Except(before)).Rate?.Interval);
    }

    /// <summary>Of a player who is not known to have it, against the rate of one who has.</summary>
    public static Silence? Of(IReadOnlyCollection<Performance> theirs, Answer elsewhere) =>
        theirs.Any(p => p.Appearances.Count > 0) ? null : Of(theirs.Sum(p => p.Bars), elsewhere.Rate?.Interval);

    /// <summary>How many more silent bars would make it strong.</summary>
    public int BarsToStrong => IsStrong ? 0 : (int)Math.Ceiling(-Math.Log(Strong) * 100 / Per100) - Bars;
}
