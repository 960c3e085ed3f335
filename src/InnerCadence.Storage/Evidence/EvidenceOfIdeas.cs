using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using Npgsql;

namespace InnerCadence.Storage.Evidence;

/// <summary>One recording and what it says about an idea.</summary>
public sealed record IdeaInRecording(Recording Recording, Performance Performance)
{
    public RecordingEvidence Evidence => Performance.Evidence;
    public Interval? Rate => Performance.Rate;
}

/// <summary>Brings the facts together from which the account of a study's evidence is made.</summary>
/// <param name="kept">Where what was brought together is kept until something changes; without one it is anew for each asker.</param>
public sealed class EvidenceOfIdeas(NpgsqlDataSource source, RecordingStore recordings, IdeaStore ideas, KeptReady kept)
{
    public EvidenceOfIdeas(NpgsqlDataSource source, RecordingStore recordings) : this(source, recordings, new(source), new(source)) { }

    /// <summary>Every recording of the study, in order of date, with its searched amount and its sightings of the idea.</summary>
    public async Task<IReadOnlyList<IdeaInRecording>> ByRecordingAsync(IdeaRow idea, CancellationToken stop) =>
        (await OfStudyAsync(idea.StudyId, stop)).Of(idea.Id);

    /// <summary>The same for several ideas of one study at once.</summary>
    /// <param name="cautious">Without sightings that rest on unsure or unheard strokes.</param>
    public async Task<IReadOnlyDictionary<IdeaId, IReadOnlyList<IdeaInRecording>>> ByRecordingAsync(StudyId study,
        IReadOnlyList<IdeaRow> of, CancellationToken stop, bool cautious = false)
    {
        var known = await OfStudyAsync(study, stop);
        return of.ToDictionary(i => i.Id, i => known.Of(i.Id, cautious));
    }

    /// <summary>All that is known of what was searched and found in a study.</summary>
    public async Task<Account> AccountAsync(StudyId study, CancellationToken stop) => (await OfStudyAsync(study, stop)).Account;

    /// <summary>The account with each idea counted, as it was at the last change.</summary>
    public Task<KnownEvidence> OfStudyAsync(StudyId study, CancellationToken stop) =>
        kept.OfAsync(study, s => ReadAsync(study, s), known => known.Recordings.Sum(r => 10L + r.Passages + r.SearchedBars / 8), stop);

    private async Task<KnownEvidence> ReadAsync(StudyId study, CancellationToken stop)
    {
        var (known, named) = (await recordings.OfStudyAsync(study, stop), await ideas.OfStudyAsync(study, stop));
        await using var connection = await source.OpenConnectionAsync(stop);
        using var all = await connection.QueryMultipleAsync(new(
            """
            select c.id, c.recording_id, c.closeness, c.from_bar, c.bars, c.searched_on,
                   coalesce((select array_agg(n.idea_id) from coverage_idea n where n.coverage_id = c.id), '{}') as idea_ids
            from coverage c join recording r on r.id = c.recording_id
            where r.study_id = @study and r.deleted_at is null;
            select a.recording_id, a.bar, g.bars as length, a.because_heard, a.section
            from passage a join reading g on g.passage_id = a.id and g.preferred join recording r on r.id = a.recording_id
            where r.study_id = @study and r.deleted_at is null and a.deleted_at is null
            order by a.recording_id, a.bar, a.id;
            select m.recording_id, m.bar, m.at_ms from bar_mark m join recording r on r.id = m.recording_id where r.study_id = @study
              and r.deleted_at is null order by m.recording_id, m.bar;
            select d.recording_id, d.player_id, d.sure, d.from_bar, d.bars from drummed d join recording r on r.id = d.recording_id
              where r.study_id = @study and r.deleted_at is null;
            select x.id, x.idea_id, a.recording_id, x.reading_id, x.start_tick, x.end_tick, x.judgement, x.unsure,
              x.edits @> '[{"kind": "not-heard"}]' as unheard, x.vanished,
                   a.starts_at_ms, a.bar, a.section, a.because_heard
            from sighting x
            join idea i on i.id = x.idea_id and i.deleted_at is null
            join reading g on g.id = x.reading_id and g.preferred
            join passage a on a.id = g.passage_id and a.deleted_at is null
            join recording r on r.id = a.recording_id and r.deleted_at is null
            where r.study_id = @study and x.judgement is distinct from 'rejected'
            order by a.recording_id, a.bar, a.id, x.start_tick;
            select g.id, g.text from reading g join passage a on a.id = g.passage_id and a.deleted_at is null
              join recording r on r.id = a.recording_id and r.deleted_at is null
            where r.study_id = @study and g.preferred
              and exists (select 1 from sighting x where x.reading_id = g.id and x.judgement in ('confirmed', 'near-miss'));
            select h.id, h.idea_id, h.recording_id, h.at_ms, h.bar
            from heard_sighting h join recording r on r.id = h.recording_id and r.deleted_at is null left join stamp t on t.id = h.stamp_id
            where r.study_id = @study and t.passage_id is null order by h.id
            """, new { study }, cancellationToken: stop));
        var searches = (await all.ReadAsync<CoverageRow>()).ToLookup(c => c.RecordingId, c => c.AsSearch());
        var written = (await all.ReadAsync<WrittenSpan>())
            .ToLookup(w => w.RecordingId, w => new WrittenBars(w.Bar, w.Length, w.BecauseHeard, w.Section));
        var marks = (await all.ReadAsync<(RecordingId Recording, int Bar, int At)>())
            .ToLookup(m => m.Recording, m => new BarMark(m.Bar, new(m.At)));
        var drummed = (await all.ReadAsync<(RecordingId Recording, PlayerId Player, Certainty Sure, int From, int Bars)>())
            .ToLookup(d => d.Recording, d => new DrummedBars(d.Player.Value, d.Sure.IsCertain, d.From, d.Bars));
        var sightings = (await all.ReadAsync<JudgedSighting>()).AsList();
        var passages = (await all.ReadAsync<(ReadingId Id, string Text)>()).ToDictionary(g => g.Id, g => WrittenPassages.Read(g.Text));
        var heard = (await all.ReadAsync<HeardRow>()).Select(h => new HeardByHand(h.Id, h.IdeaId.Value, h.RecordingId.Value, h.At, h.Bar));
        return new(known, named, new(
            [.. known.Select(r => FactsOf(r, Timeline.Of(r, [.. marks[r.Id]]), [.. searches[r.Id]], [.. written[r.Id]],
                [.. drummed[r.Id]]))],
            sightings.Select(s => s.AsFound(passages.GetValueOrDefault(s.ReadingId))), heard));
    }

