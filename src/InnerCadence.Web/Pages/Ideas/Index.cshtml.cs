using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>The catalogue of named ideas.</summary>
public sealed class IdeasModel(StudyStore studies, IdeaStore ideas, EvidenceOfIdeas evidence, JobStore jobs, JudgementStore judges)
    : StudyPage(studies)
{
    /// <summary>Only ideas with this tag are shown; nothing for all.</summary>
    public string? Tag { get; private set; }
    /// <summary>Places that two judges see differently.</summary>
    public int Disagreed { get; private set; }
    /// <summary>Every tag, and how many ideas have it.</summary>
    public IReadOnlyList<(string Tag, int Ideas)> Tags { get; private set; } = [];
    public IReadOnlyList<(IdeaRow Idea, Answer Answer)> Ideas { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, string? tag, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var known = await evidence.OfStudyAsync(study, stop);
        var all = known.Ideas;
        Tags = [.. all.SelectMany(i => i.Tags).GroupBy(t => t).OrderBy(g => g.Key, StringComparer.OrdinalIgnoreCase)
            .Select(g => (g.Key, g.Count()))];
        Tag = all.SelectMany(i => i.Tags).FirstOrDefault(t => string.Equals(t, tag, StringComparison.OrdinalIgnoreCase));
        Ideas = [.. all.Where(i => Tag is null || i.Tags.Contains(Tag)).Select(i => (i, known.AnswerOf(i.Id)))];
        Disagreed = (await judges.DisagreementsAsync(study, stop)).Count;
        return Page();
    }

    /// <summary>Looks for every idea in every passage again, in the background.</summary>
    public async Task<IActionResult> OnPostLookAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        return Redirect($"/jobs/{await jobs.AddAsync(StudyScan.Name, study, "{}", stop)}");
    }

    public async Task<IActionResult> OnPostRestoreAsync(StudyId study, IdeaId idea, CancellationToken stop)
    {
        if (await ideas.RestoreAsync(idea, stop)) return Redirect($"/ideas/{idea}");
        Tell("Another idea has this nickname now: rename that one first, then undo again.",
            $"/studies/{study}/ideas?handler=Restore&idea={idea}");
        return Redirect($"/studies/{study}/ideas");
    }
}
