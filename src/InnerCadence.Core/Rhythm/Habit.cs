using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>A trait that a passage has or has not, so that it can be counted.</summary>
/// <param name="Word">In an address and in the database.</param>
/// <param name="Says">After “her fills”: begin with the left hand.</param>
/// <param name="Has">Nothing where it is not known of the passage.</param>
public sealed record Habit(string Word, string Says, Func<Passage, Traits, bool?> Has)
{
    public static IReadOnlyList<Habit> All { get; } =
    [
        new("left-first", "begin with the left hand, where it is known", (_, t) => t.FirstHand is { } hand ? hand == Side.Left : null),
        new("linear", "are linear", (_, t) => t.Linear),
        new("double-stops", "have double stops of the hands", (_, t) => t.DoubleStops > 0),
        new("flam-or-drag", "have a flam or drag", (_, t) => (t.Ornaments & (Ornaments.Flam | Ornaments.Drag)) != 0),
        new("down-the-toms", "go down the toms", (_, t) => t.Direction == TomDirection.None ? null : t.Direction == TomDirection.Down),
        new("off-the-beat", "start off the beat", (_, t) => !t.Starts.All(char.IsAsciiDigit)),
        new("kick-alone", "have a kick alone somewhere", (p, _) => p.Strokes.GroupBy(s => s.At)
            .Any(m => m.All(s => s.Voice == Voice.Kick))),
    ];

    public static Habit? Find(string word) => All.FirstOrDefault(h => h.Word == word);
}
