using InnerCadence.Core.Claims;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Claims;

/// <summary>One claim: how it stands and why, what speaks against it, what would settle or break it, and how it stood before.</summary>
public sealed class ClaimModel(StudyStore studies, ClaimStore claims, NextSteps next) : StudyPage(studies)
{
    public ClaimRow Claim { get; private set; } = null!;
    public Stand Stand { get; private set; } = null!;
    public Stand Cautious { get; private set; } = null!;
    public IReadOnlyList<StandingRow> History { get; private set; } = [];
    public NextToHear? Next { get; private set; }

    public async Task<IActionResult> OnGetAsync(ClaimId claim, CancellationToken stop)
    {
        if (await claims.FindAsync(claim, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        Claim = found;
        var all = await claims.StandAsync(Study, stop);
        var own = all.Single(c => c.Claim.Id == claim);
        (Stand, Cautious) = (own.Stand, own.Cautious);
        History = await claims.HistoryAsync(claim, Stand, stop);
        if (Stand.Standing == Standing.Open) Next = await next.ForAsync(Study, own, stop);
        return Page();
    }
}
