using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <param name="Tick">Of the exemplar.</param>
/// <param name="At">Where it falls, or would fall.</param>
/// <param name="Strength">How surely it is there, 0 to 1.</param>
public readonly record struct FoundStroke(Tick Tick, Voice Voice, Seconds At, double Strength)
{
    /// <summary>More likely there than not.</summary>
    public static bool IsHeard(double strength) => strength >= 0.5;
}

/// <summary>A place of a sound where an idea may be: a person judges it.</summary>
/// <param name="At">Of the idea's first stroke, where it falls or would fall.</param>
/// <param name="Bar">Of that, from 1; nothing where bars are not known.</param>
/// <param name="Score">1 where every stroke is heard and no other, below that the less it fits.</param>
public sealed record FoundPlace(Seconds At, Seconds Until, int? Bar, double Score, ValueList<FoundStroke> Strokes);
