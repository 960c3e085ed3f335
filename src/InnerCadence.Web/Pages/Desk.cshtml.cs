using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;
using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages;

/// <summary>The study at a glance.</summary>
public sealed class DeskModel(Storage.Studies studies, Storage.Recordings recordings, Storage.Passages passages, Storage.Ideas ideas, StudyMaterial material, Storage.Claims claims, NextSteps next) : StudyPage(studies)
{
    private const int Few = 8;

    public IReadOnlyList<Recording> Recordings { get; private set; } = [];
    public IReadOnlyList<(IdeaRow Idea, Answer Answer)> Ideas { get; private set; } = [];
    public IReadOnlyList<StandingClaim> Claims { get; private set; } = [];
    public NextToHear? Next { get; private set; }
    public IReadOnlyList<PassageRow> Latest { get; private set; } = [];
    public int SearchedBars => Recordings.Sum(CoverageStrip.Bars);
    public int TotalBars => Recordings.Sum(r => r.TotalBars ?? 0);

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Latest = await passages.LatestAsync(study, Few, stop);
        Recordings = await recordings.OfStudyAsync(study, stop);
        var found = await material.OfAsync(Study, stop);
        Ideas = [.. (await ideas.OfStudyAsync(study, stop)).Select(idea => (idea, Answer.Of(found.Of(idea.Id.Value, Study.Subject.Id.Value).Select(p => p.Evidence))))];
        Claims = await claims.StandAsync(Study, stop, found);
        Next = await next.OfAsync(Study, Claims, stop, Recordings);
        return Page();
    }
}
