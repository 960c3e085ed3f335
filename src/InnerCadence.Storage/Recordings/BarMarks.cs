using System.Globalization;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;

namespace InnerCadence.Storage.Recordings;

/// <summary>Bar marks as text: a bar and its clock time, 17 0:38.2, divided by line ends or semicolons.</summary>
public static class BarMarks
{
    public const int Most = 20_000;

    /// <summary>Nothing, with the first fault told, where a mark cannot be read or two contradict each other.</summary>
    public static IReadOnlyList<BarMark>? Read(string? text, Action<string> tell)
    {
        var marks = new SortedDictionary<int, BarMark>();
        foreach (var item in (text ?? "").Split(['\n', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var parts = item.Split([' ', '\t'], StringSplitOptions.RemoveEmptyEntries);
            if (parts.Length != 2 || !int.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var bar)
                || bar is < 1 or > Typed.Bars || ClockTime.Parse(parts[1]) is not { } at)
                return Tell($"‘{(item.Length > 40 ? item[..40] + "…" : item)}’ is no mark: write a bar and its clock time, such as 17 "
                    + $"0:38.2.");
            if (!marks.TryAdd(bar, new(bar, at)) && marks[bar].At != at) return Tell(
                $"Bar {bar} stands twice, at {marks[bar].At} and at {at}: take one of them out.");
            if (marks.Count > Most) return Tell($"At most {Most} bars can be marked.");
        }
        BarMark? before = null;
        foreach (var mark in marks.Values)
        {
            if (before is { } earlier && mark.At.CompareTo(earlier.At) <= 0) return Tell(
                $"Bar {mark.Bar} at {mark.At} does not come after bar {earlier.Bar} at {earlier.At}: put one of them right.");
            before = mark;
        }
        return [.. marks.Values];

        IReadOnlyList<BarMark>? Tell(string message)
        {
            tell(message);
            return null;
        }
    }

    /// <summary>Of new marks those that go forward together with the ones that are there, and with each other; what is there always
    /// stays.</summary>
    public static IReadOnlyList<BarMark> Fitting(IEnumerable<BarMark> there, IEnumerable<BarMark> added)
    {
        var all = there.ToDictionary(m => m.Bar);
        var fitting = new List<BarMark>();
        foreach (var mark in added.OrderBy(m => m.Bar))
        {
            if (all.Values.Any(m => m.Bar == mark.Bar || (m.Bar < mark.Bar) != (m.At.CompareTo(mark.At) < 0))) continue;
            all[mark.Bar] = mark;
            fitting.Add(mark);
        }
        return fitting;
    }

    /// <summary>The marks with some bar lines laid where they were heard: the first and the last are marked, those between only where they
    /// were before.</summary>
    /// <returns>Nothing, with the reason told, where a mark beside them would no longer go forward.</returns>
    public static IReadOnlyList<BarMark>? Laid(IReadOnlyCollection<BarMark> there, IReadOnlyList<BarMark> lines, Action<string> tell)
    {
        var (first, last) = (lines[0].Bar, lines[^1].Bar);
        var known = there.Select(m => m.Bar).ToHashSet();
        return Read(Say([.. there.Where(m => m.Bar < first || m.Bar > last),
            .. lines.Where(l => l.Bar == first || l.Bar == last || known.Contains(l.Bar))]), tell);
    }

    public static string Say(IEnumerable<BarMark> marks) => string.Join('\n', marks.Select(m => $"{m.Bar} {m.At}"));
}
