using System.Globalization;
using System.Text.RegularExpressions;

namespace InnerCadence.Core.Music;

/// <summary>A time on the clock of a recording, or a duration, in whole milliseconds; said as m:ss.mmm.</summary>
/// <remarks>Not a <see cref="Music.Tick"/>, which is a place in written music. 1:32.410 is 92410 ms.</remarks>
public readonly partial record struct ClockTime(int Milliseconds) : IComparable<ClockTime>
{
    private const int Hour = 3_600_000, Minute = 60_000, Second = 1000;

    public static ClockTime operator +(ClockTime a, ClockTime b) => new(a.Milliseconds + b.Milliseconds);

    public static bool operator <(ClockTime a, ClockTime b) => a.Milliseconds < b.Milliseconds;
    public static bool operator >(ClockTime a, ClockTime b) => a.Milliseconds > b.Milliseconds;
    public static bool operator <=(ClockTime a, ClockTime b) => a.Milliseconds <= b.Milliseconds;
    public static bool operator >=(ClockTime a, ClockTime b) => a.Milliseconds >= b.Milliseconds;

    public int CompareTo(ClockTime other) => Milliseconds.CompareTo(other.Milliseconds);

    /// <summary>m:ss, m:ss.mmm, h:mm:ss or bare seconds; nothing when the text is no time, or a day and longer.</summary>
    public static ClockTime? Parse(string text)
    {
        if (Form().Match(text.Trim()) is not { Success: true } match) return null;
        var parts = match.Groups["whole"].Value.Split(':').Select(p => long.Parse(p, CultureInfo.InvariantCulture)).ToArray();
        if (parts.Length > 1 && parts.Skip(1).Any(p => p > 59)) return null;
        var seconds = parts.Aggregate(0L, (sum, part) => sum * 60 + part);
        var fraction = match.Groups["part"].Value.PadRight(3, '0')[..3];
        var total = seconds * Second + int.Parse(fraction, CultureInfo.InvariantCulture);
        return total < 24L * Hour ? new((int)total) : null;
    }

    /// <summary>Without what is zero: 3:12, 1:32.410, 1:04:05.</summary>
    public override string ToString()
    {
        var (hours, minutes, seconds, rest) = (Milliseconds / Hour, Milliseconds / Minute % 60, Milliseconds / Second % 60,
            Milliseconds % Second);
        var text = hours > 0 ? $"{hours}:{minutes:00}:{seconds:00}" : $"{minutes}:{seconds:00}";
        return rest > 0 ? $"{text}.{rest:000}" : text;
    }

    [GeneratedRegex(@"^(?<whole>\d{1,5}(?::\d{1,2}){0,2})(?:[.,](?<part>\d{1,6}))?$")]
    private static partial Regex Form();
}
