using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting;

/// <summary>The notes that runs and licks are made of.</summary>
internal static class RunUnit
{
    public const string Signs = "4ths|8ths|16ths|32nds|16t(?!i|a|rip|h)|8t(?!i|a|rip|h)";
    public const string Words = "(?i:4th|8th|16th|32nd|quarters?|eighths?|sixteenths?|triplets?|sextuplets?)";

    /// <summary>One note of it.</summary>
    public static Tick Of(string unit) => new(unit.ToLowerInvariant() switch
    {
        "4ths" or "4th" or "quarter" or "quarters" => Tick.PerQuarter,
        "8ths" or "8th" or "eighth" or "eighths" => Tick.PerQuarter / 2,
        "16ths" or "16th" or "sixteenth" or "sixteenths" => Tick.PerQuarter / 4,
        "32nds" or "32nd" => Tick.PerQuarter / 8,
        "8t" or "triplet" or "triplets" => Tick.PerQuarter / 3,
        _ => Tick.PerQuarter / 6,
    });
}
