using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Claims;

/// <summary>A number that a new account of the evidence changed.</summary>
public sealed record Recounted(string What, string Link, string Was, string NowIs);

/// <summary>Studies whose numbers were counted by an earlier account: what changed is told once, old beside new, until it is
/// dismissed.</summary>
public sealed class RecountStore(NpgsqlDataSource source)
{
    /// <summary>Why a standing changed that nobody touched.</summary>
    public static string Cause => $"counted anew (version {Account.Version})";

    public async Task<IReadOnlyList<StudyId>> DueAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<StudyId>(new(
            "select id from study where counted < @Version and deleted_at is null order by id", new { Account.Version },
            cancellationToken: stop))).AsList();
    }

    internal static Task<bool> IsDueAsync(NpgsqlConnection connection, StudyId study, CancellationToken stop) =>
        connection.ExecuteScalarAsync<bool>(new("select counted < @Version from study where id = @study", new { study, Account.Version },
            cancellationToken: stop));

    public async Task TellAsync(StudyId study, Recounted change, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await TellAsync(connection, null, study, change, stop);
    }

    internal static Task TellAsync(NpgsqlConnection connection, NpgsqlTransaction? transaction, StudyId study, Recounted change,
        CancellationToken stop) => connection.ExecuteAsync(new(
        "insert into counted_anew (study_id, counted, what, link, was, now_is) values (@study, @Version, @What, @Link, @Was, @NowIs) on "
            + "conflict do nothing",
        new { study, Account.Version, change.What, change.Link, change.Was, change.NowIs }, transaction, cancellationToken: stop));

    /// <summary>From now on changes have causes of their own.</summary>
    public async Task DoneAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("update study set counted = @Version where id = @study", new { study, Account.Version },
            cancellationToken: stop));
    }

    /// <summary>What is not dismissed yet.</summary>
    public async Task<IReadOnlyList<Recounted>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<Recounted>(
            new("select what, link, was, now_is from counted_anew where study_id = @study and dismissed_at is null order by id",
            new { study }, cancellationToken: stop))).AsList();
    }

    public async Task DismissAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("update counted_anew set dismissed_at = now() where study_id = @study and dismissed_at is null",
            new { study }, cancellationToken: stop));
    }
}
