using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>Divides a line at its bar lines; one at either end is allowed.</summary>
internal static class BarLines
{
    private static void LookAtRepeat(SourceLine line, int from, int to)
    {
        var bar = line.Text.AsSpan(from, to - from);
        if (bar.TrimStart() is not ['%', ..] sign) return;
        var blank = sign.IndexOf(' ');
        line.Is(Look.Bar, from + bar.Length - sign.Length, blank < 0 ? sign.Length : blank);
    }

    /// <summary>Spans of the bars from <paramref name="start"/> on. Strokes of the pen with nothing between are one bar line; a blank
    /// between makes a silent bar.</summary>
    public static List<(int From, int To)> Split(SourceLine line, int start, Language language)
    {
        var text = line.Text;
        var spans = new List<(int From, int To)>();
        for (var i = start; i <= text.Length; i++)
        {
            if (i < text.Length && text[i] != '|') continue;
            spans.Add((start, i));
            LookAtRepeat(line, start, i);
            var pen = i;
            while (language == Language.Second && i + 1 < text.Length && text[i + 1] == '|') i++;
            if (pen < text.Length) line.Is(Look.Bar, pen, i + 1 - pen);
            start = i + 1;
        }
        if (spans.Count > 1 && IsBlank(spans[0])) spans.RemoveAt(0);
        if (spans.Count > 1 && IsBlank(spans[^1])) spans.RemoveAt(spans.Count - 1);
        return spans;

        bool IsBlank((int From, int To) span) => text.AsSpan(span.From, span.To - span.From).IsWhiteSpace();
    }
}
