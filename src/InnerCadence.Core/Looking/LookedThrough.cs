using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Looking;

/// <summary>What a ranked list says about how often an idea comes, in one group of recordings.</summary>
/// <param name="Bars">Looked through by the ear.</param>
/// <param name="Known">Places known without the ear.</param>
/// <param name="Recalled">Of them, those that stand in the list above what was judged down to.</param>
/// <param name="Confirmed">Places of the list above that which a person confirmed, known ones among them.</param>
/// <remarks>sound.md, "Looking in the sound"; evidence.md, bars looked through: recall is taken per group, and with fewer than eight known
/// places there is no rate.</remarks>
public sealed record LookedThrough(int Bars, int Known, int Recalled, int Confirmed)
{
    public const int LeastKnown = 8;

    public Interval? Recall => Known == 0 ? null : Estimates.Presence(Recalled, Known);

    /// <summary>Confirmed places in 100 bars, for those that the ear missed too: confirmed / (bars x recall). Its interval carries the
    /// uncertainty of both, as that of a product of a Poisson count and a binomial share on the log scale.</summary>
    /// <returns>Nothing with fewer known places than eight, or where none was recalled or confirmed.</returns>
    public Interval? Rate
    {
        get
        {
            const double z = 1.959963984540054;
            if (Known < LeastKnown || Recalled == 0 || Confirmed == 0 || Bars == 0) return null;
            // A share of all is not known to be all: half a place is taken off, as in Agresti's intervals.
            var recall = Math.Min(Recalled, Known - 0.5) / Known;
            var rate = 100.0 * Confirmed / (Bars * ((double)Recalled / Known));
            var error = z * Math.Sqrt(1.0 / Confirmed + (1 - recall) / (Known * recall));
            return new(rate, rate * Math.Exp(-error), rate * Math.Exp(error));
        }
    }
}
