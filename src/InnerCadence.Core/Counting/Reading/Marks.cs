using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>What is written after a place: how its stroke sounds and who plays it.</summary>
internal sealed record Marks
{
    public static readonly Marks None = new();

    public Dynamic Dynamic { get; init; } = Dynamic.Normal;
    public Openness? Openness { get; init; }
    public Ornaments Ornaments { get; init; }
    public bool Unsure { get; init; }
    public bool OrnamentUnsure { get; init; }
    public Voice? Grace { get; init; }
    public bool Echo { get; init; }
    public bool Optional { get; init; }
    public Side? Side { get; init; }
    public ValueList<string> Notes { get; init; } = [];
    /// <summary>The place to which the stroke lasts.</summary>
    public Place? Until { get; init; }

    public Stroke On(Voice voice, Tick at) => new(at, voice)
    {
        Dynamic = Dynamic,
        Openness = Openness ?? (voice == Voice.Hat ? Music.Openness.Closed : null),
        Ornaments = Ornaments,
        Unsure = Unsure,
        OrnamentUnsure = OrnamentUnsure,
        Grace = Grace,
        Echo = Echo,
        Optional = Optional,
        Side = Side,
        Notes = Notes,
    };
}
