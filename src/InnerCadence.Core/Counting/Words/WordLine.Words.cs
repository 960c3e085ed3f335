using System.Globalization;
using System.Text.RegularExpressions;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Words;

// The words one by one.
internal sealed partial class WordLine
{
    private int Choose()
    {
        var take = asked < takes.Count ? takes[asked] : 0;
        asked++;
        return take;
    }

    private bool IsAt(string word) => at < words.Length && words[at] == word;

    private bool Take(params ReadOnlySpan<string> any)
    {
        if (at >= words.Length || !any.Contains(words[at])) return false;
        at++;
        return true;
    }

    /// <summary>An article; a is one where it is no count.</summary>
    private bool Article(string only = "")
    {
        if (at >= words.Length || (words[at] != "the"
            && (only.Length > 0 || words[at] is not ("a" or "an" or "some" or "one")))) return false;
        if (words[at] == "one" && !IsMarkAt(at + 1)) return false;
        at++;
        return true;
    }

    private Voice? TryVoice()
    {
        if (TryVoiceAt(at) is not { } found) return null;
        at += found.Words;
        return found.Voice;
    }

    private (Voice Voice, int Words)? TryVoiceAt(int i)
    {
        for (var count = Math.Min(3, words.Length - i); count > 0; count--)
        {
            var name = string.Join(' ', words[i..(i + count)]);
            if (count == 1 && name.Length < 2) continue;
            if ((said.VoiceCalled(name) ?? said.FindVoice(Singular(name))) is { } found)
                return (found, count);
        }
        return null;
    }

    private static string Singular(string word) => word.Length > 2 && word[^1] == 's' && word[^2] != 's' ? word[..^1] : word;

    private int? Number()
    {
        if (NumberAt(at) is not { } number) return null;
        at++;
        return number;
    }

    /// <summary>A number as large as a beat can be divided.</summary>
    private int? Figure() => at < words.Length && int.TryParse(words[at], NumberStyles.None, CultureInfo.InvariantCulture, out var n)
        && n is > 0 and <= 4 * Tick.PerQuarter && at++ >= 0 ? n : Number();

    /// <summary>5/14 of a quarter: what no note is as long as.</summary>
    private Tick? Share()
    {
        var back = at;
        if (Figure() is { } share && Take("/") && Figure() is { } whole && Take("of") && Take("a") && Take("quarter")
            && (long)share * Tick.PerQuarter % whole == 0) return new((int)((long)share * Tick.PerQuarter / whole));
        at = back;
        return null;
    }

    private int? NumberAt(int i) => i < 0 || i >= words.Length ? null
        : int.TryParse(words[i], NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n is > 0 and < 1000 ? n
        : Array.IndexOf(Numbers, words[i]) is >= 0 and var index ? index + 1 : null;

    private int? OrdinalAt(int i) => i < words.Length && Array.IndexOf(Ordinals, words[i]) is >= 0 and var index ? index % 12 + 1 : null;

    private static readonly string[] Numbers =
        ["one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"];

    private static readonly string[] Ordinals =
    [
        "first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth", "eleventh", "twelfth",
        "1st", "2nd", "3rd", "4th", "5th", "6th", "7th", "8th", "9th", "10th", "11th", "12th",
    ];

    [GeneratedRegex(@"\p{L}+(?:-\p{L}+)*|\d+(?:nds?|ths?|st|rd|t(?![a-z]))?(?:[&+'a-z]+)?|\S")]
    private static partial Regex Token();
}
