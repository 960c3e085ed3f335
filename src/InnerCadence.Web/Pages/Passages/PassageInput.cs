using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>The fields of a passage as typed.</summary>
public sealed class PassageInput
{
    public string? Text { get; set; } = "";
    public string? StartsAt { get; set; }
    public string? Bar { get; set; }
    public string? Section { get; set; }
    public string? Kind { get; set; } = "groove";
    public bool Looped { get; set; }
    public bool BecauseHeard { get; set; }
    public string? Note { get; set; }
    public int Version { get; set; }

    public static PassageInput Of(PassageRow passage) => new()
    {
        Text = passage.Text,
        StartsAt = passage.StartsAt?.ToString(),
        Bar = passage.Bar?.ToString(CultureInfo.InvariantCulture),
        Section = passage.Section,
        Kind = passage.Kind,
        Looped = passage.Looped,
        BecauseHeard = passage.BecauseHeard,
        Note = passage.Note,
        Version = passage.Version,
    };

    /// <summary>
    /// Nothing, with the problems told, where a field cannot be read. Faults in the count lines do not stand in the way:
    /// the text is kept as typed and its good lines count.
    /// </summary>
    public PassageDraft? Read(ModelStateDictionary problems)
    {
        var text = (Text ?? "").Replace("\r\n", "\n");
        if (Forms.HasUnkeepable(text)) problems.AddModelError("Input.Text", Forms.Unkeepable);
        if (text.Length > 4 * MostText) problems.AddModelError("Input.Text", "The text is too long to keep: split it into several passages.");
        var draft = new PassageDraft
        {
            Text = text,
            Bars = CountLines.Parse(text).Passage.Bars,
            StartsAt = problems.Clock("Input.StartsAt", StartsAt),
            Bar = problems.Number("Input.Bar", Bar, 1, Limits.Bars, "a bar"),
            Section = problems.Text("Input.Section", Section),
            Kind = problems.Choice("Input.Kind", Kind, PassageDraft.Kinds),
            Looped = Looped,
            BecauseHeard = BecauseHeard,
            Note = problems.Text("Input.Note", Note, most: Limits.Note),
        };
        return problems.IsValid ? draft : null;
    }

    private const int MostText = 64 * 1024;
}
