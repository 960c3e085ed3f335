using System.Text.RegularExpressions;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Telling;

/// <summary>Something in an article that the study fills in: [[rate:cellar door]], [[claim:3]], [[source:12@1:32.4]].</summary>
/// <param name="Kind">What is filled in; see <see cref="Kinds"/>.</param>
/// <param name="Argument">Of what: the nickname of an idea, a number, a key.</param>
public sealed partial record Reference(string Kind, string Argument)
{
    /// <summary>
    /// claim: how one stands. rate, presence, count, first: numbers of an idea, of the subject; sentence: all of them in words.
    /// feel: how early or late a voice is, over all that was measured of the subject; against another with “snare against ride”. example: a
    /// numbered figure with its notation, of an idea or of “passage 12”.
    /// source: a recording by its number, with @ and a clock time, and with / and an issue's number. cite: another source by its key.
    /// </summary>
    public static readonly IReadOnlyList<string> Kinds = ["claim", "rate", "presence", "count", "first", "sentence", "feel", "example",
        "source", "cite"];

    /// <summary>As it is written, between its brackets.</summary>
    public string Code => $"{Kind}:{Argument}";

    /// <summary>Says a number or a standing that can change with the evidence.</summary>
    public bool IsLive => Kind is "claim" or "rate" or "presence" or "count" or "first" or "sentence" or "feel";

    /// <summary>Reads what stands between the brackets; nothing where it is none.</summary>
    public static Reference? Parse(string text) => Form().Match(text) is { Success: true } m
        && Kinds.Contains(m.Groups[1].Value.ToLowerInvariant()) ? new(m.Groups[1].Value.ToLowerInvariant(), m.Groups[2].Value.Trim())
        : null;

    [GeneratedRegex(@"^\s*([A-Za-z]+)\s*:\s*([^\[\]\r\n]{1,200})$")]
    private static partial Regex Form();
}

/// <summary>A recording cited at a clock time.</summary>
/// <param name="At">Milliseconds of the recording's own clock; nothing where the whole is cited.</param>
/// <param name="Issue">Number of the issue on whose clock the reader looks; nothing for the first there is.</param>
public sealed partial record SourcePlace(long Recording, ClockTime? At, long? Issue)
{
    /// <summary>12, 12@1:32.4, 12@1:32.4/3; nothing where it cannot be read.</summary>
    public static SourcePlace? Parse(string text)
    {
        if (Form().Match(text) is not { Success: true } m || !long.TryParse(m.Groups[1].Value, out var recording)) return null;
        var at = m.Groups[2].Success ? ClockTime.Parse(m.Groups[2].Value) : null;
        if (m.Groups[2].Success && at is null) return null;
        return new(recording, at, m.Groups[3].Success && long.TryParse(m.Groups[3].Value, out var issue) ? issue : null);
    }

    [GeneratedRegex(@"^(\d{1,18})(?:\s*@\s*([0-9:.]+))?(?:\s*/\s*(\d{1,18}))?$")]
    private static partial Regex Form();
}
