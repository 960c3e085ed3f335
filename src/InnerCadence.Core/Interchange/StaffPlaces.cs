using InnerCadence.Core.Music;

namespace InnerCadence.Core.Interchange;

/// <summary>Where a voice stands on five lines, as a note of the treble clef, and the shape of its head.</summary>
/// <param name="Key">Step and octave: c/5.</param>
/// <param name="Head">Empty for the ordinary one.</param>
public readonly record struct StaffPlace(string Key, string Head);

public static class StaffPlaces
{
    public static StaffPlace Of(Voice voice) => voice.Code switch
    {
        "BD" => new("f/4", ""),
        "HF" => new("d/4", "x"),
        "SN" => new("c/5", ""),
        "XS" => new("c/5", "x"),
        "HH" => new("g/5", "x"),
        "RD" => new("f/5", "x"),
        "RB" => new("f/5", "diamond"),
        "CB" => new("g/5", "triangle"),
        "CR" => new("a/5", "x"),
        "C2" => new("b/5", "x"),
        "CH" => new("b/5", "diamond"),
        "SP" => new("c/6", "x"),
        "CY" => new("a/5", "circled"),
        "T1" => new("e/5", ""),
        "T2" => new("d/5", ""),
        "T3" => new("b/4", ""),
        "T4" => new("b/4", "triangle"),
        "TT" => new("d/5", "slash"),
        "FT" => new("a/4", ""),
        "F2" => new("g/4", ""),
        "EN" => new("d/6", "slash"),
        var own => new(voice.IsFoot ? "e/4" : ((string[])["d/6", "e/6", "f/6", "d/6"])[own[1] % 4], "square"),
    };

    /// <summary>The standard voice at a place; where no head fits, the one that stands there at all.</summary>
    public static Voice? At(string key, string head) =>
        Voice.All.FirstOrDefault(v => Of(v) == new StaffPlace(key, head))
            ?? Voice.All.FirstOrDefault(v => Of(v).Key == key && Of(v).Head.Length == 0 == (head.Length == 0))
            ?? Voice.All.FirstOrDefault(v => Of(v).Key == key);
}
