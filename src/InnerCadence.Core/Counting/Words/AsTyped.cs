using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Words;

/// <summary>A text as people type it: what its count lines say, and what its other lines come to when they are taken up (count-lines.md,
/// "What people type all the same" and "Words").</summary>
public static class AsTyped
{
    /// <summary>So many lines are worked out; more than a passage has voices are seldom meant.</summary>
    private const int MostLines = 24;

    /// <summary>As <see cref="CountLines.Parse"/>, with what lines in words and grids are put right by.</summary>
    public static CountText Parse(string text)
    {
        var read = CountLines.Parse(text);
        if (read.Unread.Count == 0) return read;
        var words = new WordFixes(text.TrimStart('\uFEFF').Split('\n'), read,
            [.. read.Unread.Where(u => u.GridOf is null).Take(MostLines).Select(u => u.Line)]);
        var better = new Dictionary<int, Problem>();
        foreach (var line in read.Unread.Take(MostLines))
            better[line.Line.Number] = line.GridOf is { } voice ? Grid(line, voice, read) : Words(line, words);
        return read with
        {
            Problems = [.. read.Problems.Select(p => better.GetValueOrDefault(p.At.Line) is { } known
            && read.Unread.Any(u => u.Told == p) ? known : p)]
        };
    }

    private static Problem Words(UnreadLine line, WordFixes words)
    {
        var (fixes, why) = words.Of(line.Line);
        return line.Told with
        {
            Message = fixes.Count == 1 ? "This line is in words: take it up, and its count lines stand below it."
                : fixes.Count > 1 ? "This line in words may be meant in several ways: choose one."
                : why == NotUnderstood.NoVoice ? "Which drum? Name it in the line, as in snare on 2 and 4." : line.Told.Message,
            Fixes = fixes,
        };
    }

    private static Problem Grid(UnreadLine line, Voice voice, CountText read)
    {
        var typed = line.Line.Text.TrimEnd();
        var meters = read.Passage.Meters.ToString();
        var tab = DrumTab.Parse($"{(meters == "4/4" ? "" : $"meter {meters}\n")}{voice.Code}|{typed[line.Start..].Trim().Trim('|')}|");
        if (tab.Problems.FirstOrDefault(p => p.Severity == Severity.Error) is { } fault) return line.Told with { Message = fault.Message };
        if (CountWriter.LineOf(tab.Passage, voice) is not { } bars)
            return line.Told with { Message = "These signs are a grid that no count line writes: write counts, such as 1 2& 4." };
        var indent = typed.Length - typed.TrimStart().Length;
        var written = $"{typed[indent..line.Start].Trim(' ', '|', ':')}: {string.Join(" | ", bars)}";
        return line.Told with
        {
            Message = $"This is a grid: as a count line it is {written}.",
            Fixes = [new($"Write {written}", new TextEdit(line.Line.Span(indent, typed.Length - indent), written))],
        };
    }
}
