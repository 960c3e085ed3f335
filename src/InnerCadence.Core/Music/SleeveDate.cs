using System.Globalization;
using System.Text.RegularExpressions;

namespace InnerCadence.Core.Music;

/// <summary>In which order a file writes day and month with strokes between; nobody said.</summary>
public enum DayMonth { Unsaid, DayFirst, MonthFirst }

/// <summary>Dates as they stand on sleeves: March 1972, spring 1972, 1974/75, c. 1970, before 1969, the early 1970s.</summary>
/// <remarks>Circa, ~ and ? take in a year on either side; before and after ten years. Spring is March to May, summer June to August, autumn
/// September to November; winter of one year takes in both its ends.</remarks>
public static partial class SleeveDate
{
    private const int Around = 1, Open = 10;

    /// <summary>Nothing where the text is no date, or where day and month could be either and nobody said the order.</summary>
    public static PartialDate? Read(string text, DayMonth order = DayMonth.Unsaid)
    {
        var said = Blanks().Replace(text.Trim().Trim('[', ']', '(', ')').ToLowerInvariant().Replace('–', '-').Replace('—', '-'), " ");
        if (PartialDate.Parse(said) is { } plain) return plain;
        if (Circa().Match(said) is { Success: true } circa && (circa.Groups["before"].Length > 0 || circa.Groups["after"].Length > 0))
            return Read(circa.Groups["date"].Value, order) is { } about
                ? Of(about.Earliest.Year - Around, about.Earliest.Month, about.Earliest.Day,
                    about.Latest.Year + Around, about.Latest.Month, about.Latest.Day) : null;
        if (Bound().Match(said) is { Success: true } bound && Read(bound.Groups["date"].Value, order) is { } edge)
            return bound.Groups["word"].Value is "before" or "by" or "pre"
                ? new(edge.Earliest.AddYears(-Open), bound.Groups["word"].Value == "by" ? edge.Latest : edge.Earliest.AddDays(-1))
                : new(bound.Groups["word"].Value == "from" ? edge.Earliest : edge.Latest.AddDays(1), edge.Latest.AddYears(Open));
        if (Years().Match(said) is { Success: true } years)
        {
            var (from, last) = (Number(years, "from"), years.Groups["to"].Value);
            var to = last.Length == 4 ? int.Parse(last, CultureInfo.InvariantCulture)
                : from / 100 * 100 + int.Parse(last, CultureInfo.InvariantCulture);
            return to >= from && to - from <= 50 ? Of(from, 1, 1, to, 12, 31) : null;
        }
        if (Decade().Match(said) is { Success: true } decade) return Part(decade.Groups["part"].Value, Year(decade.Groups["year"].Value),
            10);
        if (PartOfYear().Match(said) is { Success: true } part) return Part(part.Groups["part"].Value, Number(part, "year"), 1);
        if (Season().Match(said) is { Success: true } season) return OfSeason(season);
        if (Months().Match(said) is { Success: true } months && MonthOf(months.Groups["to"].Value) is { } until
            && MonthOf(months.Groups["from"].Value) is { } since)
            return Of(Number(months, "year"), since, 1, Number(months, "year"), until, null);
        if ((DayMonthYear().Match(said) is { Success: true } day ? day : MonthDayYear().Match(said)) is { Success: true } named
            && MonthOf(named.Groups["month"].Value) is { } month)
            return Of(Number(named, "year"), month, named.Groups["from"].Length > 0 ? Number(named, "from") : 1, Number(named, "year"),
                month,
                named.Groups["to"].Length > 0 ? Number(named, "to") : named.Groups["from"].Length > 0 ? Number(named, "from") : null);
        return Figures().Match(said) is { Success: true } figures ? OfFigures(figures, order) : null;
    }

    /// <summary>The text is a date whose day and month could be either.</summary>
    public static bool AsksForOrder(string text) => Read(text) is null && Read(text, DayMonth.DayFirst) is not null;

    /// <summary>Which comes first in dates that are written alike: one of them has a figure that can be a day only, and none says the
    /// other.</summary>
    public static DayMonth OrderIn(IEnumerable<string> dates)
    {
        var (day, month) = (false, false);
        foreach (var figures in dates.Select(d => Figures().Match(d.Trim())).Where(m => m.Success && m.Groups["mark"].Value != "."))
        {
            day |= Number(figures, "a") > 12;
            month |= Number(figures, "b") > 12;
        }
        return day == month ? DayMonth.Unsaid : day ? DayMonth.DayFirst : DayMonth.MonthFirst;
    }

    /// <summary>What stands where nobody knows: ?, unknown, n.d.</summary>
    public static bool IsUnknown(string text) => text.Trim().ToLowerInvariant() is "?" or "unknown" or "n.d." or "nd" or "n/a" or "-" or "–";

    private static PartialDate? OfFigures(Match figures, DayMonth order)
    {
        var (a, b, year) = (Number(figures, "a"), Number(figures, "b"), Year(figures.Groups["year"].Value));
        // With full stops the day comes first wherever dates are written so.
        var first = figures.Groups["mark"].Value == "." ? DayMonth.DayFirst : order;
        return a > 12 || (b <= 12 && first == DayMonth.DayFirst) || (a == b) ? Of(year, b, a, year, b, a)
            : b > 12 || first == DayMonth.MonthFirst ? Of(year, a, b, year, a, b) : null;
    }

