using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Studies;

/// <summary>The study at a glance.</summary>
public sealed class DeskModel(StudyStore studies, RecordingStore recordings, PassageStore passages, EvidenceOfIdeas evidence,
    ClaimStore claims, CoverageStore coverages, RecountStore recounts, Waiting waiting, NextSteps next) : StudyPage(studies)
{
    private const int Few = 8;

    public IReadOnlyList<Recording> Recordings { get; private set; } = [];
    public IReadOnlyList<(IdeaRow Idea, Answer Answer, int Waiting)> Ideas { get; private set; } = [];
    public IReadOnlyList<StandingClaim> Claims { get; private set; } = [];
    /// <summary>With searched bars of which nobody said where.</summary>
    public IReadOnlyList<Recording> NotPlaced { get; private set; } = [];
    /// <summary>What a new account of the evidence changed, until it is dismissed.</summary>
    public IReadOnlyList<Recounted> Anew { get; private set; } = [];
    public IReadOnlyList<WaitingThing> Waits { get; private set; } = [];
    public NextToHear? Next { get; private set; }
    public IReadOnlyList<PassageRow> Latest { get; private set; } = [];
    public Account Account { get; private set; } = null!;
    public int SearchedBars => Recordings.Sum(CoverageStrip.Bars);
    public int TotalBars => Recordings.Sum(r => r.TotalBars ?? 0);

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Latest = await passages.LatestAsync(study, Few, stop);
        Recordings = await recordings.OfStudyAsync(study, stop);
        var known = await evidence.OfStudyAsync(study, stop);
        Account = known.Account;
        Ideas = [.. known.Ideas.Select(idea => (idea, known.AnswerOf(idea.Id, Study.Subject.Id), known.AnswerOf(idea.Id).Waiting))];
        Claims = await claims.StandAsync(Study, stop);
        Waits = await waiting.OfStudyAsync(study, stop);
        Anew = await recounts.OfStudyAsync(study, stop);
        NotPlaced = [.. Recordings.Where(r => r.NotPlaced > 0)];
        Next = await next.OfAsync(Study, Claims, stop, Recordings);
        return Page();
    }

    /// <summary>Every amount without a place is the first so many bars.</summary>
    public async Task<IActionResult> OnPostFirstAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Tell($"{await coverages.PlaceFirstAsync(study, stop)} amounts are placed at the first bars of their recordings.");
        return Redirect($"/studies/{study}");
    }

    public async Task<IActionResult> OnPostDismissAsync(StudyId study, CancellationToken stop)
    {
        await recounts.DismissAsync(study, stop);
        return Redirect($"/studies/{study}");
    }
}
