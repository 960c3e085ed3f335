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
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>A ranked place, and whether it was known before the ear had it.</summary>
/// <param name="Rank">From 1.</param>
/// <param name="AtRandom">It stands far down in the list, and is shown so that what the list misses can be judged too.</param>
public sealed record LookedPlace(int Rank, FoundPlaceRow Row, Recording Recording, bool Known, bool AtRandom);

/// <summary>One kind of recording, as far as it was looked through.</summary>
public sealed record LookedGroup(string Name, int Recordings, LookedThrough Through);

/// <summary>Where an idea might be in recordings that nobody wrote down: ranked by the ear, judged by a person.</summary>
public sealed class LookModel(StudyStore studies, IdeaStore ideas, LookingStore looking, RecordingStore recordings,
    TimelineStore timelines, PlacesOfIdeas places,
    HeardStore heard, JobStore jobs) : StudyPage(studies)
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

    public async Task<IActionResult> OnPostJudgeAsync(IdeaId idea, long place, string? judged, CancellationToken stop)
    {
        if (await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        var said = OneOf<SaidThere>.Find(judged);
        if (judged is not null && said is null) return BadRequest();
        if (!await looking.JudgeAsync(idea, place, said,
            stop)) Tell("The place is not in the list any more: the sound was looked through anew.");
        return Redirect($"/ideas/{idea}/look#waiting");
    }

    private async Task<bool> FindAsync(IdeaId id, CancellationToken stop)
    {
        if (await ideas.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        Idea = found;
        Strokes = found.AsIdea().Exemplar.Strokes.Count;
        var all = (await recordings.OfStudyAsync(found.StudyId, stop)).ToDictionary(r => r.Id);
        var looked = (await looking.LookedAsync(id, stop)).Where(l => all.ContainsKey(l.RecordingId)).ToList();
        LookedThrough = looked.Count;
        var rows = await looking.OfIdeaAsync(id, stop);
        var known = await KnownAsync(id, rows, all, looked, stop);
        rows = [.. rows.Where(r => all.ContainsKey(r.RecordingId))];
        List = new([.. rows.Select(r => new Ranked(r.RecordingId.Value, Seconds.OfMilliseconds(r.AtMs), r.Score, r.Judged))], known);
        LookedPlace Place(int i, bool fromBelow) => new(i + 1, rows[i], all[rows[i].RecordingId], List.IsKnown(i), fromBelow);
        Waiting = [.. List.Waiting.Select(w => Place(w.Place, w.FromBelow))];
        Judged = [.. Enumerable.Range(0, rows.Count).Where(i => rows[i].Judged is not null).Select(i => Place(i, false))];
        Groups = [.. looked.GroupBy(l => all[l.RecordingId].Kind).OrderByDescending(g => g.Sum(l => l.Bars)).Select(g =>
            new LookedGroup(g.Key.Word, g.Count(), List.Through([.. g.Select(l => l.RecordingId.Value)], g.Sum(l => l.Bars))))];
        return true;
    }

    /// <summary>Seconds of the places that are confirmed without the ear.</summary>
    private async Task<ILookup<long, Seconds>> KnownAsync(IdeaId id, IReadOnlyList<FoundPlaceRow> rows, Dictionary<RecordingId,
        Recording> all,
        List<LookedRow> looked, CancellationToken stop)
    {
        var own = looked.Select(l => l.RecordingId).ToHashSet();
        var byEar = rows.Where(r => r.HeardId is not null).Select(r => r.HeardId!.Value).ToHashSet();
        var at = (await heard.OfIdeaAsync(id, stop)).Where(h => h.AtMs is not null && own.Contains(h.RecordingId) && !byEar.Contains(h.Id))
            .Select(h => (Recording: h.RecordingId.Value, At: Seconds.OfMilliseconds(h.AtMs!.Value))).ToList();
        foreach (var there in (await places.OfIdeaAsync(Idea.StudyId, id, stop))
            .Where(p => p is { Judged: Core.Evidence.Judged.Confirmed, Vanished: false, Bar: not null }
            && own.Contains(p.Recording.Id)).GroupBy(p => p.Recording.Id))
            if ((await timelines.OfAsync(all[there.Key], stop)).Map is { } map)
                at.AddRange(there.Select(p => (there.Key.Value, map.SecondsOf(new(p.Bar!.Value, p.InBar)))));
        return at.ToLookup(k => k.Recording, k => k.At);
    }
}
