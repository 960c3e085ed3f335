using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Looking;

/// <summary>What a ranked list says about how often an idea comes, in one group of recordings.</summary>
/// <param name="Bars">Looked through by the ear.</param>
/// <param name="Known">Places known without the ear.</param>
/// <param name="Recalled">Of them, those that stand in the list above what was judged down to.</param>
/// <param name="Confirmed">Places of the list above that which a person confirmed, known ones among them.</param>
/// <param name="Below">Places of the list below what was judged down to, without those judged for their rank.</param>
/// <param name="Sampled">Of those, heard at random.</param>
/// <param name="SampledThere">Of those, confirmed.</param>
/// <remarks>sound.md, "Looking in the sound"; evidence.md, bars looked through: recall is taken per group, and with fewer than eight known
/// places there is no rate.</remarks>
public sealed record LookedThrough(int Bars, int Known, int Recalled, int Confirmed, int Below = 0, int Sampled = 0, int SampledThere = 0)
{
    public const int LeastKnown = 8;

    /// <summary>Fewer heard at random say nothing.</summary>
    private const int LeastSampled = 4;

    public Interval? Recall => Known == 0 ? null : Estimates.Presence(Recalled, Known);

    /// <summary>How many places lie below, as the random ones show it.</summary>
    public Interval? Missed => Sampled >= LeastSampled && Estimates.Presence(SampledThere, Sampled) is { } share
        ? new(Below * share.Value, Below * share.Low, Below * share.High) : null;

    /// <summary>The recall that follows from what is missed below: of what is in the list at all.</summary>
    public Interval? RecallBySample => Missed is not { } missed || Confirmed == 0 ? null
        : new(Confirmed / (Confirmed + missed.Value), Confirmed / (Confirmed + missed.High), Confirmed / (Confirmed + missed.Low));

    /// <summary>Known places and random ones tell different things of how much is missed: then there is no rate.</summary>
    public bool PartWays => Recall is { } known && RecallBySample is { } sampled && (known.High < sampled.Low || sampled.High < known.Low);

    /// <summary>Confirmed places in 100 bars, for those that the ear missed too: confirmed / (bars x recall). Its interval carries the
    /// uncertainty of both, as that of a product of a Poisson count and a binomial share on the log scale.</summary>
    /// <returns>Nothing with fewer known places than eight, where none was recalled or confirmed, or where random ones say
    /// otherwise.</returns>
    public Interval? Rate
    {
        get
        {
            const double z = 1.959963984540054;
            if (Known < LeastKnown || PartWays || Recalled == 0 || Confirmed == 0 || Bars == 0) return null;
            // A share of all is not known to be all: half a place is taken off, as in Agresti's intervals.
            var recall = Math.Min(Recalled, Known - 0.5) / Known;
            var rate = 100.0 * Confirmed / (Bars * ((double)Recalled / Known));
            var error = z * Math.Sqrt(1.0 / Confirmed + (1 - recall) / (Known * recall));
            return new(rate, rate * Math.Exp(-error), rate * Math.Exp(error));
        }
    }
}
