using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Claims;

/// <summary>Changing what a claim says.</summary>
public sealed class EditClaimModel(StudyStore studies, IdeaStore ideas, ClaimStore claims) : StudyPage(studies), IClaimForm
{
    [BindProperty]
    public ClaimText Input { get; set; } = new();
    public ClaimRow Claim { get; private set; } = null!;
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(ClaimId claim, CancellationToken stop)
    {
        if (!await FindAsync(claim, stop)) return NotFound();
        Fill();
        return Page();
    }

    private void Fill()
    {
        // A sentence that only says the test says the next one too.
        var own = Claim.Sentence == Claim.Test.Sentence(ClaimText.NamesOf(Study, Ideas)) ? "" : Claim.Sentence;
        Input = ClaimText.From(Claim.Test, own, Claim.Note, Claim.Version);
    }

    public async Task<IActionResult> OnPostAsync(ClaimId claim, CancellationToken stop)
    {
        if (!await FindAsync(claim, stop)) return NotFound();
        Input.Test = Claim.Test.Word;
        if (Input.Read(Study, Ideas, (field, message) =>
            ModelState.AddModelError($"Input.{field}", message)) is not { } read) return Again();
        if (!await claims.SaveAsync(Claim with { Sentence = read.Sentence, Test = read.Test, Note = read.Note, Version = Input.Version },
            stop))
        {
            Input.Version = Claim.Version;
            ModelState.Remove("Input.Version");
            return ChangedMeanwhile("This claim",
                $"“{Claim.Sentence}”, which tests: {Claim.Test.Sentence(ClaimText.NamesOf(Study, Ideas))}.");
        }
        await claims.WeighAsync(Study, stop);
        Kept();
        return Redirect($"/claims/{claim}");
    }

    public async Task<IActionResult> OnPostDeleteAsync(ClaimId claim, CancellationToken stop)
    {
        if (!await FindAsync(claim, stop)) return NotFound();
        if (Input.Version is > 0 and var seen && seen != Claim.Version)
        {
            Fill();
            return NotDeleted("This claim", $"“{Claim.Sentence}”, which tests: {Claim.Test.Sentence(ClaimText.NamesOf(Study, Ideas))}.");
        }
        await claims.DeleteAsync(claim, stop);
        Tell("The claim is deleted, with its history.", $"/studies/{Study.Id}/claims?handler=Restore&claim={claim}");
        return Redirect($"/studies/{Study.Id}/claims");
    }

    private async Task<bool> FindAsync(ClaimId id, CancellationToken stop)
    {
        if (await claims.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        Claim = found;
        Ideas = await ideas.OfStudyAsync(found.StudyId, stop);
        return true;
    }
}