    private static RecordingFacts FactsOf(Recording recording, Timeline timeline, IReadOnlyList<Search> searches,
        IReadOnlyList<WrittenBars> written, IReadOnlyList<DrummedBars> drummed) => new()
        {
            Id = recording.Id.Value,
            Name = recording.Name,
            Title = recording.Title,
            Player = recording.PlayerId.Value,
            Kind = recording.Kind,
            Ensemble = recording.Ensemble,
            Recorded = recording.Recorded,
            Issued = recording.Issued,
            Tempo = recording.FeltTempo,
            Minutes = recording.Duration?.Milliseconds / 60_000.0,
            TotalBars = recording.TotalBars,
            SureWhoPlays = recording.Sure.IsCertain,
            Form = timeline.Form,
            Grid = timeline.Grid,
            Map = timeline.Map,
            Searches = [.. searches],
            Written = [.. written],
            Drummed = [.. drummed],
        };

    private sealed record WrittenSpan
    {
        public RecordingId RecordingId { get; init; }
        public int? Bar { get; init; }
        public int Length { get; init; }
        public bool BecauseHeard { get; init; }
        public string Section { get; init; } = "";
    }

    private sealed record JudgedSighting
    {
        public SightingId Id { get; init; }
        public IdeaId IdeaId { get; init; }
        public RecordingId RecordingId { get; init; }
        public ReadingId ReadingId { get; init; }
        public int StartTick { get; init; }
        public int EndTick { get; init; }
        public string? Judgement { get; init; }
        public int Unsure { get; init; }
        public bool Unheard { get; init; }
        public bool Vanished { get; init; }
        public int? StartsAtMs { get; init; }
        public int? Bar { get; init; }
        public string Section { get; init; } = "";
        public bool BecauseHeard { get; init; }

        /// <param name="passage">Its reading; only of what was judged, since what waits is only counted.</param>
        public FoundSighting AsFound(Passage? passage) => new(
            Id.Value, IdeaId.Value, RecordingId.Value, ReadingId.Value, passage?.Meters ?? MeterCycle.CommonTime, Bar, new(StartTick),
                new(EndTick),
            JudgedWords.Read(Judgement))
        {
            Starts = StartsAtMs is { } ms ? new(ms) : null,
            Tempo = passage?.Tempo,
            Section = Section,
            BecauseHeard = BecauseHeard,
            Unsure = Unsure > 0,
            PartlyUnheard = Unheard,
            Vanished = Vanished,
        };
    }
}
