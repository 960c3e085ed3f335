using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Sightings;

/// <summary>The long work of looking for every idea of a study again, idea by idea, so that a crash loses one idea’s work at
/// most.</summary>
public sealed class StudyScan(NpgsqlDataSource source) : IWork
{
    public const string Name = "scan";

    public string Kind => Name;
    public string Heading => "Looking for every idea again";

    public async Task RunAsync(JobRun run)
    {
        var ideas = await IdeasAsync(run.Study, run.Stop);
        var texts = new ReadStretches();
        for (var i = 0; i < ideas.Count; i++)
        {
            await run.BeatAsync(i * 100 / ideas.Count, $"Looking for {ideas[i].Nickname}, {i + 1} of {ideas.Count}.",
                $"Stopped after {i} of {ideas.Count} ideas; what was found so far is kept.");
            await using var connection = await source.OpenConnectionAsync(run.Stop);
            await using var transaction = await connection.BeginTransactionAsync(run.Stop);
            await Scan.IdeaAsync(connection, transaction, ideas[i].Id, run.Stop, texts);
            await transaction.CommitAsync(run.Stop);
        }
        await run.DoneAsync($"Looked for {ideas.Count} {(ideas.Count == 1 ? "idea" : "ideas")} in every passage.");
    }

    private async Task<IReadOnlyList<(IdeaId Id, string Nickname)>> IdeasAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<(IdeaId, string)>(
            new("select id, nickname from idea where study_id = @study and deleted_at is null order by id", new { study },
            cancellationToken: stop))).AsList();
    }
}
