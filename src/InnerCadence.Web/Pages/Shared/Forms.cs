using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>Reads what was typed into fields; what cannot be read is told beside its field, and the text stays.</summary>
internal static class Forms
{
    public static string Text(this ModelStateDictionary problems, string field, string? typed, string? missing = null,
        int most = Typed.Name) =>
        Typed.Text(typed, Tell(problems, field), missing, most);

    public static int? Number(this ModelStateDictionary problems, string field, string? typed, int least, int most, string what) =>
        Typed.Number(typed, Tell(problems, field), least, most, what);

    public static ClockTime? Clock(this ModelStateDictionary problems, string field, string? typed) =>
        Typed.Clock(typed, Tell(problems, field));

    public static PartialDate? Date(this ModelStateDictionary problems, string field, string? typed) =>
        Typed.Date(typed, Tell(problems, field));

    public static T Choice<T>(this ModelStateDictionary problems, string field, string? chosen) where T : struct,
        IWord<T> => Typed.Choice<T>(chosen, Tell(problems, field));

    public static string Choice(this ModelStateDictionary problems, string field, string? chosen, IReadOnlyList<string> choices) =>
        Typed.Choice(chosen, choices, Tell(problems, field));

    private static Action<string> Tell(ModelStateDictionary problems, string field) => message => problems.AddModelError(field, message);
}
