namespace InnerCadence.Core.Likeness;

/// <summary>What a disagreement on one side of sameness does: said but still a match, at best a near miss, or not looked at.</summary>
public enum FacetRule { May, Must, Ignore }

/// <summary>What counts as the same drum.</summary>
public enum VoicingRule { Drum, Family, Contour, HandOrFoot, Any }

/// <summary>Which sides of sameness are looked at when two strokes are laid against one another (ideas.md, "An idea").</summary>
public sealed record Facets
{
    public VoicingRule Voicing { get; init; } = VoicingRule.Drum;
    public FacetRule Sticking { get; init; } = FacetRule.May;
    public FacetRule Dynamics { get; init; } = FacetRule.May;
    public FacetRule Openness { get; init; } = FacetRule.May;
    public FacetRule Ornaments { get; init; } = FacetRule.May;
}
