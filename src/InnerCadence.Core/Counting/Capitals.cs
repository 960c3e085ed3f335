namespace InnerCadence.Core.Counting;

public static class Capitals
{
    /// <summary>As a sentence begins; empty stays empty.</summary>
    public static string Capital(this string text) => text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];
}
