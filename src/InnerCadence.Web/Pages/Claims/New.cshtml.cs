using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Claims;

/// <summary>Pages with the fields of a claim.</summary>
public interface IClaimForm
{
    ClaimText Input { get; }
    Study Study { get; }
    IReadOnlyList<IdeaRow> Ideas { get; }
}

/// <summary>A new claim: first what it says, then about what.</summary>
public sealed class NewClaimModel(StudyStore studies, IdeaStore ideas, ClaimStore claims) : StudyPage(studies), IClaimForm
{
    [BindProperty]
    public ClaimText Input { get; set; } = new();
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(
        StudyId study, string? test, string? player, string? idea, string? other, string? least, string? tempo, string? kind,
            string? section, string? bar, string? date, string? trait, CancellationToken stop)
    {
        if (!await FindAsync(study, stop)) return NotFound();
        Input = new()
        {
            Test = ClaimKind.Find(test)?.Word ?? "",
            Player = player ?? $"{Study.Subject.Id}",
            Idea = idea,
            Other = other,
            Least = least,
            Tempo = tempo,
            Kind = kind,
            Section = section,
            Bar = bar,
            Date = date,
            Trait = trait,
        };
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(StudyId study, CancellationToken stop)
    {
        if (!await FindAsync(study, stop)) return NotFound();
        if (Input.Read(Study, Ideas, (field, message) =>
            ModelState.AddModelError($"Input.{field}", message)) is not { } read) return Again();
        var id = await claims.AddAsync(study, read.Sentence, read.Test, read.Note, stop);
        await claims.WeighAsync(Study, stop);
        Kept();
        return Redirect($"/claims/{id}");
    }

    private async Task<bool> FindAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return false;
        Ideas = await ideas.OfStudyAsync(study, stop);
        return true;
    }
}
