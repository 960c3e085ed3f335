using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace InnerCadence.Web.Pages.Studies;

/// <summary>The fields of a study as typed.</summary>
public sealed class StudyInput
{
    public string? Name { get; set; }
    public string? Subject { get; set; }
    public string? Handedness { get; set; } = "right";
    public string? Comparison { get; set; }
    public string? Question { get; set; }
    public int Version { get; set; }

    public static StudyInput Of(Study study) => new()
    {
        Name = study.Name,
        Subject = study.Subject.Name,
        Handedness = study.Subject.Handedness,
        Comparison = string.Join('\n', study.Comparison.Select(p => p.Name)),
        Question = study.Question,
        Version = study.Version,
    };

    /// <summary>Nothing, with the problems told, where a field cannot be read.</summary>
    public StudyDraft? Read(ModelStateDictionary problems)
    {
        var subject = problems.Text("Input.Subject", Subject, "Whose playing is it about? Write a name.");
        var name = problems.Text("Input.Name", string.IsNullOrWhiteSpace(Name) ? Subject : Name);
        var hands = problems.Choice("Input.Handedness", Handedness, ["right", "left", "open"]);
        var question = problems.Text("Input.Question", Question, most: UploadLimits.Note);
        string[] comparison = [.. (Comparison ?? "").Split(['\n', ','],
            StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries).Distinct()];
        if (comparison.Contains(subject)) problems.AddModelError("Input.Comparison",
            $"{subject} is the player of the study: compare with others.");
        if (comparison.Any(Typed.HasUnkeepable)) problems.AddModelError("Input.Comparison", Typed.Unkeepable);
        if (comparison.Any(c => c.Length > UploadLimits.Name) || comparison.Length > 50) problems.AddModelError("Input.Comparison",
            "Write at most 50 names, one a line.");
        return problems.IsValid ? new(name, question, subject, Enum.Parse<Handedness>(hands, true), comparison) : null;
    }
}
