using Dapper;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Sightings;
using Npgsql;

namespace InnerCadence.Storage.Ideas;

/// <summary>A place that is like something typed.</summary>
public sealed record LikePlace(PassageId PassageId, string Title, string Take, int? Bar, string Text, Sighting Sighting)
{
    public string RecordingName => Take.Length == 0 ? Title : $"{Title}, {Take}";
}

/// <summary>Finds anything like a few counts, without naming it.</summary>
public sealed class Likenesses(NpgsqlDataSource source, IdeaStore ideas)
{
    /// <summary>Ideas whose exemplar shows the pattern, and places of passages that do, best first.</summary>
    public async Task<(IReadOnlyList<(IdeaRow Idea, Sighting Sighting)> Ideas, IReadOnlyList<LikePlace> Places)> FindAsync(StudyId study,
        Idea pattern, CancellationToken stop)
    {
        var matcher = new Matcher(pattern);
        var named = (await ideas.OfStudyAsync(study, stop))
            .Select(row => (row, found: matcher.FindIn(CountLines.Parse(row.Text).Passage).OrderBy(s => s.Verdict).ThenBy(s => s.Cost)
                .FirstOrDefault()))
            .Where(p => p.found is not null).Select(p => (p.row, p.found!)).ToList();
        await using var connection = await source.OpenConnectionAsync(stop);
        var found = await Scan.TryAsync(connection, study, pattern, stop);
        var readings = (await connection.QueryAsync<(ReadingId Reading, PassageId Passage, string Title, string Take, int? Bar,
            string Text)>(new(
            """
            select g.id, a.id, r.title, r.take, a.bar, g.text from reading g join passage a on a.id = g.passage_id
              join recording r on r.id = a.recording_id
            where g.id = any(@ids)
            """, new { ids = found.Select(f => f.Reading.Value).Distinct().ToArray() }, cancellationToken: stop)))
                .ToDictionary(r => r.Reading);
        return (named, [.. found.Select(f => (f.Sighting, Of: readings[f.Reading])).OrderBy(f => f.Sighting.Verdict)
            .ThenBy(f => f.Sighting.Cost).ThenBy(f => f.Of.Title, StringComparer.Ordinal).ThenBy(f => f.Of.Passage.Value)
            .ThenBy(f => f.Sighting.Start)
            .Select(f => new LikePlace(f.Of.Passage, f.Of.Title, f.Of.Take, f.Of.Bar, f.Of.Text, f.Sighting))]);
    }
}
