using System.Collections.Immutable;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>Where in the beat or bar an idea has to start.</summary>
public enum PlacementRule { Anywhere, SamePlaceInTheBeat, SamePlaceInTheBar }

/// <summary>Whether all gaps may be scaled by one factor.</summary>
public enum RateRule { Same, Proportional }

/// <summary>Whether ghost strokes belong to the idea at all.</summary>
public enum GhostRule { Count, Ignore }

/// <summary>Whether a swung off-beat stands where it is written or where it sounds.</summary>
public enum SwingRule { AsWritten, AsSounding }

/// <summary>Whether the last required stroke may fall on a crash instead.</summary>
public enum EndingRule { AsWritten, CrashToo }

/// <summary>Whether strokes that were heard but not struck belong to the idea.</summary>
public enum EchoRule { Ignore, Count }

/// <summary>Whether growth or fading over the idea has to go the same way.</summary>
public enum LevelRule { Ignore, May, Must }

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
    public EndingRule Ending { get; init; }
    public EchoRule Echoes { get; init; }
    public LevelRule Levels { get; init; }
    /// <summary>Voices whose strokes count only where the idea has one: kick eighths, a ride that goes on.</summary>
    public ImmutableHashSet<Voice> Bed { get; init; } = [];
    /// <summary>Transforms that are tried beside the plain idea.</summary>
    public ValueList<Transform> Transforms { get; init; } = [];
    /// <summary>How many first strokes may be left out.</summary>
    public int Elision { get; init; }

    public bool Allows(Transform transform) => Transforms.Contains(transform);

    /// <summary>Whether the idea sees a stroke at all, whatever its voice.</summary>
    public bool Sees(Stroke stroke) => !(Ghosts == GhostRule.Ignore && stroke.Dynamic == Dynamic.Ghost)
        && !(Echoes == EchoRule.Ignore && stroke.Echo);

    /// <summary>The rules proposed for an exemplar cut out of a passage (ideas.md, "Proposed when cutting").</summary>
    /// <param name="ornamental">The passage is a fill or a lick, where it matters less which drum it was.</param>
    /// <param name="fill">A fill, whose last stroke may be a crash.</param>
    public static Rules ProposedFor(bool ornamental, bool fill, bool hasGhosts, bool wholeBars) => new()
    {
        Facets = new() { Voicing = ornamental ? VoicingRule.Family : VoicingRule.Drum },
        Ending = fill ? EndingRule.CrashToo : EndingRule.AsWritten,
        Ghosts = hasGhosts ? GhostRule.Count : GhostRule.Ignore,
        Placement = wholeBars ? PlacementRule.SamePlaceInTheBar : PlacementRule.Anywhere,
    };
}
