using System.Text.Json;
using Dapper;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Sightings;
using Npgsql;

namespace InnerCadence.Storage.Ideas;

/// <summary>A named idea as a person writes it.</summary>
public sealed record IdeaDraft
{
    public required string Nickname { get; init; }
    /// <summary>How it sounds.</summary>
    public string Sounds { get; init; } = "";
    /// <summary>What to avoid.</summary>
    public string Avoid { get; init; } = "";
    public ValueList<string> Tags { get; init; } = [];
    public string Note { get; init; } = "";
    public required string Text { get; init; }
    public Tick? Span { get; init; }
    /// <summary>Codes of its voices; nothing if they follow from the exemplar and the rules.</summary>
    public ValueList<string>? Scope { get; init; }
    public required Rules Rules { get; init; }
    /// <summary>The reading it was cut out of, if any.</summary>
    public ReadingId? From { get; init; }
    /// <summary>The day on which it got its name; today unless it is said.</summary>
    public DateOnly? NamedOn { get; init; }
}

/// <summary>A named idea and how its sightings were judged.</summary>
public sealed record IdeaRow
{
    public IdeaId Id { get; init; }
    public StudyId StudyId { get; init; }
    public string Nickname { get; init; } = "";
    public string Note { get; init; } = "";
    public string Sounds { get; init; } = "";
    public string Avoid { get; init; } = "";
    public string[] Tags { get; init; } = [];
    public DateTime UpdatedAt { get; init; }
    public string Text { get; init; } = "";
    public int? SpanTicks { get; init; }
    public string[]? Scope { get; init; }
    public string Rules { get; init; } = "{}";
    public ReadingId? ReadingId { get; init; }
    public DateOnly NamedOn { get; init; }
    public int Version { get; init; }

    public Rules RulesRead => RulesJson.Read(JsonDocument.Parse(Rules).RootElement).Rules;

    /// <summary>Whether it would have been noticed before it had its name, as it is kept; see <see cref="NoticedWords"/>.</summary>
    public string Noticed { get; init; } = "not asked";
    public DateOnly? NoticedOn { get; init; }
    /// <summary>Of “somewhere”: in which searches.</summary>
    public long[] NoticedIn { get; init; } = [];

    /// <summary>The idea as the account of its evidence needs it.</summary>
    public NamedIdea AsNamed() => new(Id.Value, NamedOn, NoticedWords.Read(Noticed), NoticedIn);

    /// <summary>The idea as the matcher needs it.</summary>
    public Idea AsIdea()
    {
        var exemplar = CountLines.Parse(Text).Passage;
        return new(exemplar, SpanTicks is { } span ? new Tick(span) : null, Scope is null ? null
            : [.. Scope.Select(code => VoiceOf(exemplar, code)).OfType<Voice>()], RulesRead);
    }

    private static Voice? VoiceOf(Passage exemplar, string code) => exemplar.Voices.FirstOrDefault(v => v.Code == code) ?? Voice.Find(code);
}

/// <summary>A listener's statement as it is kept.</summary>
public static class NoticedWords
{
    public static string Word(this NoticedBefore noticed) => noticed == NoticedBefore.NotAsked ? "not asked" : noticed.ToString()
        .ToLowerInvariant();

    public static NoticedBefore Read(string word) => word == "not asked" ? NoticedBefore.NotAsked : Enum.Parse<NoticedBefore>(word, true);
}

public sealed class IdeaStore(NpgsqlDataSource source, KeptReady kept)
{
    public IdeaStore(NpgsqlDataSource source) : this(source, new(source)) { }

    private const string Columns =
        """
        select i.id, i.study_id, i.nickname, i.note, i.sounds, i.avoid, i.tags, i.updated_at, i.text, i.span_ticks, i.scope,
          i.rules::text as rules, i.reading_id, i.named_on, i.version, i.noticed, i.noticed_on,
               coalesce((select array_agg(b.coverage_id) from idea_noticed b where b.idea_id = i.id), '{}') as noticed_in
        from idea i
        join study s on s.id = i.study_id and s.deleted_at is null
        """;

    public Task<IReadOnlyList<IdeaRow>> OfStudyAsync(StudyId study, CancellationToken stop) =>
        kept.OfAsync(study, s => ReadAsync(study, s), all => all.Count, stop);

