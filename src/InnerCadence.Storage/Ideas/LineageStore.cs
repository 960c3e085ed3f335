using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Ideas;

/// <summary>Somebody from whom an idea was borrowed.</summary>
public sealed record SourceRow(long Id, string Who, DateOnly? DatedFrom, DateOnly? DatedTo, string Note)
{
    public PartialDate? Dated => DatedFrom is { } from && DatedTo is { } to ? new(from, to) : null;
}

/// <summary>A passage pinned to an idea.</summary>
/// <param name="Counter">It must not show the idea.</param>
/// <param name="Shows">It does: an exact sighting or a variant that was not rejected, or a near miss that was confirmed.</param>
public sealed record PinRow(PassageId PassageId, bool Counter, string Title, string Take, int? StartsAtMs, int? Bar, string Kind)
{
    public string Name =>
        $"{(Take.Length == 0 ? Title : $"{Title}, {Take}")}{(StartsAtMs is { } ms ? $", {new ClockTime(ms)}" : "")}"
            + $"{(Bar is { } bar ? $", bar {bar}" : "")}";
    /// <summary>The idea is found in it, as a listener took it or as the search did where nobody judged.</summary>
    public bool Shows { get; init; }
    /// <summary>An example that does not show it, or a counter-example that does.</summary>
    public bool IsBroken => Shows == Counter;
}

/// <summary>Where ideas come from, and the passages they are tried on.</summary>
public sealed class LineageStore(NpgsqlDataSource source)
{
    /// <summary>Links between ideas that are not deleted.</summary>
    public async Task<IReadOnlyList<Descent>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<Descent>(new(
            """
            select l.idea_id as idea, l.of_id as of, l.kind from idea_link l
            join idea i on i.id = l.idea_id and i.deleted_at is null join idea o on o.id = l.of_id and o.deleted_at is null
            where i.study_id = @study order by l.idea_id, l.of_id
            """, new { study }, cancellationToken: stop))).AsList();
    }

    /// <summary>False where the link would make an idea its own ancestor, or the other idea is of another study.</summary>
    public async Task<bool> LinkAsync(IdeaId idea, IdeaId of, string kind, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        // Two links made at once could close a circle between them: one after the other.
        var studies = (await connection.QueryAsync<(IdeaId Id, StudyId Study)>(new(
            "select i.id, i.study_id from idea i where i.id in (@idea, @of) and i.deleted_at is null", new { idea, of }, transaction,
                cancellationToken: stop))).AsList();
        if (studies.Count != 2 || studies[0].Study != studies[1].Study) return false;
        await connection.ExecuteAsync(new("select 1 from study where id = @Study for update", new { studies[0].Study }, transaction,
            cancellationToken: stop));
        var links = await connection.QueryAsync<Descent>(new(
            "select l.idea_id as idea, l.of_id as of, l.kind from idea_link l join idea i on i.id = l.idea_id where i.study_id = @Study "
                + "and (l.idea_id, l.of_id) <> (@idea, @of)",
            new { studies[0].Study, idea, of }, transaction, cancellationToken: stop));
        if (Lineage.WouldClose(links, idea.Value, of.Value)) return false;
        await connection.ExecuteAsync(new(
            "insert into idea_link (idea_id, of_id, kind) values (@idea, @of, @kind) on conflict (idea_id, of_id) do update set kind = "
                + "excluded.kind",
            new { idea, of, kind }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return true;
    }

    public Task UnlinkAsync(IdeaId idea, IdeaId of, CancellationToken stop) =>
        ExecuteAsync("delete from idea_link where idea_id = @idea and of_id = @of", new { idea, of }, stop);

    public async Task<IReadOnlyList<SourceRow>> SourcesAsync(IdeaId idea, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<SourceRow>(new(
            "select id, who, dated_from, dated_to, note from idea_source where idea_id = @idea order by dated_from nulls last, id",
                new { idea }, cancellationToken: stop))).AsList();
    }

    public Task BorrowAsync(IdeaId idea, string who, PartialDate? dated, string note, CancellationToken stop) => ExecuteAsync(
        "insert into idea_source (idea_id, who, dated_from, dated_to, note) values (@idea, @who, @from, @to, @note)",
        new { idea, who, from = dated?.Earliest, to = dated?.Latest, note }, stop);

    public Task ReturnAsync(IdeaId idea, long id, CancellationToken stop) =>
        ExecuteAsync("delete from idea_source where idea_id = @idea and id = @id", new { idea, id }, stop);

    public async Task<IReadOnlyList<PinRow>> PinsAsync(IdeaId idea, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        using var both = await connection.QueryMultipleAsync(new(
            """
            select a.id as passage_id, n.counter, r.title, r.take, a.starts_at_ms, a.bar, a.kind
            from idea_pin n join passage a on a.id = n.passage_id and a.deleted_at is null join recording r on r.id = a.recording_id
              and r.deleted_at is null
            where n.idea_id = @idea order by n.counter, r.recorded_from nulls last, r.title, a.id;
            select g.passage_id, x.verdict, x.judgement, x.vanished
            from idea_pin n join reading g on g.passage_id = n.passage_id and g.preferred join sighting x on x.reading_id = g.id
              and x.idea_id = n.idea_id
            where n.idea_id = @idea
            """, new { idea }, cancellationToken: stop));
        var pins = (await both.ReadAsync<PinRow>()).AsList();
        var found = (await both.ReadAsync<(PassageId Passage, string Verdict, string? Judgement, bool Vanished)>())
            .ToLookup(f => f.Passage);
        return [.. pins.Select(pin => pin with { Shows = found[pin.PassageId]
            .Any(f => JudgedWords.Read(f.Judgement).IsTakenFor(VerdictWords.Read(f.Verdict), f.Vanished)) })];
    }

    public Task PinAsync(IdeaId idea, PassageId passage, bool counter, CancellationToken stop) => ExecuteAsync(
        """
        insert into idea_pin (idea_id, passage_id, counter)
        select @idea, a.id, @counter from passage a join recording r on r.id = a.recording_id join idea i on i.id = @idea
          and i.study_id = r.study_id where a.id = @passage
        on conflict (idea_id, passage_id) do update set counter = excluded.counter
        """, new { idea, passage, counter }, stop);

    public Task UnpinAsync(IdeaId idea, PassageId passage, CancellationToken stop) =>
        ExecuteAsync("delete from idea_pin where idea_id = @idea and passage_id = @passage", new { idea, passage }, stop);

    private async Task ExecuteAsync(string sql, object parameters, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(sql, parameters, cancellationToken: stop));
    }
}
