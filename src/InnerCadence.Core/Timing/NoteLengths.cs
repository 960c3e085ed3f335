using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>How long the usual divisions last at a tempo.</summary>
public static class NoteLengths
{
    public static readonly IReadOnlyList<(string Name, NoteValue Value)> Usual =
    [
        ("whole", NoteValue.Of(1, 1)), ("half", NoteValue.Of(1, 2)), ("dotted quarter", NoteValue.Of(3, 8)),
            ("quarter", NoteValue.Of(1, 4)), ("quarter triplet", NoteValue.Of(1, 6)),
        ("dotted 8th", NoteValue.Of(3, 16)), ("8th", NoteValue.Of(1, 8)), ("8th triplet", NoteValue.Of(1, 12)),
            ("16th", NoteValue.Of(1, 16)), ("16th triplet", NoteValue.Of(1, 24)),
        ("32nd", NoteValue.Of(1, 32)),
    ];

    /// <summary>Milliseconds of a note at a tempo of quarters a minute.</summary>
    public static double Milliseconds(NoteValue value, Bpm tempo) => 60_000 / tempo.Value * value.Wholes * 4;
}
