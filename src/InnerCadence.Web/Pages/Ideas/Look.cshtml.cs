using InnerCadence.Core.Evidence;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using InnerCadence.Web.Telling;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>A ranked place, and whether it was known before the ear had it.</summary>
/// <param name="Rank">From 1.</param>
/// <param name="AtRandom">It stands far down in the list, and is shown so that what the list misses can be judged too.</param>
public sealed record LookedPlace(int Rank, FoundPlaceRow Row, Recording Recording, bool Known, bool AtRandom)
{
    /// <summary>What the ear heard there, with the idea over it.</summary>
    public Shape? Picture { get; init; }
}

/// <summary>Where an idea might be in recordings that nobody wrote down: ranked by the ear, judged by a person.</summary>
public sealed class LookModel(StudyStore studies, IdeaStore ideas, LookingStore looking, LookedIdeas lookedIdeas, JobStore jobs,
    RidgePictures pictures)
    : StudyPage(studies)
{
    public IdeaRow Idea { get; private set; } = null!;
    /// <summary>What waits to be heard: the best, and some from far below.</summary>
    public IReadOnlyList<LookedPlace> Waiting { get; private set; } = [];
    public IReadOnlyList<LookedPlace> Judged { get; private set; } = [];
    public IReadOnlyList<LookedGroup> Groups { get; private set; } = [];
    public int Strokes { get; private set; }
    public int LookedThrough { get; private set; }
    public Job? Work { get; private set; }

    public RankedList List { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(IdeaId idea, CancellationToken stop) => await FindAsync(idea, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnPostLookAsync(IdeaId idea, CancellationToken stop) =>
        await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop) ? NotFound()
        : Redirect($"/jobs/{await jobs.AddAsync(LookingStore.Kind, found.StudyId, $"{{\"idea\":{idea}}}", stop)}");

    public async Task<IActionResult> OnPostJudgeAsync(IdeaId idea, long place, string? judged, bool random,
        CancellationToken stop)
    {
        if (await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        var said = OneOf<SaidThere>.Find(judged);
        if (judged is not null && said is null) return BadRequest();
        if (!await looking.JudgeAsync(idea, place, said, random, stop))
            Tell("The place is not in the list any more: the sound was looked through anew.");
        return Redirect($"/ideas/{idea}/look#waiting");
    }

    private async Task<bool> FindAsync(IdeaId id, CancellationToken stop)
    {
        if (await ideas.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        Idea = found;
        Strokes = found.AsIdea().Exemplar.Strokes.Count;
        var looked = await lookedIdeas.OfAsync(found, stop);
        (LookedThrough, List, Groups) = (looked.Looked, looked.List, looked.Groups);
        var rows = looked.Rows;
        LookedPlace Place(int i, bool fromBelow) => new(i + 1, rows[i], looked.Recordings[rows[i].RecordingId], List.IsKnown(i), fromBelow);
        var waiting = new List<LookedPlace>();
        foreach (var (i, fromBelow) in List.Waiting)
            waiting.Add(Place(i, fromBelow) with
            {
                Picture = await pictures.OfAsync(rows[i], $"What the ear heard there; {rows[i].Heard} of {rows[i].Strengths.Length} strokes "
                    + $"of {found.Nickname}", stop),
            });
        Waiting = waiting;
        Judged = [.. Enumerable.Range(0, rows.Count).Where(i => rows[i].Judged is not null).Select(i => Place(i, false))];
        return true;
    }
}
