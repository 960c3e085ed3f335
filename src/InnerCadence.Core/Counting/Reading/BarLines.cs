namespace InnerCadence.Core.Counting.Reading;

/// <summary>Divides a line at its bar lines; one at either end is allowed.</summary>
internal static class BarLines
{
    /// <summary>Spans of the bars from <paramref name="start"/> on. Strokes of the pen with nothing between are one bar line; a blank between makes a silent bar.</summary>
    public static List<(int From, int To)> Split(string text, int start, Language language)
    {
        var spans = new List<(int From, int To)>();
        for (var i = start; i <= text.Length; i++)
        {
            if (i < text.Length && text[i] != '|') continue;
            spans.Add((start, i));
            while (language == Language.Second && i + 1 < text.Length && text[i + 1] == '|') i++;
            start = i + 1;
        }
        if (spans.Count > 1 && IsBlank(spans[0])) spans.RemoveAt(0);
        if (spans.Count > 1 && IsBlank(spans[^1])) spans.RemoveAt(spans.Count - 1);
        return spans;

        bool IsBlank((int From, int To) span) => text.AsSpan(span.From, span.To - span.From).IsWhiteSpace();
    }
}
