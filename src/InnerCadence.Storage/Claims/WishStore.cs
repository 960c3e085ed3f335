using Dapper;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Claims;

/// <summary>What somebody wishes to be looked at next.</summary>
public sealed record Wish
{
    public WishId Id { get; init; }
    public string Words { get; init; } = "";
    public int Votes { get; init; }
    /// <summary>The recording that is called so; nothing where none is, or the wish is another.</summary>
    public RecordingId? RecordingId { get; init; }
}

/// <summary>The wish list of a study.</summary>
public sealed class WishStore(NpgsqlDataSource source)
{
    /// <summary>Open ones, most wished first.</summary>
    public async Task<IReadOnlyList<Wish>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<Wish>(new(
            """
            select w.id, w.words, w.votes, (select r.id from recording r where r.study_id = w.study_id and r.deleted_at is null
              and lower(w.words) in (lower(r.title), lower(r.title || ', ' || r.take)) order by r.take <> '', r.id limit 1) as recording_id
            from wish w where w.study_id = @study and w.fulfilled_at is null order by w.votes desc, w.id
            """, new { study }, cancellationToken: stop))).AsList();
    }

    /// <summary>Votes are added to a wish that is there in the same words, in any case; one that was fulfilled is open again.</summary>
    public async Task AddAsync(StudyId study, IReadOnlyList<(string Words, int Votes)> slips, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            insert into wish (study_id, words, votes)
            select @study, coalesce((select w.words from wish w where w.study_id = @study and lower(w.words) = lower(s.words) order by w.id
              limit 1), s.words), s.votes
            from unnest(@words, @votes) as s (words, votes)
            on conflict (study_id, words) do update set votes = least(100000, wish.votes + excluded.votes), fulfilled_at = null
            """, new { study, words = slips.Select(s => s.Words).ToArray(), votes = slips.Select(s => s.Votes).ToArray() },
            cancellationToken: stop));
    }

    /// <returns>Its words; nothing where the study has no such wish.</returns>
    public async Task<string?> FulfilAsync(StudyId study, WishId wish, bool fulfilled, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<string?>(new(
            "update wish set fulfilled_at = case when @fulfilled then now() end where id = @wish and study_id = @study returning words",
            new { study, wish, fulfilled }, cancellationToken: stop));
    }
}
