using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Editing;

/// <summary>What a hand puts on a stroke and takes off it again.</summary>
/// <param name="Word">Of its button.</param>
/// <param name="Key">As count lines write it, where that is a letter of its own.</param>
/// <param name="Only">The few voices that can have it; empty where any can.</param>
public sealed record StrokeMark(string Word, string Key, ValueList<Voice> Only, Func<Stroke, bool> IsOn, Func<Stroke, Stroke> On,
    Func<Stroke, Stroke> Off)
{
    public static readonly StrokeMark Ghost = OfDynamic("ghost", "g", Dynamic.Ghost), Accent = OfDynamic("accent", "a", Dynamic.Accent),
        Flam = OfOrnament("flam", "f", Ornaments.Flam),
        Open = new("open", "o", [Voice.Hat, Voice.HatFoot], s => s.Openness == Openness.Open,
            s => s with { Openness = Openness.Open }, Closed),
        Loose = new("loose", "~", [Voice.Hat], s => s.Openness == Openness.Loose,
            s => s with { Openness = Openness.Loose }, Closed);

    public bool Fits(Voice voice) => Only.IsEmpty || Only.Contains(voice);

    /// <summary>In the order in which they are offered.</summary>
    public static IReadOnlyList<StrokeMark> All { get; } =
    [
        Ghost, Accent, Flam, OfOrnament("drag", "d", Ornaments.Drag), OfOrnament("buzz", "z", Ornaments.Buzz),
        OfOrnament("rimshot", "r", Ornaments.Rimshot), OfOrnament("choke", "c", Ornaments.Choke), Open, Loose,
        OfSide("right", "R", Side.Right), OfSide("left", "L", Side.Left),
        new("unsure", "u", [], s => s.Unsure, s => s with { Unsure = true }, s => s with { Unsure = false }),
        new("optional", "*", [], s => s.Optional, s => s with { Optional = true }, s => s with { Optional = false }),
        new("echo", "=", [], s => s.Echo, s => s with { Echo = true, Side = null, SideUnsure = false },
            s => s with { Echo = false }),
    ];

    public static StrokeMark? Find(string? word) => All.FirstOrDefault(m => m.Word == word);

    /// <summary>A word of one's own for how it is struck: tip, edge.</summary>
    public static StrokeMark Note(string word) => new(word, "", [], s => s.Notes.Contains(word),
        s => s with { Notes = [.. s.Notes, word] }, s => s with { Notes = [.. s.Notes.Where(n => n != word)] });

    private static Stroke Closed(Stroke stroke) =>
        stroke with { Openness = stroke.Voice == Voice.Hat ? Openness.Closed : null, Length = null };

    private static StrokeMark OfDynamic(string word, string key, Dynamic dynamic) => new(word, key, [], s => s.Dynamic == dynamic,
        s => s with { Dynamic = dynamic }, s => s with { Dynamic = Dynamic.Normal });

    private static StrokeMark OfOrnament(string word, string key, Ornaments one) => new(word, key, [],
        s => s.Ornaments.HasFlag(one), s => s with { Ornaments = s.Ornaments | one },
        s => (s.Ornaments & ~one) is var left && (left & (Ornaments.Flam | Ornaments.Drag)) != 0
            ? s with { Ornaments = left } : s with { Ornaments = left, Grace = null, OrnamentUnsure = s.OrnamentUnsure && left != 0 });

    private static StrokeMark OfSide(string word, string key, Side side) => new(word, key, [],
        s => s.Side == side && !s.SideUnsure, s => s with { Side = side, SideUnsure = false, Echo = false },
        s => s with { Side = null });
}
