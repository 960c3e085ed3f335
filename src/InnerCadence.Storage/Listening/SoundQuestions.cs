using System.Text.Json;
using System.Text.Json.Serialization;
using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>A few counts that are looked for in every sound, as they were typed.</summary>
/// <param name="Drum">What may stand for a drum, as the rules of ideas call it.</param>
/// <param name="Rates">At other rates too.</param>
public sealed record LikeAsked(string Text, string Drum, bool Rates);

/// <param name="Titles">In at least so many.</param>
public sealed record RecurringAsked(int Titles);

/// <summary>A place of a recording that answers a question.</summary>
/// <param name="Bar">From 1; nothing where bars were taken by the ear.</param>
public sealed record AnsweringPlace(long Recording, int AtMs, int UntilMs, int? Bar, double Score, IReadOnlyList<int> OffsetsMs,
    IReadOnlyList<string> Voices, IReadOnlyList<double> Strengths)
{
    public FoundPlaceRow AsFound() => new()
    {
        RecordingId = new(Recording),
        AtMs = AtMs,
        UntilMs = UntilMs,
        Bar = Bar,
        Score = Score,
        OffsetsMs = [.. OffsetsMs],
        Voices = [.. Voices],
        Strengths = [.. Strengths],
    };
}

/// <param name="Recordings">Looked through.</param>
/// <param name="Places">The best first.</param>
public sealed record LikeAnswer(int Recordings, int Bars, IReadOnlyList<AnsweringPlace> Places);

/// <summary>A stretch that comes back in what the ear heard.</summary>
/// <param name="Text">As count lines.</param>
/// <param name="Expected">In how many titles chance alone would show it.</param>
public sealed record RecurringCell(string Text, int Moments, int Occurrences, int Titles, double Expected, IReadOnlyList<string> Counts,
    IReadOnlyList<AnsweringPlace> Places);

public sealed record RecurringAnswer(int Recordings, int Bars, IReadOnlyList<RecurringCell> Cells);

/// <summary>A question to all sounds of a study.</summary>
public sealed record SoundQuestion
{
    public long Id { get; init; }
    public StudyId StudyId { get; init; }
    public string Kind { get; init; } = "";
    public string Asked { get; init; } = "{}";
    public string? Result { get; init; }
    public DateTime? MadeAt { get; init; }

    public T AskedAs<T>() => JsonSerializer.Deserialize<T>(Asked, SoundQuestions.Json)!;
    public T? ResultAs<T>() where T : class => Result is null ? null : JsonSerializer.Deserialize<T>(Result, SoundQuestions.Json);
}

/// <summary>Questions to all sounds of a study that have no name yet: their answers are worked out, so a few are kept.</summary>
public sealed class SoundQuestions(NpgsqlDataSource source, JobStore jobs)
{
    public const string Like = "like", Recurring = "recurring";
    private const int Kept = 12;

    internal static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    /// <param name="kind"><see cref="Like"/> or <see cref="Recurring"/>.</param>
    /// <returns>The work that answers it.</returns>
    public async Task<JobId> AskAsync(StudyId study, string kind, object asked, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var id = await connection.ExecuteScalarAsync<long>(new(
            """
            delete from sound_question where study_id = @study and kind = @kind
              and id not in (select id from sound_question where study_id = @study and kind = @kind order by id desc limit @Kept);
            insert into sound_question (study_id, kind, asked) values (@study, @kind, @asked::jsonb) returning id
            """, new { study, kind, asked = JsonSerializer.Serialize(asked, Json), Kept }, cancellationToken: stop));
        return await jobs.AddAsync($"sound-{kind}", study, $"{{\"question\":{id}}}", stop);
    }

    public async Task<SoundQuestion?> FindAsync(long id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<SoundQuestion>(new(
            "select id, study_id, kind, asked::text as asked, result::text as result, made_at from sound_question where id = @id",
                new { id },
            cancellationToken: stop));
    }

    /// <summary>The last that has an answer.</summary>
    public async Task<SoundQuestion?> LatestAsync(StudyId study, string kind, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<SoundQuestion>(new(
            "select id, study_id, kind, asked::text as asked, result::text as result, made_at from sound_question "
                + "where study_id = @study and kind = @kind and made_at is not null order by id desc limit 1", new { study, kind },
            cancellationToken: stop));
    }

    internal Task KeepAsync(JobRun run, long id, object answer, string says) => run.KeepAsync(async (connection, transaction) =>
    {
        await connection.ExecuteAsync(new("update sound_question set made_at = now(), result = @answer::jsonb where id = @id",
            new { id, answer = JsonSerializer.Serialize(answer, Json) }, transaction, cancellationToken: run.Stop));
        return says;
    });
}
