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

/// <param name="Idea">Its number.</param>
public sealed record ChanceInput(long Idea);

/// <summary>The long work of counting an idea by chance: 200 shuffles of the subject’s own material.</summary>
public sealed class ChanceWork(IdeaStore ideas, WrittenPassages written, ComparisonStore comparisons)
    : Work<ChanceInput>(ComparisonStore.Kind, "Counting by chance")
{
    protected override async Task RunAsync(ChanceInput input, JobRun run)
    {
        var (id, stop) = (new IdeaId(input.Idea), run.Stop);
        var idea = await ideas.FindAsync(id, stop) ?? throw new JobFailedException("The idea is deleted.");
        var evidence = await comparisons.EvidenceAsync(idea, stop);
        var rows = (await written.OfStudyAsync(idea.StudyId, stop)).Where(p => p.BySubject).ToList();
        var passages = rows.Select(p => p.Passage).ToList();
        var chance = Chance.Of(idea.AsIdea(), passages, ExemplarIn(idea, rows), Resampling.Seed, done =>
        {
            if (done % 10 == 0) run.BeatAsync(done * 100 / Chance.Shuffles, $"Shuffled {done} of {Chance.Shuffles} times.").GetAwaiter()
                .GetResult();
            return !stop.IsCancellationRequested;
        }) ?? throw new OperationCanceledException(stop);
        await run.KeepAsync(async (connection, transaction) =>
        {
            await connection.ExecuteAsync(new(
                """
            insert into idea_chance (idea_id, evidence, observed, expected, p) values (@id, @evidence, @Observed, @Expected, @P)
            on conflict (idea_id) do update set made_at = now(), evidence = excluded.evidence, observed = excluded.observed,
              expected = excluded.expected, p = excluded.p
            """, new { id, evidence, chance.Observed, chance.Expected, chance.P }, transaction, cancellationToken: stop));
            return $"{idea.Nickname}: {chance.Observed} times as played, {chance.Expected:0.0} with the beats shuffled.";
        });
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
