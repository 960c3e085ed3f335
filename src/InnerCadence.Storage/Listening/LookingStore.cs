using Dapper;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>A place of a sound where an idea may be, with what was said of it.</summary>
public sealed record FoundPlaceRow
{
    public long Id { get; init; }
    public RecordingId RecordingId { get; init; }
    public int AtMs { get; init; }
    public int UntilMs { get; init; }
    public int? Bar { get; init; }
    public double Score { get; init; }
    public double[] Strengths { get; init; } = [];
    /// <summary>Milliseconds of each stroke after the first; empty where an older program looked for it.</summary>
    public int[] OffsetsMs { get; init; } = [];
    public string[] Voices { get; init; } = [];
    /// <summary>Nothing before anybody heard it.</summary>
    public SaidThere? Judged { get; init; }
    /// <summary>It was heard because it lay far down the list.</summary>
    public bool AtRandom { get; init; }
    public long? HeardId { get; init; }

    public ClockTime At => new(AtMs);
    /// <summary>Strokes of the idea that are more likely there than not.</summary>
    public int Heard => Strengths.Count(FoundStroke.IsHeard);
}

/// <summary>A recording that the ear looked through.</summary>
public sealed record LookedRow(RecordingId RecordingId, string LookedFor, int Bars, DateTime FirstAt, double? Agreement);

/// <summary>What is looked for in sounds that nobody wrote down, and what a person says of it.</summary>
public sealed class LookingStore(NpgsqlDataSource source)
{
    public const string Kind = "looking";

    /// <summary>A judgement belongs to the place that lies so near, in milliseconds: another ear hears a start a little
    /// elsewhere.</summary>
    private const int Same = 150;

    /// <summary>The best first.</summary>
    public async Task<IReadOnlyList<FoundPlaceRow>> OfIdeaAsync(IdeaId idea, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<FoundPlaceRow>(new(
            """
            select f.id, f.recording_id, f.at_ms, f.until_ms, f.bar, f.score, f.strengths, f.offsets_ms, f.voices, j.judged, j.heard_id,
              coalesce(j.at_random, false) as at_random
            from found_place f join recording r on r.id = f.recording_id and r.deleted_at is null
            left join lateral (select judged, heard_id, at_random from looked_judgement j
              where j.idea_id = f.idea_id and j.recording_id = f.recording_id
                and j.at_ms between f.at_ms - @Same and f.at_ms + @Same order by abs(j.at_ms - f.at_ms) limit 1) j on true
            where f.idea_id = @idea order by f.score desc, f.id
            """, new { idea, Same }, cancellationToken: stop))).AsList();
    }

    public async Task<IReadOnlyList<LookedRow>> LookedAsync(IdeaId idea, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<LookedRow>(new(
            """
            select l.recording_id, l.looked_for, l.bars, l.first_at, l.agreement
            from looked_through l join recording r on r.id = l.recording_id and r.deleted_at is null where l.idea_id = @idea
            """,
            new { idea }, cancellationToken: stop))).AsList();
    }

    /// <summary>What was looked through is looked through again where it changed: every idea of a study that was looked for, or
    /// one.</summary>
    internal static Task AgainAsync(NpgsqlConnection connection, NpgsqlTransaction? transaction, StudyId? study, IdeaId? idea,
        CancellationToken stop) => connection.ExecuteAsync(new(
            """
            insert into job (kind, study_id, input)
            select @Kind, i.study_id, jsonb_build_object('idea', i.id) from idea i
            where i.deleted_at is null and (i.id = @idea or i.study_id = @study)
              and exists (select from looked_through l where l.idea_id = i.id)
              and not exists (select from job j where j.kind = @Kind and j.state = 'waiting' and (j.input->>'idea')::bigint = i.id)
            """, new { Kind, study, idea }, transaction, cancellationToken: stop));

    /// <summary>Ideas for which the ear looked through a recording, by nickname.</summary>
    public async Task<IReadOnlyList<string>> LookedForAsync(RecordingId recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<string>(new(
            """
            select i.nickname from looked_through l join idea i on i.id = l.idea_id and i.deleted_at is null
            where l.recording_id = @recording order by lower(i.nickname)
            """, new { recording }, cancellationToken: stop))).AsList();
    }

    internal async Task KeepAsync(IdeaId idea, RecordingId recording, string lookedFor, int bars, double? agreement,
        IReadOnlyList<FoundPlace> places, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            delete from found_place where idea_id = @idea and recording_id = @recording;
            insert into looked_through (idea_id, recording_id, looked_for, bars, agreement)
            values (@idea, @recording, @lookedFor, @bars, @agreement)
            on conflict (idea_id, recording_id) do update
            set looked_for = excluded.looked_for, bars = excluded.bars, agreement = excluded.agreement, looked_at = now()
            """, new { idea, recording, lookedFor, bars, agreement }, transaction, cancellationToken: stop));
        foreach (var place in places)
            await connection.ExecuteAsync(new(
                """
                insert into found_place (idea_id, recording_id, at_ms, until_ms, bar, score, strengths, offsets_ms, voices)
                values (@idea, @recording, @at, @until, @Bar, @Score, @strengths, @offsets, @voices)
                """,
                new
                {
                    idea,
                    recording,
                    at = (int)Math.Max(0, Math.Round(place.At.Milliseconds)),
                    until = (int)Math.Max(0, Math.Round(place.Until.Milliseconds)),
                    place.Bar,
                    place.Score,
                    strengths = place.Strokes.Select(s => s.Strength).ToArray(),
                    offsets = place.Strokes.Select(s => (int)Math.Round((s.At - place.At) * 1000)).ToArray(),
                    voices = place.Strokes.Select(s => s.Voice.Code).ToArray(),
                }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
    }

    /// <summary>What a person says of a place: a yes becomes a sighting by hand, and is none any more when it is taken back.</summary>
    /// <param name="judged">Nothing to take it back.</param>
    /// <param name="atRandom">It was shown from far down the list, not for its rank.</param>
    /// <returns>False where the idea has no such place.</returns>
    public async Task<bool> JudgeAsync(IdeaId idea, long place, SaidThere? judged, bool atRandom, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (await connection.QuerySingleOrDefaultAsync<FoundPlaceRow>(new("select id, recording_id, at_ms, until_ms, bar, score, "
            + "strengths from found_place where id = @place and idea_id = @idea",
            new { place, idea }, transaction, cancellationToken: stop)) is not { } found) return false;
        await connection.ExecuteAsync(new(
            """
            with gone as (delete from looked_judgement where idea_id = @idea and recording_id = @RecordingId
              and at_ms between @AtMs - @Same and @AtMs + @Same returning heard_id)
            delete from heard_sighting where id in (select heard_id from gone)
            """, new { idea, found.RecordingId, found.AtMs, Same }, transaction, cancellationToken: stop));
        if (judged is { } said)
            await connection.ExecuteAsync(new(
                """
                with made as (insert into heard_sighting (idea_id, recording_id, at_ms, bar, note)
                  select @idea, @RecordingId, @AtMs, @Bar, 'Found by the ear, confirmed by hand.' where @judged = 'yes' returning id)
                insert into looked_judgement (idea_id, recording_id, at_ms, judged, at_random, heard_id)
                values (@idea, @RecordingId, @AtMs, @judged, @atRandom, (select id from made))
                """, new { idea, found.RecordingId, found.AtMs, found.Bar, judged = said.Word, atRandom }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return true;
    }
}
