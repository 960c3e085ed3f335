using System.Globalization;
using System.Text.RegularExpressions;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Timing;

/// <summary>A printed chart beside a recording: its bars carry other numbers, and repeats are printed once.</summary>
/// <param name="FirstBar">The bar of the recording in which bar 1 of the chart is played.</param>
/// <param name="Repeats">Stretches of the chart that are played more than once, in its order, not overlapping.</param>
public sealed partial record Chart(int FirstBar, ValueList<(int From, int To, int Times)> Repeats)
{
    /// <summary>Reads 9-16 x2, 25-32 x3; nothing when a stretch cannot be read or they overlap.</summary>
    public static ValueList<(int From, int To, int Times)>? ParseRepeats(string text)
    {
        var repeats = new List<(int From, int To, int Times)>();
        foreach (var item in text.Split([',', ';', '\n'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            if (Form().Match(item) is not { Success: true } match) return null;
            var (from, to, times) = (Number(match, 1), Number(match, 2), Number(match, 3));
            if (from < 1 || to < from || times is < 2 or > 99 || (repeats.Count > 0 && from <= repeats[^1].To)) return null;
            repeats.Add((from, to, times));
        }
        return repeats;
    }

    public static string SayRepeats(IEnumerable<(int From, int To, int Times)> repeats) =>
        string.Join(", ", repeats.Select(r => $"{r.From}-{r.To} x{r.Times}"));

    /// <summary>The bar of the chart, and for the how-manieth time, that is played in a bar of the recording; nothing before the chart
    /// begins.</summary>
    public (int Bar, int Time)? ChartBarOf(int bar)
    {
        var left = bar - FirstBar;
        if (left < 0) return null;
        var next = 1;
        foreach (var (from, to, times) in Repeats)
        {
            if (left < from - next) break;
            left -= from - next;
            var length = to - from + 1;
            if (left < length * times) return (from + left % length, left / length + 1);
            (left, next) = (left - length * times, to + 1);
        }
        return (next + left, 1);
    }

    /// <summary>A bar of the recording, or of the chart laid beside it: 41, chart 66.</summary>
    public static int? BarTyped(string? typed, Chart? chart, Action<string> tell)
    {
        if (typed?.Trim() is not { } text || !text.StartsWith("chart", StringComparison.OrdinalIgnoreCase)) return Typed.Number(typed,
            tell, 1, Typed.Bars, "a bar");
        if (Typed.Number(text[5..], tell, 1, Typed.Bars, "a bar of the chart") is not { } printed) return null;
        if (chart is null) tell("No chart is laid beside this recording yet: say on its page for tempo and bars in which bar it begins.");
        else if (chart.BarsOf(printed) is [var only]) return only;
        else tell(chart.BarsOf(printed) is { Count: > 0 } several
            ? $"Bar {printed} of the chart is played in bars {string.Join(" and ", several)}: write which."
            : $"Bar {printed} of the chart is not played.");
        return null;
    }

    /// <summary>Every bar of the recording in which a bar of the chart is played.</summary>
    public IReadOnlyList<int> BarsOf(int chartBar)
    {
        var (at, next) = (FirstBar, 1);
        foreach (var (from, to, times) in Repeats)
        {
            if (chartBar < from) break;
            at += from - next;
            var length = to - from + 1;
            if (chartBar <= to) return [.. Enumerable.Range(0, times).Select(time => at + chartBar - from + time * length)];
            (at, next) = (at + length * times, to + 1);
        }
        return [at + chartBar - next];
    }

    private static int Number(Match match, int group) => int.Parse(match.Groups[group].Value, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"^(\d{1,5})\s*[-–]\s*(\d{1,5})\s*x\s*(\d{1,2})$")]
    private static partial Regex Form();
}
