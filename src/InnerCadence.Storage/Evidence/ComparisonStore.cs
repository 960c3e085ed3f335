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
public sealed class ComparisonStore(NpgsqlDataSource source, WrittenPassages written, JobStore jobs)
{
    public const string Kind = "chance";

    public async Task<IReadOnlyList<SavedFilter>> FiltersAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<SavedFilter>(
            new("select id, name, query from saved_filter where study_id = @study order by lower(name)", new { study },
            cancellationToken: stop))).AsList();
    }

    public async Task SaveFilterAsync(StudyId study, string name, string query, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            "insert into saved_filter (study_id, name, query) values (@study, @name, @query) on conflict (study_id, name) do update set "
                + "query = excluded.query", new { study, name, query }, cancellationToken: stop));
    }

    public async Task RemoveFilterAsync(StudyId study, long id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("delete from saved_filter where study_id = @study and id = @id", new { study, id },
            cancellationToken: stop));
    }

    public Task<JobId> StartChanceAsync(StudyId study, IdeaId idea, CancellationToken stop) =>
        jobs.AddAsync(Kind, study, JsonSerializer.Serialize(new { idea = idea.Value }), stop);

    public async Task<ChanceRow?> ChanceAsync(IdeaId idea, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<ChanceRow>(
            new("select made_at, evidence, observed, expected, p from idea_chance where idea_id = @idea", new { idea },
            cancellationToken: stop));
    }

    /// <summary>What a count by chance depends on: the texts and the idea's rules.</summary>
    public async Task<string> EvidenceAsync(IdeaRow idea, CancellationToken stop) =>
        $"{idea.Version} {await written.EvidenceAsync(idea.StudyId, stop)}";
}
