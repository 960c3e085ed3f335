using System.Text.Json;
using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Evidence;

/// <summary>A filter of the comparing views under a name.</summary>
public sealed record SavedFilter(long Id, string Name, string Query);

/// <summary>What an idea would count by chance, and whether what it was worked out from has changed.</summary>
public sealed record ChanceRow(DateTime MadeAt, string Evidence, int Observed, double Expected, double P);

/// <summary>Filters kept by name, and counts by chance made in the background.</summary>
public sealed class ComparisonStore(NpgsqlDataSource source, IdeaStore ideas, WrittenPassages written, JobStore jobs)
{
    public const string Kind = "chance";

    public async Task<IReadOnlyList<SavedFilter>> FiltersAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<SavedFilter>(new("select id, name, query from saved_filter where study_id = @study order by lower(name)", new { study }, cancellationToken: stop))).AsList();
    }

    public async Task SaveFilterAsync(StudyId study, string name, string query, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            "insert into saved_filter (study_id, name, query) values (@study, @name, @query) on conflict (study_id, name) do update set query = excluded.query", new { study, name, query }, cancellationToken: stop));
    }

    public async Task RemoveFilterAsync(StudyId study, long id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("delete from saved_filter where study_id = @study and id = @id", new { study, id }, cancellationToken: stop));
    }

    public Task<JobId> StartChanceAsync(StudyId study, IdeaId idea, CancellationToken stop) => jobs.AddAsync(Kind, study, JsonSerializer.Serialize(new { idea = idea.Value }), stop);

    public async Task<ChanceRow?> ChanceAsync(IdeaId idea, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<ChanceRow>(new("select made_at, evidence, observed, expected, p from idea_chance where idea_id = @idea", new { idea }, cancellationToken: stop));
    }

    /// <summary>What a count by chance depends on: the texts and the idea's rules.</summary>
    public async Task<string> EvidenceAsync(IdeaRow idea, CancellationToken stop) => $"{idea.Version} {await written.EvidenceAsync(idea.StudyId, stop)}";

    /// <summary>Runs one claimed job: 200 shuffles of the subject's own material.</summary>
    public async Task RunAsync(Job job, Guid worker, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var id = new IdeaId(JsonDocument.Parse(job.Input).RootElement.GetProperty("idea").GetInt64());
        if (await ideas.FindAsync(id, stop) is not { } idea)
        {
            await JobStore.EndAsync(connection, null, job.Id, worker, "failed", "The idea is deleted.", stop);
            return;
        }
        var evidence = await EvidenceAsync(idea, stop);
        var rows = (await written.OfStudyAsync(idea.StudyId, stop)).Where(p => p.BySubject).ToList();
        var passages = rows.Select(p => p.Passage).ToList();
        var goesOn = true;
        var chance = Chance.Of(idea.AsIdea(), passages, ExemplarIn(idea, rows), Resampling.Seed, done =>
        {
            if (done % 10 == 0) goesOn = jobs.BeatAsync(job.Id, worker, done * 100 / Chance.Shuffles, $"Shuffled {done} of {Chance.Shuffles} times.", stop).GetAwaiter().GetResult();
            return goesOn && !stop.IsCancellationRequested;
        });
        if (chance is null)
        {
            await JobStore.EndAsync(connection, null, job.Id, worker, "cancelled", "Stopped; nothing was kept.", stop);
            return;
        }
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            insert into idea_chance (idea_id, evidence, observed, expected, p) values (@id, @evidence, @Observed, @Expected, @P)
            on conflict (idea_id) do update set made_at = now(), evidence = excluded.evidence, observed = excluded.observed, expected = excluded.expected, p = excluded.p
            """, new { id, evidence, chance.Observed, chance.Expected, chance.P }, transaction, cancellationToken: stop));
        if (await JobStore.EndAsync(connection, transaction, job.Id, worker, "done", $"{idea.Nickname}: {chance.Observed} times as played, {chance.Expected:0.0} with the beats shuffled.", stop)) await transaction.CommitAsync(stop);
    }

    /// <summary>The bars out of which the idea was cut: in its reading where that is kept, else where it first stands exactly.</summary>
    private static (int, int, int)? ExemplarIn(IdeaRow idea, List<WrittenPassage> rows)
    {
        var matcher = new Matcher(idea.AsIdea());
        foreach (var (row, i) in rows.Select((r, i) => (r, i)).Where(x => idea.ReadingId is null || x.r.ReadingId == idea.ReadingId))
        {
            var passage = row.Passage;
            if (matcher.FindIn(passage).FirstOrDefault(s => s.Verdict == Verdict.Exact) is not { } own) continue;
            return (i, passage.Meters.Locate(own.Start).Bar, passage.Meters.Locate(new(Math.Max(own.Start.Value, own.End.Value - 1))).Bar);
        }
        return null;
    }
}
