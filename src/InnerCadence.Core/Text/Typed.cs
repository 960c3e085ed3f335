using System.Globalization;
using System.Text.RegularExpressions;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Text;

/// <summary>Reads what people type, into a field or a file; what cannot be read is told in a sentence that says what to write
/// instead.</summary>
public static partial class Typed
{
    public const int Name = 200;
    public const int Note = 10_000;
    public const int Bars = 100_000;

    public const string Unkeepable =
        "There is an invisible control character in this text that cannot be kept: write it again, or paste it without formatting.";

    /// <summary>Control characters other than line ends and tabs; a database text cannot hold the first of them.</summary>
    public static bool HasUnkeepable(string text) => text.Any(c => char.IsControl(c) && c is not ('\n' or '\r' or '\t'));

    /// <param name="missing">What to say where it is empty; nothing where it may be.</param>
    public static string Text(string? typed, Action<string> tell, string? missing = null, int most = Name)
    {
        var text = typed?.Trim() ?? "";
        if (text.Length == 0 && missing is not null) tell(missing);
        if (HasUnkeepable(text)) tell(Unkeepable);
        if (text.Length > most) tell($"This is {text.Length} characters long; {most} are kept. Shorten it.");
        return text;
    }

    public static int? Number(string? typed, Action<string> tell, int least, int most, string what)
    {
        if (string.IsNullOrWhiteSpace(typed)) return null;
        if (int.TryParse(typed.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number >= least
            && number <= most) return number;
        tell($"‘{typed}’ is not {what}: write a whole number from {least} to {most}.");
        return null;
    }

    public static double? Tempo(string? typed, Action<string> tell)
    {
        if (string.IsNullOrWhiteSpace(typed)) return null;
        if (Bpm.Parse(typed.Trim()) is { } tempo) return tempo.Value;
        // ~118 is about 118, 120-124 lies between: the middle counts, and the words are kept.
        if (RoughTempo().Match(typed.Trim()) is { Success: true } rough && Bpm.Parse(rough.Groups["from"].Value) is { } low)
        {
            if (rough.Groups["to"].Length == 0) return low.Value;
            if (Bpm.Parse(rough.Groups["to"].Value) is { } high && high.Value >= low.Value) return (low.Value + high.Value) / 2;
        }
        tell($"‘{typed}’ is no tempo: write quarters a minute from 20 to 400, such as 96 or 132.5.");
        return null;
    }

    public static ClockTime? Clock(string? typed, Action<string> tell)
    {
        if (string.IsNullOrWhiteSpace(typed)) return null;
        if (ClockTime.Parse(typed) is { } time) return time;
        tell($"‘{typed}’ is no time: write minutes and seconds, such as 3:12 or 1:32.410.");
        return null;
    }

    /// <summary>A clock time, or where a span of two begins: 1:40-1:50.</summary>
    public static (ClockTime At, ClockTime? To)? Span(string? typed, Action<string> tell)
    {
        var parts = (typed ?? "").Split(['-', '–'], 2, StringSplitOptions.TrimEntries);
        if (parts.Length < 2) return Clock(typed, tell) is { } at ? (at, null) : null;
        if (Clock(parts[0], tell) is not { } from || Clock(parts[1], tell) is not { } to) return null;
        if (to > from) return (from, to);
        tell($"‘{typed}’ ends before it begins.");
        return null;
    }

    /// <summary>As it stands on a sleeve; nothing, without a word, where nobody knows.</summary>
    public static PartialDate? Date(string? typed, Action<string> tell, DayMonth order = DayMonth.Unsaid)
    {
        if (string.IsNullOrWhiteSpace(typed) || SleeveDate.IsUnknown(typed)) return null;
        if (SleeveDate.Read(typed, order) is { } date) return date;
        if (SleeveDate.Read(typed, DayMonth.DayFirst) is { } one && SleeveDate.Read(typed, DayMonth.MonthFirst) is { } other)
            tell($"‘{typed}’ may be {one} or {other}: write the one that is meant.");
        else tell($"‘{typed}’ is no date: write as much as is known, 1971, 1971-03, 12 March 1971, spring 1971, c. 1970 or a span, "
            + "1971-03 to 1972.");
        return null;
    }

    /// <summary>What was typed, where it says the date in other words than the date itself and says it by itself: 3/4/1971 is another day
    /// to who reads it without its file.</summary>
    public static string Said(string? typed, PartialDate? read) =>
        read is { } date && SleeveDate.Read(typed!) == date ? Said(typed, date.ToString()) : "";

    /// <summary>What was typed, where that is not what was read already.</summary>
    public static string Said(string? typed, string? read) => string.IsNullOrWhiteSpace(typed) || read is null || typed.Trim() == read ? ""
        : typed.Trim() is var said && said.Length > Name ? said[..Name] : said;

    public static T Choice<T>(string? chosen, Action<string> tell) where T : struct,
        IWord<T> => OneOf<T>.Find(Choice(chosen, OneOf<T>.Words, tell)) ?? T.All[0];

    public static string Choice(string? chosen, IReadOnlyList<string> choices, Action<string> tell)
    {
        if (choices.FirstOrDefault(c => string.Equals(c, chosen?.Trim(), StringComparison.OrdinalIgnoreCase)) is { } choice) return choice;
        tell($"Choose one of {string.Join(", ", choices)}.");
        return choices[0];
    }

    /// <summary>Reads a bar, 33, or a span of them, 33-64, inside the bars that there are; nothing where it is none.</summary>
    public static (int First, int Last)? BarSpan(string? typed, int most)
    {
        var parts = (typed ?? "").Replace('–', '-').Split('-', StringSplitOptions.TrimEntries);
        if (parts.Length > 2 || !parts.All(p => int.TryParse(p, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n >= 1
            && n <= most)) return null;
        var (first, last) = (int.Parse(parts[0], CultureInfo.InvariantCulture), int.Parse(parts[^1], CultureInfo.InvariantCulture));
        return last >= first ? (first, last) : null;
    }

    /// <summary>
    /// What was searched: 40 is an amount of which nobody says where, 1-40 and 1-16, 33-48 are bars. Nothing where it is none of these, or
    /// lies beyond the bars that there are.
    /// </summary>
    public static IReadOnlyList<(int? From, int Bars)>? Searched(string? typed, int most)
    {
        if (int.TryParse(typed?.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var amount)) return amount >= 1
            && amount <= most ? [(null, amount)] : null;
        var spans = (typed ?? "").Split([',', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Select(part => BarSpan(part, most)).ToList();
        return spans.Count == 0 || spans.Contains(null) ? null
            : [.. spans.Select(s => ((int?)s!.Value.First, s.Value.Last - s.Value.First + 1))];
    }

    /// <summary>Meters that bars take in turn; 4/4 where nothing is typed.</summary>
    public static string Meters(string? typed, Action<string> tell)
    {
        var meters = Text(string.IsNullOrWhiteSpace(typed) ? "4/4" : typed, tell);
        if (meters.Split(' ', StringSplitOptions.RemoveEmptyEntries).Any(m => Meter.Parse(m) is null))
            tell($"‘{typed}’ is no meter: write for example 4/4, or 5/8 7/8 for bars in turn.");
        return meters;
    }

    /// <summary>Codes of toms from high to low; empty where nothing is typed.</summary>
    public static string Toms(string? typed, Action<string> tell)
    {
        if (Kit.ReadToms(typed) is { } toms) return string.Join(' ', toms);
        if (!string.IsNullOrWhiteSpace(typed)) tell(
            "Name the toms of the kit from high to low by their codes: T1 T2 T3 T4 FT F2, such as T1 FT.");
        return typed?.Trim() ?? "";
    }

    [GeneratedRegex(@"^(?:(?:circa|ca\.?|c\.?|about|~)\s*)?(?<from>\d{2,3}(?:\.\d+)?)(?:\s*(?:-|–|to)\s*(?<to>\d{2,3}(?:\.\d+)?))?\s*(?:bpm)?\??$",
        RegexOptions.IgnoreCase)]
    private static partial Regex RoughTempo();
}
