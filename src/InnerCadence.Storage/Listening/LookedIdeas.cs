using InnerCadence.Core.Evidence;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;

namespace InnerCadence.Storage.Listening;

/// <summary>What the ear found of an idea, ranked, and what was said of it.</summary>
/// <param name="Rows">In the order of the list.</param>
/// <param name="Bars">Of each recording that was looked through.</param>
/// <param name="Sounds">The group of each.</param>
public sealed record LookedIdea(IReadOnlyDictionary<RecordingId, Recording> Recordings, IReadOnlyDictionary<RecordingId, int> Bars,
    IReadOnlyList<FoundPlaceRow> Rows, RankedList List, IReadOnlyDictionary<long, SoundGroup> Sounds)
{
    public int Looked => Bars.Count;

    /// <summary>Recordings that sound alike, the group with most bars first.</summary>
    public IReadOnlyList<LookedGroup> Groups => GroupsOf(_ => true);

    public IReadOnlyList<LookedGroup> GroupsOf(Func<Recording, bool> takes) =>
        [.. Bars.Where(b => takes(Recordings[b.Key])).GroupBy(b => Sounds[b.Key.Value]).OrderByDescending(g => g.Sum(b => b.Value))
            .Select(g => new LookedGroup(g.Key, g.Count(), List.Through([.. g.Select(b => b.Key.Value)], g.Sum(b => b.Value))))];

    public IEnumerable<string> Words => Groups.Select(g => g.Words(List.IsBegun));
}

/// <summary>Brings together what the ear found of ideas and what was known without it.</summary>
public sealed class LookedIdeas(LookingStore looking, RecordingStore recordings, TimelineStore timelines, PlacesOfIdeas places,
    HeardStore heard)
{
    public async Task<LookedIdea> OfAsync(IdeaRow idea, CancellationToken stop)
    {
        var looked = await looking.LookedAsync(idea.Id, stop);
        if (looked.Count == 0) return new(new Dictionary<RecordingId, Recording>(), new Dictionary<RecordingId, int>(), [],
            new([], Array.Empty<(long, Seconds)>().ToLookup(k => k.Item1, k => k.Item2)), new Dictionary<long, SoundGroup>());
        var all = (await recordings.OfStudyAsync(idea.StudyId, stop)).ToDictionary(r => r.Id);
        looked = [.. looked.Where(l => all.ContainsKey(l.RecordingId))];
        var rows = await looking.OfIdeaAsync(idea.Id, stop);
        var known = await KnownAsync(idea, all, looked.ToDictionary(l => l.RecordingId, l => l.FirstAt), stop);
        rows = [.. rows.Where(r => all.ContainsKey(r.RecordingId))];
        var list = new RankedList([.. rows.Select(r => new Ranked(r.RecordingId.Value, Seconds.OfMilliseconds(r.AtMs), r.Score, r.Judged,
            r.AtRandom))],
            known);
        return new(all, looked.ToDictionary(l => l.RecordingId, l => l.Bars), rows, list,
            SoundGroup.Of([.. looked.Select(l => new SoundingRecording(l.RecordingId.Value, all[l.RecordingId].Kind,
                all[l.RecordingId].RecordedFrom?.Year, l.Agreement))]));
    }

    /// <summary>Seconds of the places that are confirmed and were there before the ear first looked for the idea: what was written down or
    /// noted after that may have been found by its list.</summary>
    private async Task<ILookup<long, Seconds>> KnownAsync(IdeaRow idea, Dictionary<RecordingId, Recording> all,
        Dictionary<RecordingId, DateTime> firstAt, CancellationToken stop)
    {
        bool Before(RecordingId recording, DateTime made) => firstAt.TryGetValue(recording, out var first) && made < first;
        var at = (await heard.OfIdeaAsync(idea.Id, stop))
            .Where(h => h.AtMs is not null && Before(h.RecordingId, h.CreatedAt))
            .Select(h => (Recording: h.RecordingId.Value, At: Seconds.OfMilliseconds(h.AtMs!.Value))).ToList();
        foreach (var there in (await places.OfIdeaAsync(idea.StudyId, idea.Id, stop))
            .Where(p => p is { Judged: Judged.Confirmed, Vanished: false, Bar: not null } && Before(p.Recording.Id, p.WrittenAt))
            .GroupBy(p => p.Recording.Id))
            if ((await timelines.OfAsync(all[there.Key], stop)).Map is { } map)
                at.AddRange(there.Select(p => (there.Key.Value, map.SecondsOf(new(p.Bar!.Value, p.InBar)))));
        return at.ToLookup(k => k.Recording, k => k.At);
    }
}
