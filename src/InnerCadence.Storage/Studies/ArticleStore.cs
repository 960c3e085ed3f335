using System.Text.Json;
using Dapper;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Studies;

/// <summary>A study's article as it was last saved.</summary>
/// <param name="Numbers">What each live number said then, by its code.</param>
public sealed record Article(StudyId StudyId, string Title, string Text, IReadOnlyDictionary<string, string> Numbers, int Version,
    DateTime? UpdatedAt)
{
    public static Article Empty(StudyId study) => new(study, "", "", new Dictionary<string, string>(), 0, null);
}

/// <summary>An article as it was frozen, with its numbers in it.</summary>
/// <param name="Counted">By which account of the evidence.</param>
public sealed record Edition(int Number, string Title, string Text, string Html, IReadOnlyDictionary<string, string> Numbers, string Note,
    DateTime FrozenAt, int Counted);

/// <summary>An interview, a book, a letter.</summary>
public sealed record CitedSource(long Id, string Key, string Text);

/// <summary>The prose of a study, its frozen editions, and what it cites besides recordings.</summary>
public sealed class ArticleStore(NpgsqlDataSource source)
{
    public async Task<Article> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var kept = await connection.QuerySingleOrDefaultAsync<(string Title, string Text, string Numbers, int Version,
            DateTime UpdatedAt)?>(new(
            "select title, text, numbers::text, version, updated_at from article where study_id = @study", new { study },
                cancellationToken: stop));
        return kept is { } k ? new(study, k.Title, k.Text, Read(k.Numbers), k.Version, k.UpdatedAt) : Article.Empty(study);
    }

    /// <summary>False where another tab saved since that version was read.</summary>
    public async Task<bool> SaveAsync(Article article, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteAsync(new(
            """
            insert into article (study_id, title, text, numbers) values (@StudyId, @Title, @Text, @numbers::jsonb)
            on conflict (study_id) do update set title = excluded.title, text = excluded.text, numbers = excluded.numbers,
              version = article.version + 1, updated_at = now() where article.version = @Version
            """, new
            {
                article.StudyId,
                article.Title,
                article.Text,
                article.Version,
                numbers = JsonSerializer.Serialize(article.Numbers)
            }, cancellationToken: stop)) == 1;
    }

    /// <summary>Newest first.</summary>
    public async Task<IReadOnlyList<Edition>> EditionsAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return [.. (await connection.QueryAsync<(int Number, string Title, string Text, string Html, string Numbers, string Note,
            DateTime FrozenAt, int Counted)>(new(
            "select number, title, text, html, numbers::text, note, frozen_at, counted from edition where study_id = @study order by "
                + "number desc", new { study }, cancellationToken: stop)))
            .Select(e => new Edition(e.Number, e.Title, e.Text, e.Html, Read(e.Numbers), e.Note, e.FrozenAt, e.Counted))];
    }

    /// <summary>Freezes an article as it reads now; nothing that is done later changes it.</summary>
    /// <returns>Its number.</returns>
    public async Task<int> FreezeAsync(Article article, string html, string note, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        // Two tabs that freeze at once make two editions, one after the other.
        await connection.ExecuteAsync(new("select 1 from study where id = @StudyId for update", new { article.StudyId }, transaction,
            cancellationToken: stop));
        var number = await connection.ExecuteScalarAsync<int>(new(
            """
            insert into edition (study_id, number, title, text, html, numbers, note, counted)
            values (@StudyId, (select coalesce(max(number), 0) + 1 from edition where study_id = @StudyId), @Title, @Text, @html,
              @numbers::jsonb, @note, @Version) returning number
            """, new
            {
                article.StudyId,
                article.Title,
                article.Text,
                html,
                numbers = JsonSerializer.Serialize(article.Numbers),
                note,
                Core.Evidence.Account.Version
            }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return number;
    }

    public async Task<IReadOnlyList<CitedSource>> SourcesAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<CitedSource>(new("select id, key, text from cited_source where study_id = @study order by key",
            new { study }, cancellationToken: stop))).AsList();
    }

    public async Task SaveSourceAsync(StudyId study, string key, string text, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            "insert into cited_source (study_id, key, text) values (@study, @key, @text) on conflict (study_id, key) do update set text "
                + "= excluded.text", new { study, key, text }, cancellationToken: stop));
    }

    /// <summary>Gives back what was taken out, so that it can be put in again.</summary>
    public async Task<CitedSource?> RemoveSourceAsync(StudyId study, long id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<CitedSource>(
            new("delete from cited_source where study_id = @study and id = @id returning id, key, text", new { study, id },
            cancellationToken: stop));
    }

    private static Dictionary<string, string> Read(string json) => JsonSerializer.Deserialize<Dictionary<string, string>>(json) ?? [];
}
