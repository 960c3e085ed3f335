using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>A few counts that are looked for without a name.</summary>
public static class FewCounts
{
    /// <param name="rates">At other rates too.</param>
    public static Idea AsIdea(Passage typed, VoicingRule voicing, bool rates) => new(typed, null, null, new()
    {
        // A few counts say nothing about loudness: a ghost is as good as an accent.
        Facets = new()
        {
            Voicing = voicing,
            Dynamics = typed.Strokes.All(s => s.Dynamic == Dynamic.Normal) ? FacetRule.Ignore : FacetRule.May,
        },
        Rate = rates ? RateRule.Proportional : RateRule.Same,
    });
}
