using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Recurring cells that nobody named: looked for in the background, kept with the settings that made them.</summary>
public sealed class DiscoveryModel(Storage.Studies studies, Discoveries discoveries, StudyMaterial material, WrittenPassages written) : StudyPage(studies)
{
    public DiscoverySettings Input { get; private set; } = new();
    public DiscoveryRow? Found { get; private set; }
    public IReadOnlyList<FoundCell> Cells { get; private set; } = [];
    public int DismissedCount { get; private set; }
    public bool Stale { get; private set; }
    /// <summary>Only what the subject has and nobody else.</summary>
    public bool Hers { get; private set; }
    /// <summary>Titles and bars that are written down of the subject and of the others: what "never" rests on.</summary>
    public (int Titles, int Bars) Own { get; private set; }
    public (int Titles, int Bars) Theirs { get; private set; }

    /// <summary>Her titles with and without it against theirs: could chance alone put it with her only?</summary>
    public double ChanceOf(FoundCell cell) => Contrasts.Fisher(new(cell.SubjectTitles, Math.Max(0, Own.Titles - cell.SubjectTitles), cell.Titles - cell.SubjectTitles, Math.Max(0, Theirs.Titles - (cell.Titles - cell.SubjectTitles))));

    public async Task<IActionResult> OnGetAsync(StudyId study, string? view, CancellationToken stop)
    {
        Hers = view == "hers";
        if (!await EnterAsync(study, stop)) return NotFound();
        Found = await discoveries.LatestAsync(study, stop);
        if (Found is null) return Page();
        Input = Found.SettingsRead;
        var dismissed = await discoveries.DismissedAsync(study, stop);
        var all = Found.Cells;
        Cells = [.. all.Where(c => !dismissed.Contains(c.Key))];
        DismissedCount = all.Count - Cells.Count;
        var passages = await material.PassagesAsync(study, stop);
        (int, int) Amount(bool subject) => passages.Where(p => p.Row.BySubject == subject) is var side ? (side.Select(p => p.Title).Distinct().Count(), side.Sum(p => p.Bars.Count)) : default;
        (Own, Theirs) = (Amount(true), Amount(false));
        if (Hers) Cells = [.. Cells.Where(c => c.SubjectRecordings == c.Recordings && c.SubjectTitles > 0).OrderByDescending(c => c.SubjectTitles)];
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
