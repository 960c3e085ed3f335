using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>One difference between an idea and a sighting of it, in words and in data.</summary>
/// <param name="Kind">missing, extra, moved, voicing, contour, sticking, dynamics, openness, ornaments, levels, ending, not-known or
/// not-heard.</param>
/// <param name="PatternTick">The stroke of the exemplar it is about; nothing for a stroke too many.</param>
/// <param name="PassageTick">The stroke of the passage it is about; nothing for a stroke that is missing.</param>
public sealed record Edit(string Kind, Tick? PatternTick, Tick? PassageTick, Voice Voice, string Text);

/// <summary>An idea found at a place in a passage.</summary>
/// <param name="Start">Where the idea's first stroke falls or would fall, as written.</param>
/// <param name="End">Where its window ends.</param>
/// <param name="Unsure">How many of the strokes that stand for it are marked unsure.</param>
/// <param name="Transforms">Any of mirrored, reversed, substituted, elided, extended.</param>
public sealed record Sighting(
    Tick Start, Tick End, Factor Factor, Verdict Verdict, int Cost, int Unsure, ValueList<string> Transforms,
        ValueList<Edit> Edits, string Summary)
{
    public bool IsNear => Verdict == Verdict.NearMiss;
}
