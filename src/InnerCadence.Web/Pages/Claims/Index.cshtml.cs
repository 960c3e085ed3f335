using InnerCadence.Core.Claims;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Claims;

/// <summary>The ledger: every claim with how it stands, what the evidence supports besides, and what to listen to next.</summary>
public sealed class ClaimsModel(StudyStore studies, ClaimStore claims, StudyMaterial material, NextSteps next, RecordingStore recordings)
    : StudyPage(studies)
{
    public IReadOnlyList<StandingClaim> Claims { get; private set; } = [];
    public IReadOnlyList<StandingClaim> Shown { get; private set; } = [];
    public string Only { get; private set; } = "";
    public IReadOnlyList<(Suggestion Suggestion, string Sentence, string Query)> Suggested { get; private set; } = [];
    public NextToHear? Next { get; private set; }
    public bool HasRecordings { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, string? only, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var weighed = await material.WithCautiousAsync(Study, stop);
        var found = weighed.Plain;
        Claims = await claims.StandAsync(Study, stop);
        Only = Enum.TryParse<Standing>(only, true, out var standing) && Enum.IsDefined(standing) ? standing.ToString().ToLowerInvariant()
            : "";
        Shown = Only.Length == 0 ? Claims : [.. Claims.Where(c => c.Stand.Standing == standing)];
        Suggested = [.. (await claims.SuggestedAsync(Study, stop)).Select(s => (s, s.Test.Sentence(found.Names), Query(s.Test)))];
        Next = await next.OfAsync(Study, Claims, stop);
        HasRecordings = Next is not null || (await recordings.OfStudyAsync(study, stop)).Count > 0;
        return Page();
    }

    public async Task<IActionResult> OnPostRestoreAsync(StudyId study, ClaimId claim, CancellationToken stop)
    {
        await claims.RestoreAsync(claim, stop);
        return Redirect($"/claims/{claim}");
    }

    /// <summary>The form for a claim, filled in, as an address.</summary>
    private static string Query(ClaimTest test)
    {
        var input = ClaimText.From(test);
        (string Name, string? Value)[] parts =
        [
            ("test", input.Test), ("player", input.Player), ("idea", input.Idea), ("other", input.Other), ("least", input.Least),
                ("tempo", input.Tempo), ("kind", input.Kind), ("section", input.Section), ("bar", input.Bar), ("date", input.Date),
            ("trait", input.Trait),
        ];
        return string.Join('&', parts.Where(p => !string.IsNullOrEmpty(p.Value)).Select(p => $"{p.Name}={Uri.EscapeDataString(p.Value!)}"));
    }
}
