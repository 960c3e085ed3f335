using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Sightings;
using Npgsql;

namespace InnerCadence.Storage.Ideas;

/// <summary>A place that a change of rules touches.</summary>
/// <param name="Was">The verdict kept now; nothing where it is not found now.</param>
/// <param name="Becomes">The verdict with the new rules; nothing where it would not be found.</param>
public sealed record TunedPlace(PassageId PassageId, string Title, string Take, int? Bar, int StartTick, string? Was, string? Becomes,
    string Summary, string? Judgement)
{
    public string RecordingName => Take.Length == 0 ? Title : $"{Title}, {Take}";
}

/// <summary>What would come, go and change across a study if an idea had other rules.</summary>
/// <param name="Found">With the new rules.</param>
/// <param name="Broken">Pinned passages that would be lost or let in, in words.</param>
public sealed record TunedStudy(int Found, ValueList<TunedPlace> Come, ValueList<TunedPlace> Go, ValueList<TunedPlace> Change,
    ValueList<string> Broken);

/// <summary>Tries rules on a study before they are saved.</summary>
public sealed class Tuning(NpgsqlDataSource source, LineageStore lineages)
{
    /// <param name="saved">The idea whose sightings are compared with; nothing for one that is not kept yet.</param>
    public async Task<TunedStudy> TryAsync(StudyId study, Idea idea, IdeaId? saved, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var found = await Scan.TryAsync(connection, study, idea, stop);
        var places = (await connection.QueryAsync<(ReadingId Reading, PassageId Passage, string Title, string Take, int? Bar)>(new(
            """
            select g.id, a.id, r.title, r.take, a.bar from reading g join passage a on a.id = g.passage_id and a.deleted_at is null
            join recording r on r.id = a.recording_id and r.deleted_at is null where r.study_id = @study and g.preferred
            """, new { study }, cancellationToken: stop))).ToDictionary(p => p.Reading);
        var kept = saved is not { } id ? [] : (await connection.QueryAsync<(ReadingId Reading, int Start, string Verdict, string Summary,
            string? Judgement)>(new(
            "select x.reading_id, x.start_tick, x.verdict, x.summary, x.judgement from sighting x where x.idea_id = @id and not "
                + "x.vanished order by x.reading_id, x.start_tick",
            new { id }, cancellationToken: stop))).Where(k => places.ContainsKey(k.Reading)).ToDictionary(k => (k.Reading, k.Start));
        TunedPlace Place(ReadingId reading, int start, string? was, string? becomes, string summary, string? judgement) =>
            new(places[reading].Passage, places[reading].Title, places[reading].Take, places[reading].Bar, start, was, becomes, summary,
                judgement);

        var (come, change) = (new List<TunedPlace>(), new List<TunedPlace>());
        foreach (var (reading, sighting) in found)
        {
            var verdict = sighting.Verdict.Word();
            if (!kept.Remove((reading, sighting.Start.Value), out var was)) come.Add(Place(reading, sighting.Start.Value, null, verdict,
                sighting.Summary, null));
            else if (was.Verdict != verdict) change.Add(Place(reading, sighting.Start.Value, was.Verdict, verdict, sighting.Summary,
                was.Judgement));
        }
        var go = kept.Values.Select(k => Place(k.Reading, k.Start, k.Verdict, null, k.Summary, k.Judgement)).ToList();

        var shown = found.Where(f => Judged.Waiting.IsTakenFor(f.Sighting.Verdict, false)).Select(f => places[f.Reading].Passage)
            .ToHashSet();
        var pins = saved is { } of ? await lineages.PinsAsync(of, stop) : [];
        return new(found.Count, come, go, change,
        [
            .. pins.Where(p => !p.Counter && !shown.Contains(p.PassageId)).Select(p => $"The example {p.Name} would be lost."),
            .. pins.Where(p => p.Counter && shown.Contains(p.PassageId)).Select(p => $"The counter-example {p.Name} would be let in."),
        ]);
    }
}
