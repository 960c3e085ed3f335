using Dapper;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Recordings;

/// <summary>A band, trio or orchestra, with the years in which it played as far as they are known.</summary>
public sealed record Ensemble
{
    public EnsembleId Id { get; init; }
    public StudyId StudyId { get; init; }
    public string Name { get; init; } = "";
    public DateOnly? ActiveFrom { get; init; }
    public DateOnly? ActiveTo { get; init; }
    public string Note { get; init; } = "";
    public int Version { get; init; }
    public int Recordings { get; init; }
    /// <summary>Whose recordings with it the study has.</summary>
    public string[] Players { get; init; } = [];

    public PartialDate? Active => ActiveFrom is { } from && ActiveTo is { } to ? new(from, to) : null;
}

/// <summary>A record, tape or broadcast as it came out.</summary>
public sealed record Release
{
    public ReleaseId Id { get; init; }
    public StudyId StudyId { get; init; }
    public string Title { get; init; } = "";
    public EnsembleId? EnsembleId { get; init; }
    public string Ensemble { get; init; } = "";
    public DateOnly? IssuedFrom { get; init; }
    public DateOnly? IssuedTo { get; init; }
    public string Note { get; init; } = "";
    public int Version { get; init; }
    public int Recordings { get; init; }
    public string[] Players { get; init; } = [];

    public PartialDate? Issued => IssuedFrom is { } from && IssuedTo is { } to ? new(from, to) : null;
}

/// <summary>What came of a change that needs a name of its own.</summary>
public enum NameResult { Saved, ChangedMeanwhile, NameTaken }

/// <summary>The ensembles and releases that a study's recordings name.</summary>
public sealed class Discography(NpgsqlDataSource source)
{
    private const string EnsembleColumns =
        """
        select e.id, e.study_id, e.name, e.active_from, e.active_to, e.note, e.version, count(r.id)::int as recordings,
               coalesce(array_agg(distinct p.name) filter (where r.id is not null), '{}') as players
        from ensemble e left join recording r on r.study_id = e.study_id and r.ensemble_id = e.id and r.deleted_at is null left
          join player p on p.id = r.player_id
        """;

    private const string ReleaseColumns =
        """
        select l.id, l.study_id, l.title, l.ensemble_id, coalesce(e.name, '') as ensemble, l.issued_from, l.issued_to, l.note, l.version,
          count(r.id)::int as recordings,
               coalesce(array_agg(distinct p.name) filter (where r.id is not null), '{}') as players
        from release l left join ensemble e on e.id = l.ensemble_id
        left join recording r on r.study_id = l.study_id and r.release_id = l.id and r.deleted_at is null left
          join player p on p.id = r.player_id
        """;

    public async Task<IReadOnlyList<Ensemble>> EnsemblesAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<Ensemble>(new($"{EnsembleColumns} where e.study_id = @study group by e.id order by e.name",
            new { study }, cancellationToken: stop))).AsList();
    }

    public async Task<IReadOnlyList<Release>> ReleasesAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<Release>(new(
            $"{ReleaseColumns} where l.study_id = @study group by l.id, e.name order by l.issued_from nulls last, l.title", new { study },
                cancellationToken: stop))).AsList();
    }

    /// <summary>Names alone, for choices and completion.</summary>
    public async Task<(IReadOnlyList<(EnsembleId Id, string Name)> Ensembles,
        IReadOnlyList<(ReleaseId Id, string Title)> Releases)> NamesAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        using var both = await connection.QueryMultipleAsync(new(
            "select id, name from ensemble where study_id = @study order by name; select id, title from release where study_id = @study "
                + "order by title", new { study }, cancellationToken: stop));
        return ((await both.ReadAsync<(EnsembleId, string)>()).AsList(), (await both.ReadAsync<(ReleaseId, string)>()).AsList());
    }

    public async Task<Ensemble?> FindAsync(EnsembleId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<Ensemble>(new($"{EnsembleColumns} where e.id = @id group by e.id", new { id },
            cancellationToken: stop));
    }

    public async Task<Release?> FindAsync(ReleaseId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<Release>(new($"{ReleaseColumns} where l.id = @id group by l.id, e.name",
            new { id }, cancellationToken: stop));
    }

    public Task<NameResult> SaveAsync(EnsembleId id, string name, PartialDate? active, string note, int version, CancellationToken stop) =>
        SaveAsync(
        "update ensemble set name = @name, active_from = @from, active_to = @to, note = @note, version = version + 1 where id = @id and "
            + "version = @version",
        new { id, name, from = active?.Earliest, to = active?.Latest, note, version }, stop);

    public Task<NameResult> SaveAsync(ReleaseId id, string title, EnsembleId? ensemble, PartialDate? issued, string note, int version,
        CancellationToken stop) => SaveAsync(
        "update release set title = @title, ensemble_id = @ensemble, issued_from = @from, issued_to = @to, note = @note, version = "
            + "version + 1 where id = @id and version = @version",
        new { id, title, ensemble, from = issued?.Earliest, to = issued?.Latest, note, version }, stop);

    private async Task<NameResult> SaveAsync(string sql, object values, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        try
        {
            return await connection.ExecuteAsync(new(sql, values, cancellationToken: stop)) == 1 ? NameResult.Saved
                : NameResult.ChangedMeanwhile;
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return NameResult.NameTaken;
        }
    }
}
