namespace InnerCadence.Core.Counting.Reading;

/// <summary>Which form of the language a text is read in.</summary>
public enum Language
{
    /// <summary>As it was before levels, echoes, grace drums, names and runs in words; only texts written then are read so, to be brought
    /// over.</summary>
    First,
    Second,
}

/// <summary>What the first form of the language did not know yet.</summary>
internal static class FirstLanguage
{
    private static readonly HashSet<string> Words = new(StringComparer.OrdinalIgnoreCase)
    {
        "kick", "bass", "snare", "cross-stick", "rim-click", "hat", "hi-hat", "hat-foot", "foot", "ride", "ride-bell", "bell", "crash",
            "crash2",
        "china", "splash", "cymbal", "cowbell", "high-tom", "mid-tom", "tom", "floor", "floor-tom", "floor2", "floor-tom2", "ensemble",
    };

    public static bool HasWord(string word, string code) => word.Equals(code, StringComparison.OrdinalIgnoreCase) || Words.Contains(word);
}
