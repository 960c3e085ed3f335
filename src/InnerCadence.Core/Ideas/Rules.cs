using System.Collections.Immutable;
using InnerCadence.Core.Likeness;

namespace InnerCadence.Core.Ideas;

/// <summary>Where in the beat or bar an idea has to start.</summary>
public enum PlacementRule { Anywhere, SamePlaceInTheBeat, SamePlaceInTheBar }

/// <summary>Whether all gaps may be scaled by one factor.</summary>
public enum RateRule { Same, Proportional }

/// <summary>Whether ghost strokes belong to the idea at all.</summary>
public enum GhostRule { Count, Ignore }

/// <summary>Whether a swung off-beat stands where it is written or where it sounds.</summary>
public enum SwingRule { AsWritten, AsSounding }

/// <summary>A way in which an idea may come back that leaves it the same idea, if its rules allow it.</summary>
public enum Transform { None, Mirrored, Reversed, Substituted }

/// <summary>What counts as the same idea.</summary>
public sealed record Rules
{
    public static readonly Rules Default = new();

    public Facets Facets { get; init; } = new();
    public PlacementRule Placement { get; init; }
    public RateRule Rate { get; init; }
    public GhostRule Ghosts { get; init; }
    public SwingRule Swing { get; init; }
    /// <summary>Transforms that are tried beside the plain idea.</summary>
    public ImmutableArray<Transform> Transforms { get; init; } = [];
    /// <summary>How many first strokes may be left out.</summary>
    public int Elision { get; init; }

    public bool Allows(Transform transform) => Transforms.Contains(transform);

    /// <summary>The rules proposed for an exemplar cut out of a passage (ideas.md, "Proposed when cutting").</summary>
    /// <param name="ornamental">The passage is a fill or a lick, where it matters less which drum it was.</param>
    public static Rules ProposedFor(bool ornamental, bool hasGhosts, bool wholeBars) => new()
    {
        Facets = new() { Voicing = ornamental ? VoicingRule.Family : VoicingRule.Drum },
        Ghosts = hasGhosts ? GhostRule.Count : GhostRule.Ignore,
        Placement = wholeBars ? PlacementRule.SamePlaceInTheBar : PlacementRule.Anywhere,
    };
}
