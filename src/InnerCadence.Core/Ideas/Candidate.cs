using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

public enum Verdict { Exact, Variant, NearMiss }

public static class VerdictWords
{
    /// <summary>From the word by which it is kept.</summary>
    public static Verdict Read(string word) => word switch
    {
        "exact" => Verdict.Exact,
        "variant" => Verdict.Variant,
        _ =>
        Verdict.NearMiss
    };

    /// <summary>How many are played otherwise than written.</summary>
    public static int Varied(IEnumerable<Verdict> all) => all.Count(verdict => verdict != Verdict.Exact);
}

/// <summary>A window of a passage that is the idea or close to it, before it is weighed against others that share its strokes.</summary>
internal sealed record Candidate(Pattern Pattern, Factor Factor, int Start, Pairing Pairing)
{
    /// <summary>Index in the field of the window's first stroke.</summary>
    public required int First { get; init; }
    /// <summary>Index in the field of each stroke of the window; nothing where they follow on one another from the first.</summary>
    public int[]? Indices { get; init; }
    /// <summary>What the level does over the idea, here and in the exemplar, where that differs.</summary>
    public string? LevelsDiffer { get; init; }
    public required Verdict Verdict { get; init; }
    public required int Cost { get; init; }
    public required int Edits { get; init; }
    public required bool PlacementHolds { get; init; }
    /// <summary>The start falls elsewhere in the pulse than the exemplar's.</summary>
    public required bool ElsewhereInPulse { get; init; }
    public required bool Elided { get; init; }
    public required bool Extended { get; init; }
    /// <summary>Pattern strokes that could not have been heard.</summary>
    public required bool[] NotHeard { get; init; }
    public required ValueList<int> ContourBreaks { get; init; }
    public required bool HandsNotKnown { get; init; }

    /// <summary>What counts when windows share strokes: cost, and 2 more where the start is elsewhere in the pulse (ideas.md,
    /// "Overlaps").</summary>
    public int Rank => Cost + (ElsewhereInPulse ? 2 : 0);

    /// <summary>Strokes left out or added are edits, not transforms.</summary>
    public int TransformCount => (Pattern.Transform == Transform.None ? 0 : 1) + (Factor == Factor.One ? 0 : 1);

    /// <summary>Indices in the field of the strokes that stand for a stroke of the pattern.</summary>
    public IEnumerable<int> Taken => Pairing.Partners.Where(p => p >= 0).Select(IndexOf);

    /// <summary>Index in the field of a stroke of the window.</summary>
    public int IndexOf(int inWindow) => Indices is null ? First + inWindow : Indices[inWindow];
}
