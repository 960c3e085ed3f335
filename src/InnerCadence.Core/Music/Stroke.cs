
namespace InnerCadence.Core.Music;

public enum Dynamic { Ghost, Normal, Accent }

public enum Openness { Closed, Loose, Open }

public enum Side { Right, Left }

[Flags]
public enum Ornaments { None = 0, Flam = 1, Drag = 2, Buzz = 4, Rimshot = 8, Choke = 16 }

/// <summary>One note as written: where, on what, how.</summary>
public sealed record Stroke(Tick At, Voice Voice)
{
    public Dynamic Dynamic { get; init; } = Dynamic.Normal;
    /// <summary>Closed, loose or open on the hat; open on a hat foot that splashes; nothing elsewhere.</summary>
    public Openness? Openness { get; init; }
    public Ornaments Ornaments { get; init; }
    /// <summary>Which hand or foot, where it is known.</summary>
    public Side? Side { get; init; }
    /// <summary>The hand is probable, not certain.</summary>
    public bool SideUnsure { get; init; }
    public bool Unsure { get; init; }
    /// <summary>The stroke is certain, what it is ornamented with is not.</summary>
    public bool OrnamentUnsure { get; init; }
    /// <summary>On which drum the grace stroke of a flam or drag falls; nothing for its own.</summary>
    public Voice? Grace { get; init; }
    /// <summary>Heard, not struck: an effect’s echo, a neighbour’s overdub. Nobody played it.</summary>
    public bool Echo { get; init; }
    public bool Optional { get; init; }
    /// <summary>Technique notes: tip, edge, shoulder.</summary>
    public ValueList<string> Notes { get; init; } = [];
    public Tick? Length { get; init; }

    /// <summary>RH, LH, RF or LF; nothing where the side is not known or no limb plays.</summary>
    public string? Limb => (Side, Voice.Limbs) switch
    {
        (null, _) or (_, LimbClass.None) => null,
        (Music.Side.Right, LimbClass.Hand) => "RH",
        (Music.Side.Left, LimbClass.Hand) => "LH",
        (Music.Side.Right, _) => "RF",
        _ => "LF",
    };

    public override int GetHashCode() => HashCode.Combine(At, Voice);
}
