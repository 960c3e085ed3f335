using InnerCadence.Core.Claims;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>What to listen to next: strata with what is known and searched of each, the reasoned suggestion, and a random pick that can be
/// repeated.</summary>
public sealed class NextModel(StudyStore studies, ClaimStore claims, NextSteps next) : StudyPage(studies)
{
    public Player Player { get; private set; } = null!;
    public bool ByTempo { get; private set; }
    public bool ByRelease { get; private set; }
    public int Seed { get; private set; }
    public IReadOnlyList<Stratum> Strata { get; private set; } = [];
    public NextToHear? Suggested { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, PlayerId? player, bool tempo, bool release, int seed, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Player = Study.Players.FirstOrDefault(p => p.Id == player) ?? Study.Subject;
        (ByTempo, ByRelease, Seed) = (tempo, release, seed is > 0 and < 1_000_000 ? seed : 1);
        Strata = Stratum.Of([.. (await next.ShelfAsync(Study, stop)).Where(r => r.Player == Player.Id.Value)], tempo, release);
        Suggested = await next.OfAsync(Study, await claims.StandAsync(Study, stop), stop);
        return Page();
    }
}
