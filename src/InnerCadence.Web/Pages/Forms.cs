using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Timing;
using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace InnerCadence.Web.Pages;

/// <summary>Reads what was typed into fields; what cannot be read is told beside its field, and the text stays.</summary>
internal static class Forms
{
    public static string Text(this ModelStateDictionary problems, string field, string? typed, string? missing = null, int most = Limits.Name)
    {
        var text = typed?.Trim() ?? "";
        if (text.Length == 0 && missing is not null) problems.AddModelError(field, missing);
        if (HasUnkeepable(text)) problems.AddModelError(field, Unkeepable);
        if (text.Length > most) problems.AddModelError(field, $"This is {text.Length} characters long; {most} are kept. Shorten it.");
        return text;
    }

    public const string Unkeepable = "There is an invisible control character in this text that cannot be kept: write it again, or paste it without formatting.";

    /// <summary>Control characters other than line ends and tabs; a database text cannot hold the first of them.</summary>
    public static bool HasUnkeepable(string text) => text.Any(c => char.IsControl(c) && c is not ('\n' or '\r' or '\t'));

    public static int? Number(this ModelStateDictionary problems, string field, string? typed, int least, int most, string what)
    {
        if (string.IsNullOrWhiteSpace(typed)) return null;
        if (int.TryParse(typed.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number >= least && number <= most) return number;
        problems.AddModelError(field, $"‘{typed}’ is not {what}: write a whole number from {least} to {most}.");
        return null;
    }

    public static double? Tempo(this ModelStateDictionary problems, string field, string? typed)
    {
        if (string.IsNullOrWhiteSpace(typed)) return null;
        if (Core.Music.Bpm.Parse(typed.Trim()) is { } tempo) return tempo.Value;
        problems.AddModelError(field, $"‘{typed}’ is no tempo: write quarters a minute from 20 to 400, such as 96 or 132.5.");
        return null;
    }

    public static ClockTime? Clock(this ModelStateDictionary problems, string field, string? typed)
    {
        if (string.IsNullOrWhiteSpace(typed)) return null;
        if (ClockTime.Parse(typed) is { } time) return time;
        problems.AddModelError(field, $"‘{typed}’ is no time: write minutes and seconds, such as 3:12 or 1:32.410.");
        return null;
    }

    public static PartialDate? Date(this ModelStateDictionary problems, string field, string? typed)
    {
        if (string.IsNullOrWhiteSpace(typed)) return null;
        if (PartialDate.Parse(typed) is { } date) return date;
        problems.AddModelError(field, $"‘{typed}’ is no date: write as much as is known, 1971, 1971-03 or 1971-03-12.");
        return null;
    }

    public static string Choice(this ModelStateDictionary problems, string field, string? chosen, IReadOnlyList<string> choices)
    {
        if (chosen is not null && choices.Contains(chosen)) return chosen;
        problems.AddModelError(field, $"Choose one of {string.Join(", ", choices)}.");
        return choices[0];
    }
}
