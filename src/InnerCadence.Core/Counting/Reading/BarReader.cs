using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>Splits a voice line's text into bars and each bar into words.</summary>
internal static class BarReader
{
    /// <summary>Bars of the text that starts at <paramref name="start"/> in the line. One bar line at either end is allowed.</summary>
    public static List<BarText> Read(SourceLine line, int start, Voice voice, Directives said, Problems problems)
    {
        var reader = new TokenReader(line, voice, said, problems);
        var bars = new List<BarText>();
        foreach (var (from, to) in BarLines.Split(line, start, said.Language))
        {
            if (bars.Count > 0 && bars[^1].Kind == BarKind.RepeatToEnd)
                problems.Error(bars[^1].At, "%* repeats up to the end of the passage: nothing can follow it in its line. Write %x and a "
                    + "number instead.");
            // Bars past the limit only count; they are not shown, so they are not read.
            bars.Add(bars.Count > CountLines.MostBars ? new(BarKind.Silent, line.Span(from, to - from), [])
                : ReadBar(line, from, to, bars.Count == 0, reader, problems));
        }
        return bars;
    }

    /// <summary>As many as the longest meter has 32nds: 32 whole notes.</summary>
    private const int MostWords = 1024;
    private const int MostTimes = 9_999;

    private static BarText ReadBar(SourceLine line, int from, int to, bool first, TokenReader reader, Problems problems)
    {
        var words = Words(line, from, to, problems);
        var at = words.Count == 0 ? line.Span(from, to - from)
            : line.Span(words[0].Start, words[^1].Start + words[^1].Text.Length - words[0].Start);
        if (words.Count == 0 || (words.Count == 1 && words[0].Text == "-")) return new(BarKind.Silent, at, []);
        if (words.Count == 1 && words[0].Text == "?") return new(BarKind.Unheard, at, []);

        var (kind, times) = (BarKind.Written, 1);
        if (words[0].Text.StartsWith('%'))
        {
            var head = words[0];
            var span = line.Span(head.Start, head.Text.Length);
            words.RemoveAt(0);
            kind = head.Text == "%*" ? BarKind.RepeatToEnd : BarKind.Repeat;
            if (kind == BarKind.Repeat && head.Text != "%") times = TimesOf(head.Text);
            if (times == 0)
            {
                problems.Error(span, $"‘{head.Text}’ is no repeat: write % for once more, %x3 for three times, %* up to the end.");
                return new(BarKind.Silent, at, []);
            }
            if (first)
            {
                problems.Error(span, "% repeats the bar before it, and this is the first: write the bar out.");
                return new(BarKind.Silent, at, []);
            }
            if (words.Count > 0 && head.Text != "%")
            {
                problems.Error(line.Span(words[0].Start, words[0].Text.Length),
                    $"Changes go with a single %, not with {head.Text}: write the changed bar apart.");
                words.Clear();
            }
            at = kind == BarKind.Repeat && words.Count > 0 ? at : span;
        }
        var tokens = new List<Token>();
        if (words.Count > MostWords)
            problems.Error(line.Span(words[MostWords].Start, words[MostWords].Text.Length),
                $"A bar has at most {MostWords} words: what comes from here on is not read. Divide it by |.");
        for (var i = 0; i < Math.Min(words.Count, MostWords); i++)
        {
            var word = words[i];
            if (IsPassedOver(reader, words, i)) continue;
            if (word.Text.StartsWith('%'))
                problems.Error(line.Span(word.Start, word.Text.Length),
                    "% comes first in its bar: write % and then the changes, or put it behind a bar line.");
            else if (word.Text is "-" or "?")
                problems.Error(line.Span(word.Start, word.Text.Length),
                    $"‘{word.Text}’ stands alone in its bar, or glued to a place: write {(word.Text == "-" ? "-3" : "3?")}.");
            else if (word.Text is "," or ";" or ".")
                problems.Error(line.Span(word.Start, 1), "Blanks part the counts of a bar: take this out.", "");
            else if (reader.Read(word.Start, word.Text, word.Ghost) is { } token)
                tokens.Add(token);
        }
        return new(kind, at, tokens.ToValueList(), times);
    }

    /// <summary>every and all before a run, notes after one: said, and without meaning.</summary>
    private static bool IsPassedOver(TokenReader reader, List<(int Start, string Text, bool Ghost)> words, int i) =>
        words[i].Text.ToLowerInvariant() switch
        {
            "every" or "all" => i + 1 < words.Count && reader.IsRun(words[i + 1].Text),
            "note" or "notes" => i > 0 && reader.IsRun(words[i - 1].Text),
            _ => false,
        };

    /// <summary>Words between blanks; brackets round places set the ghost, square brackets and braces hold their blanks.</summary>
    private static List<(int Start, string Text, bool Ghost)> Words(SourceLine line, int from, int to, Problems problems)
    {
        var words = new List<(int, string, bool)>();
        var text = line.Text;
        int? open = null;
        for (var i = from; i < to;)
        {
            var c = text[i];
            if (c == ' ')
            {
                i++;
            }
            else if (c == '(')
            {
                if (open is not null) problems.Error(line.Span(i, 1), "A ghost’s brackets do not nest: take out this ‘(’.");
                open ??= i;
                i++;
            }
            else if (c == ')')
            {
                if (open is { } opened) line.Is(Look.Ghost, opened, i + 1 - opened);
                else problems.Error(line.Span(i, 1), "This ‘)’ closes nothing: write ‘(’ before the ghosted places of this bar.");
                open = null;
                i++;
            }
            else
            {
                var start = i;
                char? closer = null;
                while (i < to && (closer is not null || text[i] is not (' ' or '(' or ')')))
                {
                    closer = text[i] switch { '[' => ']', '{' => '}', var here when here == closer => null, _ => closer };
                    i++;
                }
                words.Add((start, text[start..i].TrimEnd(), open is not null));
            }
        }
        if (open is not { } bracket) return words;
        line.Is(Look.Ghost, bracket, text.AsSpan(bracket, to - bracket).TrimEnd().Length);
        problems.Error(line.Span(bracket, 1), "This ‘(’ is not closed in its bar: write ‘)’ after the last ghosted place.");
        return words;
    }

    /// <summary>However large the number, it is limited by the bars of a passage like any other; 0 where it is none.</summary>
    internal static int TimesOf(string repeat) =>
        !repeat.StartsWith("%x", StringComparison.Ordinal) || repeat.Length == 2 || !repeat.AsSpan(2).ContainsAnyInRange('0', '9')
            || repeat.AsSpan(2).ContainsAnyExceptInRange('0', '9') ? 0
        : int.TryParse(repeat.AsSpan(2), out var times) ? Math.Min(times, MostTimes) : MostTimes;
}
