using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Recurring cells that nobody named: looked for in the background, kept with the settings that made them.</summary>
public sealed class DiscoveryModel(Storage.Studies studies, Discoveries discoveries, WrittenPassages written) : StudyPage(studies)
{
    public DiscoverySettings Input { get; private set; } = new();
    public DiscoveryRow? Found { get; private set; }
    public IReadOnlyList<FoundCell> Cells { get; private set; } = [];
    public int DismissedCount { get; private set; }
    public bool Stale { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Found = await discoveries.LatestAsync(study, stop);
        if (Found is null) return Page();
        Input = Found.SettingsRead;
        var dismissed = await discoveries.DismissedAsync(study, stop);
        var all = Found.Cells;
        Cells = [.. all.Where(c => !dismissed.Contains(c.Key))];
        DismissedCount = all.Count - Cells.Count;
        Stale = Found.Evidence != await written.EvidenceAsync(study, stop);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(
        StudyId study, PlayerId? player, string? recordingKind, string? kind, string? section, string? meter, string? voicing, int recordings, bool proportional, bool accents, bool sticking, bool timeKeeping, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (section?.Length > 100 || meter?.Length > 60 || Typed.HasUnkeepable(section ?? "") || IdeaWords.Read<VoicingRule>(voicing) is null or VoicingRule.Contour) return BadRequest();
        var job = await discoveries.StartAsync(study, new()
        {
            Player = Study.Players.Any(p => p.Id == player) ? player : null,
            RecordingKind = RecordingDraft.Kinds.Contains(recordingKind) ? recordingKind! : "",
            Kind = PassageDraft.Kinds.Contains(kind) ? kind! : "",
            Section = section?.Trim() ?? "",
            Meter = meter?.Trim() ?? "",
            Voicing = voicing!,
            Recordings = Math.Clamp(recordings, 2, 50),
            Proportional = proportional,
            Accents = accents,
            Sticking = sticking,
            TimeKeeping = timeKeeping,
        }, stop);
        return Redirect($"/jobs/{job}");
    }

    public async Task<IActionResult> OnPostDismissAsync(StudyId study, string? cell, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (string.IsNullOrEmpty(cell) || cell.Length > 1000) return BadRequest();
        await discoveries.DismissAsync(study, cell, cell, stop);
        Tell("Dismissed for good: it is not shown again.", $"/studies/{study}/discovery?handler=TakeBack&cell={Uri.EscapeDataString(cell)}");
        return Redirect($"/studies/{study}/discovery");
    }

    public async Task<IActionResult> OnPostTakeBackAsync(StudyId study, string? cell, CancellationToken stop)
    {
        await discoveries.TakeBackAsync(study, cell ?? "", stop);
        return Redirect($"/studies/{study}/discovery");
    }
}
