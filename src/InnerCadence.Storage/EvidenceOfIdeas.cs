using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage;

/// <summary>One recording and what it says about an idea.</summary>
public sealed record IdeaInRecording(Recording Recording, RecordingEvidence Evidence, Interval? Rate);

/// <summary>Brings together what was searched and what was found.</summary>
public sealed class EvidenceOfIdeas(NpgsqlDataSource source, Recordings recordings)
{
    /// <summary>Every recording of the study, in order of date, with its searched amount and its sightings of the idea.</summary>
    public async Task<IReadOnlyList<IdeaInRecording>> ByRecordingAsync(IdeaRow idea, CancellationToken stop) =>
        (await ByRecordingAsync(idea.StudyId, [idea], stop))[idea.Id];

    /// <summary>The same for several ideas of one study at once.</summary>
    /// <param name="cautious">Without sightings that rest on unsure or unheard strokes.</param>
    public async Task<IReadOnlyDictionary<IdeaId, IReadOnlyList<IdeaInRecording>>> ByRecordingAsync(StudyId study, IReadOnlyList<IdeaRow> ideas, CancellationToken stop, bool cautious = false)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        using var all = await connection.QueryMultipleAsync(new(
            """
            select c.recording_id, c.closeness, c.from_bar, c.bars, c.searched_on,
                   coalesce((select array_agg(n.idea_id) from coverage_idea n where n.coverage_id = c.id), '{}') as idea_ids
            from coverage c join recording r on r.id = c.recording_id
            where r.study_id = @study and r.deleted_at is null;
            select a.recording_id, a.bar, g.bars as length, a.because_heard
            from passage a join reading g on g.passage_id = a.id and g.preferred join recording r on r.id = a.recording_id
            where r.study_id = @study and r.deleted_at is null and a.deleted_at is null;
            select x.idea_id, a.recording_id, x.reading_id, x.start_tick, x.end_tick, x.judgement, a.because_heard,
                   case when x.judgement = 'confirmed' then g.text end as text
            from sighting x
            join reading g on g.id = x.reading_id and g.preferred
            join passage a on a.id = g.passage_id and a.deleted_at is null
            join recording r on r.id = a.recording_id and r.deleted_at is null
            where r.study_id = @study and x.idea_id = any(@ids) and (not @cautious or (x.unsure = 0 and x.summary not like '%not heard%'));
            select h.idea_id, h.recording_id, count(*)::int as times from heard_sighting h left join stamp t on t.id = h.stamp_id where h.idea_id = any(@ids) and t.passage_id is null group by 1, 2
            """, new { study, cautious, ids = ideas.Select(i => i.Id.Value).ToArray() }, cancellationToken: stop));
        var searches = (await all.ReadAsync<CoverageRow>()).ToLookup(c => c.RecordingId);
        var written = (await all.ReadAsync<WrittenPassage>()).ToLookup(w => w.RecordingId, w => new WrittenBars(w.Bar, w.Length, w.BecauseHeard));
        var found = (await all.ReadAsync<FoundPlace>()).ToLookup(f => (f.IdeaId, f.RecordingId));
        var heard = (await all.ReadAsync<(IdeaId Idea, RecordingId Recording, int Times)>()).ToDictionary(h => (h.Idea, h.Recording), h => h.Times);
        var everything = await recordings.OfStudyAsync(study, stop);
        return ideas.ToDictionary(idea => idea.Id, idea => (IReadOnlyList<IdeaInRecording>)
            [.. everything.Select(recording => Of(idea, recording, searches[recording.Id], written[recording.Id], [.. found[(idea.Id, recording.Id)]], heard.GetValueOrDefault((idea.Id, recording.Id))))]);
    }

    private static IdeaInRecording Of(IdeaRow idea, Recording recording, IEnumerable<CoverageRow> coverage, IEnumerable<WrittenBars> written, IReadOnlyList<FoundPlace> found, int heard)
    {
        var searches = coverage.Select(c => new Search(c.As, c.FromBar, c.Bars, c.IdeaIds.Length == 0, c.IdeaIds.Contains(idea.Id.Value), c.SearchedOn)).ToList();
        var exposure = Exposure.Bars(recording.TotalBars, idea.NamedOn, searches, written);
        var confirmed = found.Where(f => f.Judgement == "confirmed").ToList();
        // A passage written down because the idea was heard counts only where its place was searched anyway.
        var listened = Exposure.Bars(recording.TotalBars, idea.NamedOn, searches, []);
        var outside = confirmed.Where(f => exposure == 0 || (f.BecauseHeard && listened == 0)).ToList();
        var occasions = confirmed.Except(outside).GroupBy(f => f.ReadingId)
            .Sum(g => Occasions.Count(g.Select(f => (new Tick(f.StartTick), new Tick(f.EndTick))), BarOf(g.First().Text!)));
        var evidence = new RecordingEvidence(
            recording.TotalBars, exposure, confirmed.Count + heard, occasions + (exposure > 0 ? heard : 0), found.Count(f => f.Judgement == "near-miss"), found.Count(f => f.Judgement is null),
            outside.Count + (exposure > 0 ? 0 : heard));
        return new(recording, evidence, Estimates.Rate(evidence.Confirmed - evidence.Outside, exposure));
    }

    private static Tick BarOf(string text) => WrittenPassages.Read(text).Meters.MeterOf(0).Length;

    private sealed record WrittenPassage
    {
        public RecordingId RecordingId { get; init; }
        public int? Bar { get; init; }
        public int Length { get; init; }
        public bool BecauseHeard { get; init; }
    }

    private sealed record FoundPlace
    {
        public IdeaId IdeaId { get; init; }
        public RecordingId RecordingId { get; init; }
        public ReadingId ReadingId { get; init; }
        public int StartTick { get; init; }
        public int EndTick { get; init; }
        public string? Judgement { get; init; }
        public bool BecauseHeard { get; init; }
        /// <summary>Only of confirmed ones.</summary>
        public string? Text { get; init; }
    }
}
