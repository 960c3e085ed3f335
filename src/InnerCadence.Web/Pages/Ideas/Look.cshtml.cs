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
    private const int Shown = 20, Random = 4, Tired = 40;

    /// <summary>A known place so near in time is the same.</summary>
    private static readonly Seconds Same = new(0.4);

    public IdeaRow Idea { get; private set; } = null!;
    public IReadOnlyList<LookedPlace> All { get; private set; } = [];
    /// <summary>What waits to be heard: the best, and some from far below.</summary>
    public IReadOnlyList<LookedPlace> Waiting { get; private set; } = [];
    public IReadOnlyList<LookedPlace> Judged { get; private set; } = [];
    public IReadOnlyList<LookedGroup> Groups { get; private set; } = [];
    public int Strokes { get; private set; }
    public int LookedThrough { get; private set; }
    public Job? Work { get; private set; }

    /// <summary>Of the last so many that were judged none was it.</summary>
    public int Vain { get; private set; }
    public bool IsWorthNoMore => Vain >= Tired;

    public async Task<IActionResult> OnGetAsync(IdeaId idea, CancellationToken stop) => await FindAsync(idea, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnPostLookAsync(IdeaId idea, CancellationToken stop) =>
        await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop) ? NotFound()
        : Redirect($"/jobs/{await jobs.AddAsync(LookingStore.Kind, found.StudyId, $"{{\"idea\":{idea}}}", stop)}");

    public async Task<IActionResult> OnPostJudgeAsync(IdeaId idea, long place, string? judged, CancellationToken stop)
    {
        if (await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        if (judged is not null && !LookingStore.Words.Contains(judged)) return BadRequest();
        if (!await looking.JudgeAsync(idea, place, judged,
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
        All = [.. rows.Where(r => all.ContainsKey(r.RecordingId)).Select((r, i) => new LookedPlace(i + 1, r, all[r.RecordingId],
            known[r.RecordingId].Any(at => Math.Abs(at - r.AtMs / 1000.0) < Same), false))];
        var open = All.Where(p => p.Row.Judged is null && !p.Known).ToList();
        var below = open.Skip(Shown).ToList();
        Waiting = [.. open.Take(Shown), .. below.Where((_, i) => below.Count <= Random
            || i % (below.Count / Random) == below.Count / Random / 2).Take(Random).Select(p => p with { AtRandom = true })];
        Judged = [.. All.Where(p => p.Row.Judged is not null)];
        Vain = All.Where(p => p.Row.Judged is not null || p.Known).Reverse().TakeWhile(p => p.Row.Judged != "yes" && !p.Known).Count();
        // What a person judged down to: every place above it was heard, or was known.
        var reached = open.Count == 0 ? double.NegativeInfinity : open[0].Row.Score;
        Groups = [.. looked.GroupBy(l => all[l.RecordingId].Kind).OrderByDescending(g => g.Sum(l => l.Bars)).Select(g =>
        {
            var own = g.Select(l => l.RecordingId).ToHashSet();
            var above = All.Where(p => own.Contains(p.Row.RecordingId) && p.Row.Score > reached).ToList();
            var there = own.Sum(r => known[r].Count());
            var recalled = own.Sum(r => known[r].Count(at => above.Any(p => p.Row.RecordingId == r
                && Math.Abs(at - p.Row.AtMs / 1000.0) < Same)));
            return new LookedGroup(g.Key.Word, g.Count(), new(g.Sum(l => l.Bars), there, recalled,
                above.Count(p => p.Row.Judged == "yes" || p.Known)));
        })];
        return true;
    }

    /// <summary>Seconds of the places that are confirmed without the ear.</summary>
    private async Task<ILookup<RecordingId, double>> KnownAsync(IdeaId id, IReadOnlyList<FoundPlaceRow> rows, Dictionary<RecordingId,
        Recording> all,
        List<LookedRow> looked, CancellationToken stop)
    {
        var own = looked.Select(l => l.RecordingId).ToHashSet();
        var byEar = rows.Where(r => r.HeardId is not null).Select(r => r.HeardId!.Value).ToHashSet();
        var at = (await heard.OfIdeaAsync(id, stop)).Where(h => h.AtMs is not null && own.Contains(h.RecordingId) && !byEar.Contains(h.Id))
            .Select(h => (h.RecordingId, At: h.AtMs!.Value / 1000.0)).ToList();
        foreach (var there in (await places.OfIdeaAsync(Idea.StudyId, id, stop))
            .Where(p => p is { Judged: Core.Evidence.Judged.Confirmed, Vanished: false, Bar: not null }
            && own.Contains(p.Recording.Id)).GroupBy(p => p.Recording.Id))
            if ((await timelines.OfAsync(all[there.Key], stop)).Map is { } map)
                at.AddRange(there.Select(p => (there.Key, (double)map.SecondsOf(new(p.Bar!.Value, p.InBar)))));
        return at.ToLookup(k => k.RecordingId, k => k.At);
    }
}