    private static PartialDate? OfSeason(Match season)
    {
        var year = Number(season, "year");
        var two = season.Groups["next"].Length > 0;
        return season.Groups["season"].Value switch
        {
            "spring" => Of(year, 3, 1, year, 5, null),
            "summer" => Of(year, 6, 1, year, 8, null),
            "autumn" or "fall" => Of(year, 9, 1, year, 11, null),
            _ => two ? Of(year, 12, 1, year + 1, 2, null) : Of(year, 1, 1, year + 1, 2, null),
        };
    }

    /// <summary>Thirds of a year or of a decade.</summary>
    private static PartialDate? Part(string part, int year, int length) => (part.Trim().TrimEnd('-'), length) switch
    {
        ("early", 1) => Of(year, 1, 1, year, 4, null),
        ("mid" or "middle of", 1) => Of(year, 5, 1, year, 8, null),
        ("late", 1) => Of(year, 9, 1, year, 12, null),
        ("early", _) => Of(year, 1, 1, year + 3, 12, null),
        ("mid" or "middle of", _) => Of(year + 4, 1, 1, year + 6, 12, null),
        ("late", _) => Of(year + 7, 1, 1, year + 9, 12, null),
        _ => Of(year, 1, 1, year + length - 1, 12, null),
    };

    /// <param name="toDay">Nothing for the last of its month.</param>
    private static PartialDate? Of(int fromYear, int fromMonth, int fromDay, int toYear, int toMonth, int? toDay)
    {
        if (fromYear is < 1 or > 9998 || toYear is < 1 or > 9998 || fromMonth is < 1 or > 12 || toMonth is < 1 or > 12) return null;
        var last = DateTime.DaysInMonth(toYear, toMonth);
        fromDay = fromYear != toYear ? Math.Min(fromDay, DateTime.DaysInMonth(fromYear, fromMonth)) : fromDay;
        if (fromDay < 1 || fromDay > DateTime.DaysInMonth(fromYear, fromMonth) || toDay < 1) return null;
        if (toDay > last && fromYear == toYear) return null;
        var (from, to) = (new DateOnly(fromYear, fromMonth, fromDay), new DateOnly(toYear, toMonth, Math.Min(toDay ?? last, last)));
        return from <= to ? new(from, to) : null;
    }

    private static int Number(Match match, string group) => int.Parse(match.Groups[group].Value, CultureInfo.InvariantCulture);

    /// <summary>Two figures are of the twentieth century from 30 on.</summary>
    private static int Year(string figures) => int.Parse(figures, CultureInfo.InvariantCulture) is var year && figures.Length > 2 ? year
        : year >= 30 ? 1900 + year : 2000 + year;

    private static int? MonthOf(string name) => name.Length < 3 ? null : Array.FindIndex(MonthNames, m =>
        m.StartsWith(name.TrimEnd('.'), StringComparison.Ordinal) || (name.TrimEnd('.') == "sept" && m[0] == 's')) is >= 0 and var i
            ? i + 1 : null;

    private static readonly string[] MonthNames =
    [
        "january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november", "december",
    ];

    [GeneratedRegex(@"\s+")]
    private static partial Regex Blanks();

    [GeneratedRegex(@"^(?<before>(?:circa|ca\.?|c\.?|about|around|probably|~)\s*)?(?<date>\S.*?)\s*(?<after>\(?\?\)?)?$")]
    private static partial Regex Circa();

    [GeneratedRegex(@"^(?<word>before|by|pre|after|from|since|post)[ -](?<date>\S.*)$")]
    private static partial Regex Bound();

    [GeneratedRegex(@"^(?<from>\d{4})\s*[/-]\s*(?<to>\d{4}|\d{2})$")]
    private static partial Regex Years();

    [GeneratedRegex(@"^(?:the )?(?<part>early |mid[ -]|middle of |late )?(?:the )?'?(?<year>\d{3}0|\d0)'?s$")]
    private static partial Regex Decade();

    [GeneratedRegex(@"^(?<part>early |mid[ -]|middle of |late )(?<year>\d{4})$")]
    private static partial Regex PartOfYear();

    [GeneratedRegex(@"^(?<season>spring|summer|autumn|fall|winter)(?: of)?,? (?<year>\d{4})(?<next>\s*[/-]\s*\d{2,4})?$")]
    private static partial Regex Season();

    [GeneratedRegex(@"^(?<from>[a-z]{3,9})\.?\s*(?:/|-|to|and|or)\s*(?<to>[a-z]{3,9})\.?,? (?<year>\d{4})$")]
    private static partial Regex Months();

    [GeneratedRegex(@"^(?:(?<from>\d{1,2})(?:st|nd|rd|th)?(?:\s*(?:/|-|to|and)\s*(?<to>\d{1,2})(?:st|nd|rd|th)?)?(?: of)? )?(?<month>[a-z]{3,9})\.?,? (?<year>\d{4})$")]
    private static partial Regex DayMonthYear();

    [GeneratedRegex(@"^(?<month>[a-z]{3,9})\.? (?<from>\d{1,2})(?:st|nd|rd|th)?(?:\s*(?:/|-|to|and)\s*(?<to>\d{1,2})(?:st|nd|rd|th)?)?,? (?<year>\d{4})$")]
    private static partial Regex MonthDayYear();

    [GeneratedRegex(@"^(?<a>\d{1,2})(?<mark>[./-])\s?(?<b>\d{1,2})\k<mark>\s?(?<year>\d{4}|\d{2})$")]
    private static partial Regex Figures();
}
