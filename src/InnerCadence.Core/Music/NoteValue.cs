using System.Globalization;
using System.Text.RegularExpressions;

namespace InnerCadence.Core.Music;

/// <summary>An exact share of a whole note: 1/4 a quarter, 3/16 a dotted eighth, 1/6 a quarter of a triplet.</summary>
public readonly partial record struct NoteValue
{
    private NoteValue(long upper, long lower)
    {
        var common = Common(upper, lower);
        (Upper, Lower) = (upper / common, lower / common);
    }

    public long Upper { get; }
    public long Lower { get; }

    public static NoteValue Quarter { get; } = new(1, 4);

    /// <exception cref="ArgumentOutOfRangeException">Not above zero.</exception>
    public static NoteValue Of(long upper, long lower)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(upper);
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(lower);
        return new(upper, lower);
    }

    /// <summary>Reads 3/16; nothing when it is no share of a note, or one that nobody plays: upper figure to 64, lower to 192.</summary>
    public static NoteValue? Parse(string? text) =>
        Form().Match(text?.Trim() ?? "") is { Success: true } match
        && int.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture) is >= 1 and <= 64 and var upper
        && int.Parse(match.Groups[2].Value, CultureInfo.InvariantCulture) is >= 1 and <= 192 and var lower
            ? new NoteValue(upper, lower) : null;

    public double Wholes => (double)Upper / Lower;

    public static NoteValue operator *(NoteValue a, NoteValue b) => new(a.Upper * b.Upper, a.Lower * b.Lower);
    public static NoteValue operator /(NoteValue a, NoteValue b) => new(a.Upper * b.Lower, a.Lower * b.Upper);

    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Upper}/{Lower}");

    private static long Common(long a, long b) => b == 0 ? a : Common(b, a % b);

    [GeneratedRegex(@"^(\d{1,3})\s*/\s*(\d{1,3})$")]
    private static partial Regex Form();
}
