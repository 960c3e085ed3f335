using InnerCadence.Core.Discovery;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Recurring cells that nobody named: looked for in the background, kept with the settings that made them.</summary>
public sealed class DiscoveryModel(StudyStore studies, DiscoveryStore discoveries, WrittenPassages written) : StudyPage(studies)
{
    public DiscoverySettings Input { get; private set; } = new();
    public DiscoveryRow? Found { get; private set; }
    public IReadOnlyList<FoundCell> Cells { get; private set; } = [];
    public int DismissedCount { get; private set; }
    public bool Stale { get; private set; }
    /// <summary>Only what the subject has and nobody else.</summary>
    public bool Hers { get; private set; }
    /// <summary>Titles and bars of the subject and of the others that were looked through with these settings: what "never" rests
    /// on.</summary>
    public (int Titles, int Bars) Own { get; private set; }
    public (int Titles, int Bars) Theirs { get; private set; }

    /// <summary>By the key of a cell: how often chance alone would put it with her only, corrected for all that were found; nothing where
    /// only one side was looked through.</summary>
    public IReadOnlyDictionary<string, double?> Corrected { get; private set; } = new Dictionary<string, double?>();

    public const int MostRows = 60;
    private const int FewRows = 10;

    /// <summary>How many of a kind are shown.</summary>
    public int Rows { get; private set; } = FewRows;

    /// <summary>The same with more of them.</summary>
    public string More => $"/studies/{Study.Id}/discovery?{(Hers ? "view=hers&" : "")}show=more";

    public async Task<IActionResult> OnGetAsync(StudyId study, string? view, string? show, CancellationToken stop)
    {
        Hers = view == "hers";
        Rows = show == "more" ? MostRows : FewRows;
        if (!await EnterAsync(study, stop)) return NotFound();
        Found = await discoveries.LatestAsync(study, stop);
        if (Found is null) return Page();
        Input = Found.SettingsRead;
        var dismissed = await discoveries.DismissedAsync(study, stop);
        var all = Found.Cells;
        Cells = [.. all.Where(c => !dismissed.Contains(c.Key))];
        DismissedCount = all.Count - Cells.Count;
        var looked = (await written.OfStudyAsync(study, stop)).Where(Input.Takes).ToLookup(p => p.BySubject);
        (int, int) Amount(bool subject) => (looked[subject].Select(p => (p.PlayerId, p.Title)).Distinct().Count(),
            looked[subject].Sum(p => p.Bars.Count));
        (Own, Theirs) = (Amount(true), Amount(false));
        if (Hers)
        {
            ReadHers(all);
            Cells = [.. Cells.Where(c => c.SubjectRecordings == c.Recordings && c.SubjectTitles > 0)
                .OrderByDescending(c => c.SubjectTitles)];
        }
        Stale = Found.Evidence != await written.EvidenceAsync(study, stop);
        return Page();
    }

    /// <summary>What was written down or deleted since the search is not in it: then nothing is said until it is looked for
    /// again.</summary>
    private void ReadHers(IReadOnlyList<FoundCell> all)
    {
        var told = all.Where(c => c.Titles > 0 && c.SubjectTitles <= Own.Titles && c.Titles - c.SubjectTitles <= Theirs.Titles).ToList();
        Corrected = told.Zip(HersNeverTheirs.Corrected([.. told.Select(c => (c.SubjectTitles, c.Titles - c.SubjectTitles))], Own.Titles,
            Theirs.Titles)).ToDictionary(x => x.First.Key, x => x.Second);
    }

    public async Task<IActionResult> OnPostAsync(
        StudyId study, PlayerId? player, string? recordingKind, string? kind, string? section, string? meter, string? voicing,
            int recordings, bool proportional, bool accents, bool sticking, bool timeKeeping, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (section?.Length > 100 || meter?.Length > 60 || Typed.HasUnkeepable(section ?? "")
            || IdeaWords.Read<VoicingRule>(voicing) is null or VoicingRule.Contour) return BadRequest();
        var job = await discoveries.StartAsync(study, new()
        {
            Player = Study.Players.Any(p => p.Id == player) ? player : null,
            RecordingKind = OneOf<RecordingKind>.Find(recordingKind),
            Kind = OneOf<PassageKind>.Words.Contains(kind) ? kind! : "",
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
        Tell("Dismissed for good: it is not shown again.",
            $"/studies/{study}/discovery?handler=TakeBack&cell={Uri.EscapeDataString(cell)}");
        return Redirect($"/studies/{study}/discovery");
    }

    public async Task<IActionResult> OnPostTakeBackAsync(StudyId study, string? cell, CancellationToken stop)
    {
        await discoveries.TakeBackAsync(study, cell ?? "", stop);
        return Redirect($"/studies/{study}/discovery");
    }
}
