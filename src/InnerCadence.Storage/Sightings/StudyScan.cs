using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Sightings;

/// <summary>The long work of looking for every idea of a study again, idea by idea, so that a crash loses one idea’s work at most.</summary>
public sealed class StudyScan(NpgsqlDataSource source, JobStore jobs)
{
    public const string Kind = "scan";

    /// <summary>Runs one claimed job to its end, its cancellation or the loss of its claim.</summary>
    public async Task RunAsync(Job job, Guid worker, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var ideas = (await connection.QueryAsync<(IdeaId Id, string Nickname)>(new(
            "select id, nickname from idea where study_id = @StudyId and deleted_at is null order by id", new { job.StudyId }, cancellationToken: stop))).AsList();
        for (var i = 0; i < ideas.Count; i++)
        {
            if (!await jobs.BeatAsync(job.Id, worker, i * 100 / ideas.Count, $"Looking for {ideas[i].Nickname}, {i + 1} of {ideas.Count}.", stop))
            {
                await JobStore.EndAsync(connection, null, job.Id, worker, "cancelled", $"Stopped after {i} of {ideas.Count} ideas; what was found so far is kept.", stop);
                return;
            }
            await using var transaction = await connection.BeginTransactionAsync(stop);
            await Scan.IdeaAsync(connection, transaction, ideas[i].Id, stop);
            await transaction.CommitAsync(stop);
        }
        await JobStore.EndAsync(connection, null, job.Id, worker, "done", $"Looked for {ideas.Count} {(ideas.Count == 1 ? "idea" : "ideas")} in every passage.", stop);
    }
}
