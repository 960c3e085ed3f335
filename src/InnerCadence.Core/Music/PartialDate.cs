using System.Globalization;

namespace InnerCadence.Core.Music;

/// <summary>A date as well as it is known: a year, a month or a day; from the earliest day it can be to the latest.</summary>
public readonly record struct PartialDate(DateOnly Earliest, DateOnly Latest)
{
    /// <summary>Reads 1971, 1971-03, 1971-03-12 or a span of them, 1971-03 to 1972; nothing when the text is no date or runs
    /// backwards.</summary>
    public static PartialDate? Parse(string text)
    {
        if (text.Split(" to ", 3) is [var from, var to])
            return ParseOne(from) is { } first && ParseOne(to) is { } last && first.Earliest <= last.Latest
                ? new(first.Earliest, last.Latest) : null;
        return ParseOne(text);
    }

    private static PartialDate? ParseOne(string text)
    {
        text = text.Trim();
        if (DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)) return new(day,
            day);
        if (DateOnly.TryParseExact(text, "yyyy-MM", CultureInfo.InvariantCulture, DateTimeStyles.None, out var month))
            return new(month, month.AddMonths(1).AddDays(-1));
        if (text.Length == 4 && int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var year) && year > 0)
            return new(new(year, 1, 1), new(year, 12, 31));
        return null;
    }

    public override string ToString()
    {
        if (Earliest == Latest) return Earliest.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        if (Earliest is { Day: 1, Month: 1 } && Latest is { Day: 31, Month: 12 }
            && Earliest.Year == Latest.Year) return $"{Earliest.Year:0000}";
        if (Earliest.Day == 1 && Latest == Earliest.AddMonths(1).AddDays(-1)) return Earliest.ToString("yyyy-MM",
            CultureInfo.InvariantCulture);
        // A span is said as roughly as its ends are known.
        var form = Earliest is { Day: 1, Month: 1 } && Latest is { Day: 31, Month: 12 } ? "yyyy" : Earliest.Day == 1
            && Latest.AddDays(1).Day == 1 ? "yyyy-MM" : "yyyy-MM-dd";
        return $"{Earliest.ToString(form, CultureInfo.InvariantCulture)} to {Latest.ToString(form, CultureInfo.InvariantCulture)}";
    }
}
