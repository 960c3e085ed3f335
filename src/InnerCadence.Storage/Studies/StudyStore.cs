using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using Npgsql;

namespace InnerCadence.Storage.Studies;

/// <summary>One line of the list of studies.</summary>
public sealed record StudyRow
{
    public StudyId Id { get; init; }
    public string Name { get; init; } = "";
    public string Subject { get; init; } = "";
    public int Recordings { get; init; }
    public int Passages { get; init; }
    public int Ideas { get; init; }
    public bool Deleted { get; init; }
}

/// <summary>Whom a study is about, or one with whom the subject is compared.</summary>
public enum PlayerRole
{
    Comparison,
    Subject,
}

public sealed record Player
{
    public PlayerId Id { get; init; }
    public string Name { get; init; } = "";
    public PlayerRole Role { get; init; }
    public string Handedness { get; init; } = "right";

    public bool IsSubject => Role == PlayerRole.Subject;
}

/// <summary>One research project.</summary>
public sealed record Study
{
    public StudyId Id { get; init; }
    public string Name { get; init; } = "";
    public string Question { get; init; } = "";
    public int Version { get; init; }
    public IReadOnlyList<Player> Players { get; init; } = [];

    public Player Subject => Players.Single(p => p.IsSubject);
    public IEnumerable<Player> Comparison => Players.Where(p => !p.IsSubject);
}

/// <summary>What a person writes about a study.</summary>
/// <param name="Comparison">Names of the players it is compared with.</param>
public sealed record StudyDraft(string Name, string Question, string Subject, Handedness Handedness, ValueList<string> Comparison);

