using System.Text.RegularExpressions;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Editing;

/// <summary>Brings texts of the first form of the language over, so that they say today what they said then.</summary>
public static partial class OldTexts
{
    /// <summary>
    /// The text that is read today as the old one was read then: empty bars get their blank, glued letters of a lick theirs, and lines that
    /// could not be read stay
    /// as comments. Where that is not enough it is written anew, with every line as it was typed above it.
    /// </summary>
    /// <returns>Nothing where the text is read as it always was.</returns>
    public static string? BroughtOver(string text)
    {
        var then = CountLines.Parse(text, Language.First);
        if (SaysTheSame(then.Passage, CountLines.Parse(text).Passage)) return null;
        var mended = Mended(text, then);
        if (SaysTheSame(then.Passage, CountLines.Parse(mended).Passage)) return mended;
        return string.Concat(text.ReplaceLineEndings("\n").Split('\n').Where(line => line.Trim().Length > 0).Select(line => $"# {line}\n"))
            + CountWriter.Write(then.Passage, then.Title);
    }

    /// <summary>A draft that nobody finished may be of either form: it is brought over only where the first one reads all of it.</summary>
    /// <returns>Nothing where it stays as it was typed.</returns>
    public static string? DraftBroughtOver(string text) =>
        CountLines.Parse(text, Language.First).HasErrors ? null : BroughtOver(text);

    private static bool SaysTheSame(Passage then, Passage now) =>
        then.Bars == now.Bars && then.Strokes.SequenceEqual(now.Strokes) && then.Unheard.SetEquals(now.Unheard) && then.Tempo == now.Tempo
        && now.TempoChanges.IsEmpty && now.Levels.Equals(Levels.None);

    private static string Mended(string text, CountText then)
    {
        var unread = then.Problems.Where(p => p.Severity == Severity.Error).Select(p => p.At.Line).ToHashSet();
        return string.Join('\n', text.ReplaceLineEndings("\n").Split('\n').Select((line, i) =>
        {
            if (unread.Contains(i + 1) && Directive().IsMatch(line) | Names().IsMatch(line)) return "# " + line;
            var (written, comment) = line.IndexOf('#') is var at and >= 0 ? (line[..at], line[at..]) : (line, "");
            while (written.Contains("||", StringComparison.Ordinal)) written = written.Replace("||", "| |", StringComparison.Ordinal);
            return (Letters().IsMatch(written) ? Glued().Replace(written, m => $"{m.Groups["before"].Value} ") : written) + comment;
        }));
    }

    /// <summary>What was no directive then.</summary>
    [GeneratedRegex(@"^\s*(?:bpm\b|\d{1,3}/\d{1,3}|(?:meter|tempo|feel|count|pickup|hands|voice|title)\s*[=:]?)", RegexOptions.IgnoreCase)]
    private static partial Regex Directive();

    [GeneratedRegex(@"^[^:|]+:")]
    private static partial Regex Names();

    [GeneratedRegex(@"^\s*ST\s*:", RegexOptions.IgnoreCase)]
    private static partial Regex Letters();

    /// <summary>Flam or drag, then a hand and the letter of the next column: the two spell a drum today.</summary>
    [GeneratedRegex(@"(?<before>[fd])(?=[A-Z][A-Z0-9])")]
    private static partial Regex Glued();
}
