using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Files;

/// <summary>An archive of a study before it comes in: as a study of its own, or merged into one that is here.</summary>
public sealed class StudyModel(StudyStore studies, JobStore jobs, ArrivalStore arrivals, StudyArchive archive, JudgementStore judges)
    : StudyPage(studies)
{
    /// <summary>Tables that a person knows by these words; the rest are what hangs on them.</summary>
    private static readonly IReadOnlyDictionary<string, string> Words = new Dictionary<string, string>
    {
        ["player"] = "players",
        ["recording"] = "recordings",
        ["coverage"] = "searches",
        ["section"] = "sections",
        ["bar_mark"] = "bar marks",
        ["passage"] = "passages",
        ["reading"] = "readings",
        ["idea"] = "ideas",
        ["sighting"] = "sightings",
        ["judgement_made"] = "judgements",
        ["claim"] = "claims",
        ["session"] = "listening sessions",
        ["stamp"] = "stamps",
        ["edition"] = "frozen editions",
        ["practice_item"] = "things to practise",
        ["practice_log"] = "rounds practised",
        ["ensemble"] = "ensembles",
        ["release"] = "releases",
        ["issue"] = "issues",
        ["drummed"] = "spans of drummers",
        ["claim_standing"] = "standings of claims",
        ["idea_link"] = "links between ideas",
        ["idea_pin"] = "pinned examples",
        ["cited_source"] = "cited sources",
        ["saved_filter"] = "saved filters",
        ["stroke_offset"] = "measured offsets",
        ["measured"] = "measured readings",
        ["looked_judgement"] = "judgements of what the ear found",
        ["heard_nothing"] = "bars heard that are nothing",
        ["wish"] = "wishes",
    };

    public Arrival Arrival { get; private set; } = null!;
    public ArrivedFile Arrived { get; private set; } = null!;
    public ArchiveReport? Report { get; private set; }
    public string? Problem { get; private set; }
    /// <summary>Studies about the same player.</summary>
    public IReadOnlyList<StudyRow> Alike { get; private set; } = [];
    public StudyId? Into { get; private set; }
    public static string WordOf(string table) => Words.GetValueOrDefault(table, table.Replace('_', ' '));
    public bool BringsNothing => Report!.Tables.All(t => t.Added + t.Filled == 0);
    public IEnumerable<ArchiveCount> Tables => Report!.Tables.OrderBy(t => Words.Keys.ToList() is var order
        && order.IndexOf(t.Table) is >= 0 and var at ? at : order.Count);

    public async Task<IActionResult> OnGetAsync(ArrivalId arrival, StudyId? into, CancellationToken stop)
    {
        if (!await FindAsync(arrival, into, stop)) return NotFound();
        (Report, Problem) = await archive.LookAsync(new MemoryStream(Arrived.Content), into, stop);
        if (Report is { } report) Alike = [.. (await AllStudies.AllAsync(stop))
            .Where(s => !s.Deleted && string.Equals(s.Subject, report.Subject, StringComparison.OrdinalIgnoreCase))];
        if (Problem is not null) Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(ArrivalId arrival, StudyId? into, CancellationToken stop)
    {
        if (!await FindAsync(arrival, into, stop)) return NotFound();
        (Report, Problem) = await archive.ReadAsync(new MemoryStream(Arrived.Content), into, stop);
        if (Report is not { } report) return Again();
        await arrivals.ForgetAsync(arrival, stop);
        var added = string.Join(", ", report.Tables.Where(t => t.Table is "recording" or "passage" or "idea" or "claim" && t.Added > 0)
            .Select(t => $"{t.Added} {t.Table}{(t.Added == 1 ? "" : "s")}"));
        // Ideas that came may appear in passages that were here, and the other way round.
        if (into is not null && report.Tables.Any(t => t.Table is "idea" or "reading" && t.Added > 0)) await jobs.AddAsync(StudyScan.Name,
            report.Study, "{}", stop);
        Tell(into is null ? $"{report.Name} is here, with {added}."
            : $"Merged: {(added.Length > 0 ? added + " came" : "no recording, passage, idea or claim came")}, "
            + $"{report.Tables.Sum(t => t.Filled)} rows were filled, {report.Tables.Sum(t => t.Differing)} differ and stayed as they "
            + $"are here.");
        return Redirect(into is not null && (await judges.DisagreementsAsync(report.Study, stop)).Count > 0
            ? $"/studies/{report.Study}/disagree" : $"/studies/{report.Study}");
    }

    public async Task<IActionResult> OnPostForgetAsync(ArrivalId arrival, CancellationToken stop)
    {
        await arrivals.ForgetAsync(arrival, stop);
        Tell("The archive is forgotten; nothing was brought in.");
        return Redirect("/");
    }

    private async Task<bool> FindAsync(ArrivalId id, StudyId? into, CancellationToken stop)
    {
        if (await arrivals.FindAsync(id, stop) is not { } found || (await arrivals.FilesAsync(id, stop)) is not [var file]) return false;
        (Arrival, Arrived, Into) = (found, file, into);
        return (into ?? found.StudyId) is not { } study || await EnterAsync(study, stop);
    }
}