public sealed class StudyStore(NpgsqlDataSource source)
{
    public async Task<IReadOnlyList<StudyRow>> AllAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<StudyRow>(new(
            """
            select s.id, s.name, p.name as subject, s.deleted_at is not null as deleted,
                   (select count(*)::int from recording r where r.study_id = s.id and r.deleted_at is null) as recordings,
                   (select count(*)::int from passage g join recording r on r.id = g.recording_id
                     where r.study_id = s.id and r.deleted_at is null and g.deleted_at is null) as passages,
                   (select count(*)::int from idea i where i.study_id = s.id and i.deleted_at is null) as ideas
            from study s
            join player p on p.study_id = s.id and p.role = 'subject'
            order by s.created_at, s.id
            """, cancellationToken: stop))).AsList();
    }

    /// <summary>The studies that are not deleted, for the switcher.</summary>
    public async Task<IReadOnlyList<(StudyId Id, string Name)>> NamesAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<(StudyId, string)>(
            new("select id, name from study where deleted_at is null order by created_at, id", cancellationToken: stop))).AsList();
    }

    /// <summary>Nothing when there is no such study or it is deleted.</summary>
    public async Task<Study?> FindAsync(StudyId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        using var both = await connection.QueryMultipleAsync(new(
            """
            select id, name, question, version from study where id = @id and deleted_at is null;
            select id, name, role, handedness from player where study_id = @id order by role desc, id
            """, new { id }, cancellationToken: stop));
        return await both.ReadSingleOrDefaultAsync<Study>() is { } study
            ? study with { Players = (await both.ReadAsync<Player>()).AsList() } : null;
    }

    public Task<StudyId> AddAsync(StudyDraft draft, CancellationToken stop) => AddAsync(draft, false, stop);

    /// <summary>A study that is being read from files; until it is finished it is taken away by <see cref="ClearUnfinishedAsync"/>, so that
    /// no start that is cut off leaves half of one.</summary>
    public Task<StudyId> BeginAsync(StudyDraft draft, CancellationToken stop) => AddAsync(draft, true, stop);

    public Task FinishAsync(StudyId id, CancellationToken stop) => MarkAsync("delete from unfinished where study_id = @id", id, stop);

    /// <returns>How many were taken away.</returns>
    public async Task<int> ClearUnfinishedAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var left = (await connection.QueryAsync<long>(new("select study_id from unfinished", cancellationToken: stop))).ToList();
        foreach (var id in left) await PurgeAsync(new(id), stop);
        return left.Count;
    }

    private async Task<StudyId> AddAsync(StudyDraft draft, bool unfinished, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var id = await connection.ExecuteScalarAsync<long>(new(
            "insert into study (name, question, counted) values (@Name, @Question, @counted) returning id",
                new { draft.Name, draft.Question, counted = Core.Evidence.Account.Version }, transaction, cancellationToken: stop));
        await connection.ExecuteAsync(new(
            "insert into player (study_id, name, role, handedness) values (@id, @Subject, 'subject', @hands)",
            new { id, draft.Subject, hands = Word(draft.Handedness) }, transaction, cancellationToken: stop));
        await AddPlayersAsync(connection, transaction, id, draft, stop);
        if (unfinished) await connection.ExecuteAsync(new("insert into unfinished (study_id) values (@id)", new { id }, transaction,
            cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return new(id);
    }

    /// <summary>False when somebody changed the study since the given version was read. Comparison players with recordings stay.</summary>
    public async Task<bool> UpdateAsync(StudyId id, StudyDraft draft, int version, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var changed = await connection.ExecuteAsync(new(
            """
            update study set name = @Name, question = @Question, version = version + 1
            where id = @id and version = @version and deleted_at is null
            """, new { id, draft.Name, draft.Question, version }, transaction, cancellationToken: stop));
        if (changed == 0) return false;
        await connection.ExecuteAsync(new(
            """
            delete from player p
            where p.study_id = @id and p.role = 'comparison' and not p.name = any(@names)
              and not exists (select 1 from recording r where r.player_id = p.id);
            update player set name = @Subject, handedness = @hands where study_id = @id and role = 'subject'
            """, new { id, names = draft.Comparison.ToArray(), draft.Subject, hands = Word(draft.Handedness) }, transaction,
                cancellationToken: stop));
        await AddPlayersAsync(connection, transaction, id.Value, draft, stop);
        await transaction.CommitAsync(stop);
        return true;
    }

    public Task DeleteAsync(StudyId id, CancellationToken stop) =>
        MarkAsync("update study set deleted_at = now() where id = @id", id, stop);

    public Task RestoreAsync(StudyId id, CancellationToken stop) =>
        MarkAsync("update study set deleted_at = null where id = @id", id, stop);

    /// <summary>Takes a study out for good, with every row that hangs on it: for one that could not be made whole.</summary>
    internal async Task PurgeAsync(StudyId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var tables = await ArchiveTables.AllAsync(connection, stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var ids = new Dictionary<string, long[]> { ["study"] = [id.Value] };
        foreach (var table in tables.Where(t => t.HasId))
            ids[table.Name] = [.. await connection.QueryAsync<long>(new($"select t.id from {table.Name} t where {table.Belongs}",
                table.Parameters(ids), transaction, cancellationToken: stop))];
        foreach (var table in tables.Reverse())
            await connection.ExecuteAsync(new($"delete from {table.Name} t where {table.Belongs}", table.Parameters(ids), transaction,
                cancellationToken: stop));
        await connection.ExecuteAsync(new("delete from unfinished where study_id = @id", new { id }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
    }

    private async Task MarkAsync(string sql, StudyId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(sql, new { id }, cancellationToken: stop));
    }

    /// <summary>The player whose hands are one's own, for takes of the microphone.</summary>
    public async Task<PlayerId> OwnHandsAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return new(await connection.ExecuteScalarAsync<long>(new(
            """
            insert into player (study_id, name, role) values (@study, 'own hands', 'comparison')
            on conflict (study_id, name) do update set name = excluded.name returning id
            """, new { study }, cancellationToken: stop)));
    }

    private static Task AddPlayersAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, long id, StudyDraft draft,
        CancellationToken stop) =>
        connection.ExecuteAsync(new(
            """
            insert into player (study_id, name, role) select @id, name, 'comparison' from unnest(@names) as name
            on conflict (study_id, name) do nothing
            """, new { id, names = draft.Comparison.ToArray() }, transaction, cancellationToken: stop));

    private static string Word(Handedness handedness) => handedness.ToString().ToLowerInvariant();
}