    private async Task<IReadOnlyList<IdeaRow>> ReadAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<IdeaRow>(new(
            $"{Columns} where i.study_id = @study and i.deleted_at is null order by lower(i.nickname)", new { study },
                cancellationToken: stop))).AsList();
    }

    /// <summary>Nothing when there is no such idea, or it or its study is deleted.</summary>
    public async Task<IdeaRow?> FindAsync(IdeaId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<IdeaRow>(new(
            $"{Columns} where i.id = @id and i.deleted_at is null", new { id }, cancellationToken: stop));
    }

    /// <summary>Keeps the idea and looks for it in every passage of the study, in one transaction.</summary>
    /// <returns>Nothing when the study has another idea of this nickname.</returns>
    public async Task<IdeaId?> AddAsync(StudyId study, IdeaDraft draft, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var id = await connection.ExecuteScalarAsync<long?>(new(
            """
            insert into idea (study_id, nickname, note, sounds, avoid, tags, text, span_ticks, scope, rules, reading_id, named_on, noticed)
            values (@study, @Nickname, @Note, @Sounds, @Avoid, @tags, @Text, @Span, @scope, @rules::jsonb, @From,
              coalesce(@NamedOn, current_date), 'asked')
            on conflict (study_id, lower(nickname)) where deleted_at is null do nothing
            returning id
            """, Parameters(draft, study: study), transaction, cancellationToken: stop));
        if (id is not { } added) return null;
        await Scan.IdeaAsync(connection, transaction, new(added), stop);
        await transaction.CommitAsync(stop);
        return new(added);
    }

    /// <summary>Keeps the changes if nobody else changed the idea since the given version, and looks for it again.</summary>
    /// <returns>Nothing when the study has another idea of this nickname.</returns>
    public async Task<SaveResult?> UpdateAsync(IdeaId id, IdeaDraft draft, int version, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        try
        {
            var changed = await connection.ExecuteAsync(new(
                """
                update idea set nickname = @Nickname, note = @Note, sounds = @Sounds, avoid = @Avoid, tags = @tags, updated_at = now(),
                  text = @Text, span_ticks = @Span, scope = @scope, rules = @rules::jsonb, version = version + 1
                where id = @id and version = @version and deleted_at is null
                """, Parameters(draft, id: id, version: version), transaction, cancellationToken: stop));
            if (changed == 0) return SaveResult.ChangedMeanwhile;
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return null;
        }
        await Scan.IdeaAsync(connection, transaction, id, stop);
        await LookingStore.AgainAsync(connection, transaction, null, id, stop);
        await transaction.CommitAsync(stop);
        return SaveResult.Saved;
    }

    /// <summary>Keeps whether the idea would have been noticed before it had its name, with today's date.</summary>
    /// <param name="where">Of “somewhere”: the searches in which it would have been; others are forgotten.</param>
    public async Task StateNoticedAsync(IdeaId id, NoticedBefore noticed, IReadOnlyCollection<CoverageId> where, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            update idea set noticed = @word, noticed_on = current_date where id = @id;
            delete from idea_noticed where idea_id = @id;
            insert into idea_noticed (idea_id, coverage_id)
            select @id, c.id from coverage c join recording r on r.id = c.recording_id join idea i on i.study_id = r.study_id
              where i.id = @id and c.id = any(@where)
            """, new
            {
                id,
                word = noticed.Word(),
                where = (noticed == NoticedBefore.Somewhere ? where : []).Select(c => c.Value)
                .ToArray()
            }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
    }

    public async Task DeleteAsync(IdeaId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("update idea set deleted_at = now() where id = @id", new { id }, cancellationToken: stop));
    }

    /// <summary>Brings it back and looks for it in passages that were written meanwhile; false when its nickname was given away.</summary>
    public async Task<bool> RestoreAsync(IdeaId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        try
        {
            await connection.ExecuteAsync(new("update idea set deleted_at = null where id = @id", new { id }, transaction,
                cancellationToken: stop));
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return false;
        }
        await Scan.IdeaAsync(connection, transaction, id, stop);
        await transaction.CommitAsync(stop);
        return true;
    }

    private static object Parameters(IdeaDraft draft, StudyId study = default, IdeaId id = default, int version = 0) => new
    {
        study,
        id,
        version,
        draft.Nickname,
        draft.Note,
        draft.Sounds,
        draft.Avoid,
        tags = draft.Tags.ToArray(),
        draft.Text,
        draft.Span,
        draft.From,
        draft.NamedOn,
        scope = draft.Scope?.ToArray(),
        rules = RulesJson.Write(draft.Rules),
    };
}
