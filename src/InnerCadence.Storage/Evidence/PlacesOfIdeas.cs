using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using Npgsql;

namespace InnerCadence.Storage.Evidence;

/// <summary>Where an idea was found, with what a list of its places is sorted, grouped and filtered by; all else is asked for when it is
/// shown.</summary>
/// <param name="Bar">Of the recording; nothing where the passage's own is not known.</param>
/// <param name="InBar">Where in its bar it starts.</param>
/// <param name="Difference">How it differs from the exemplar, in words.</param>
public sealed record PlaceOfIdea(
    SightingId Id, Recording Recording, Tick Start, int? Bar, Tick InBar, Bpm? Tempo, Verdict Verdict, int Cost, string Difference,
        Judged Judged, bool Vanished, DateTime WrittenAt)
{
    /// <summary>What was confirmed and is no longer found waits like what nobody judged.</summary>
    public bool IsWaiting => Judged.Waits(Vanished);
}

/// <summary>The places of an idea, kept ready until the study changes: a list shows forty of them, and knows where all are.</summary>
public sealed class PlacesOfIdeas(NpgsqlDataSource source, EvidenceOfIdeas evidence, KeptReady kept)
{
    /// <summary>By recording date, then in the order of the recording.</summary>
    public Task<IReadOnlyList<PlaceOfIdea>> OfIdeaAsync(StudyId study, IdeaId idea, CancellationToken stop) =>
        kept.OfAsync(study, s => ReadAsync(study, idea, s), all => all.Count, stop, idea.ToString());

    private async Task<IReadOnlyList<PlaceOfIdea>> ReadAsync(StudyId study, IdeaId idea, CancellationToken stop)
    {
        var recordings = (await evidence.OfStudyAsync(study, stop)).Recordings.ToDictionary(r => r.Id);
        await using var connection = await source.OpenConnectionAsync(stop);
        using var all = await connection.QueryMultipleAsync(new(
            """
            select g.id, g.text from reading g
            where g.preferred and exists (select 1 from sighting x where x.reading_id = g.id and x.idea_id = @idea);
            select x.id, a.recording_id, x.reading_id, a.bar, x.start_tick, x.verdict, x.cost, x.summary, x.judgement, x.vanished, a.created_at
            from sighting x
            join idea i on i.id = x.idea_id and i.deleted_at is null
            join reading g on g.id = x.reading_id and g.preferred
            join passage a on a.id = g.passage_id and a.deleted_at is null
            join recording r on r.id = a.recording_id and r.deleted_at is null
            where x.idea_id = @idea
            order by r.recorded_from nulls last, r.title, r.take, r.id, a.starts_at_ms nulls last, a.bar, a.id, x.start_tick
            """, new { idea }, cancellationToken: stop));
        var passages = (await all.ReadAsync<(ReadingId Id, string Text)>()).ToDictionary(g => g.Id, g => WrittenPassages.Read(g.Text));
        var rows = (await all.ReadAsync<Found>()).AsList();
        // Thousands of places differ in a few ways: each is held once.
        var differences = new Dictionary<string, string>();
        return [.. rows.Where(row => recordings.ContainsKey(row.RecordingId) && passages.ContainsKey(row.ReadingId)).Select(row =>
        {
            var (recording, passage) = (recordings[row.RecordingId], passages[row.ReadingId]);
            var (bar, inBar) = passage.Meters.Locate(new(row.StartTick));
            if (!differences.TryGetValue(row.Summary, out var difference)) differences[row.Summary] = difference = row.Summary;
            return new PlaceOfIdea(
                row.Id, recording, new(row.StartTick), row.Bar is { } first ? first + bar : null, inBar,
                    passage.Tempo ?? (recording.Tempo is { } t ? Bpm.Of(t) : null),
                VerdictWords.Read(row.Verdict), row.Cost, difference, JudgedWords.Read(row.Judgement), row.Vanished, row.CreatedAt);
        })];
    }

    private sealed record Found
    {
        public SightingId Id { get; init; }
        public RecordingId RecordingId { get; init; }
        public ReadingId ReadingId { get; init; }
        public int? Bar { get; init; }
        public int StartTick { get; init; }
        public string Verdict { get; init; } = "";
        public int Cost { get; init; }
        public string Summary { get; init; } = "";
        public string? Judgement { get; init; }
        public bool Vanished { get; init; }
        public DateTime CreatedAt { get; init; }
    }
}
