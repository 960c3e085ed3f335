using InnerCadence.Core.Music;

namespace InnerCadence.Core.Likeness;

/// <summary>How the drum of one stroke stands to the drum of another.</summary>
public enum VoicingDifference { None, NotKnown, Allowed, Substituted, HandAgainstFoot, SameFamily, OtherFamily, EndsOnCrash }

/// <summary>What differs between a stroke of a pattern and the stroke laid against it, and what that costs.</summary>
/// <remarks>Costs and which of them are required: ideas.md, "Cost of a difference".</remarks>
public readonly record struct Difference(
    int Cost, int RequiredCost, int Required, int Edits, VoicingDifference Voicing, bool Moved, bool Sticking, bool Dynamics,
        bool Openness, bool Ornaments)
{
    public const int Missing = 4;
    public const int Extra = 4;
    /// <summary>Moves are told in 12ths of a tick, so that every rate keeps whole numbers.</summary>
    public const int Fine = 12;
    /// <summary>Further than an eighth is no move but a stroke missing and another too many.</summary>
    public const long FurthestMove = Tick.PerQuarter / 2 * Fine;
    private const long SmallMove = Tick.PerQuarter / 4 * Fine;

    /// <summary>A last stroke that falls on a crash instead, where the rules allow it: it costs nothing and counts as in its
    /// place.</summary>
    public static readonly Difference OnCrash = new(0, 0, 0, 1, VoicingDifference.EndsOnCrash, false, false, false, false, false);

    /// <summary>Nothing when the two may not be paired: too far apart, or different in place and in family at once.</summary>
    /// <param name="moved">Distance in 12ths of a pattern tick; zero in place.</param>
    /// <param name="kickStandsIn">A kick may stand for a hand stroke, or a hand stroke for a kick, in place.</param>
    public static Difference? Between(Stroke pattern, Stroke passage, long moved, Facets facets, bool kickStandsIn)
    {
        if (moved > FurthestMove) return null;
        var voicing = VoicingOf(pattern.Voice, passage.Voice, facets.Voicing, kickStandsIn && moved == 0);
        if (moved > 0 && (pattern.Voice.Family != passage.Voice.Family || pattern.Voice.Limbs != passage.Voice.Limbs)) return null;

        var (cost, requiredCost, required, edits) = (0, 0, 0, 0);
        void Count(int price, bool isRequired)
        {
            cost += price;
            edits++;
            if (!isRequired) return;
            required++;
            requiredCost += price;
        }

        if (moved > 0) Count(moved <= SmallMove ? 2 : 3, true);
        if (voicing != VoicingDifference.None)
        {
            Count(
                voicing switch
                {
                    VoicingDifference.HandAgainstFoot => 2,
                    VoicingDifference.SameFamily => 1,
                    VoicingDifference.OtherFamily => 3,
                    _ => 0
                },
                voicing is VoicingDifference.HandAgainstFoot or VoicingDifference.SameFamily or VoicingDifference.OtherFamily);
        }
        var sticking = facets.Sticking != FacetRule.Ignore && pattern.Side is { } side && passage.Side is { } other && side != other
            && pattern.Voice.Limbs == passage.Voice.Limbs;
        if (sticking) Count(1, facets.Sticking == FacetRule.Must);
        var dynamics = facets.Dynamics != FacetRule.Ignore && pattern.Dynamic != passage.Dynamic;
        if (dynamics) Count(Math.Abs((int)pattern.Dynamic - (int)passage.Dynamic), facets.Dynamics == FacetRule.Must);
        var openness = facets.Openness != FacetRule.Ignore && pattern.Voice == Voice.Hat && passage.Voice == Voice.Hat
            && pattern.Openness != passage.Openness;
        if (openness) Count(1, facets.Openness == FacetRule.Must);
        var ornaments = facets.Ornaments != FacetRule.Ignore && pattern.Ornaments != passage.Ornaments;
        if (ornaments) Count(1, facets.Ornaments == FacetRule.Must);
        return new(cost, requiredCost, required, edits, voicing, moved > 0, sticking, dynamics, openness, ornaments);
    }

    private static VoicingDifference VoicingOf(Voice pattern, Voice passage, VoicingRule rule, bool kickStandsIn)
    {
        if (pattern == passage) return VoicingDifference.None;
        var (sameFamily, sameLimbs) = (pattern.Family == passage.Family, pattern.Limbs == passage.Limbs);
        if (sameFamily && (pattern.IsUnknownKind || passage.IsUnknownKind)) return VoicingDifference.NotKnown;
        var allowed = rule switch
        {
            VoicingRule.Family or VoicingRule.Contour => sameFamily && sameLimbs,
            VoicingRule.HandOrFoot => sameLimbs,
            VoicingRule.Any => true,
            _ => false,
        };
        if (allowed) return VoicingDifference.Allowed;
        var kickAndHand = (pattern == Voice.Kick && passage.Limbs == LimbClass.Hand)
            || (passage == Voice.Kick && pattern.Limbs == LimbClass.Hand);
        if (kickStandsIn && kickAndHand) return VoicingDifference.Substituted;
        if (!sameLimbs && pattern.Limbs != LimbClass.None && passage.Limbs != LimbClass.None) return VoicingDifference.HandAgainstFoot;
        return sameFamily ? VoicingDifference.SameFamily : VoicingDifference.OtherFamily;
    }
}
