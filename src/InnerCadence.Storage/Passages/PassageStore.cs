using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Sightings;
using Npgsql;

namespace InnerCadence.Storage.Passages;

/// <summary>A located stretch of drumming and its preferred reading, as a person writes them.</summary>
public sealed record PassageDraft
{
    public ClockTime? StartsAt { get; init; }
    public int? Bar { get; init; }
    public string Section { get; init; } = "";
    public required PassageKind Kind { get; init; }
    /// <summary>It was written down because an idea was heard in it: it adds nothing to what was searched.</summary>
    public bool BecauseHeard { get; init; }
    public required string Text { get; init; }
    /// <summary>How many bars the text has.</summary>
    public required int Bars { get; init; }
    public bool Looped { get; init; }
    /// <summary>Where it was heard or seen.</summary>
    public string HeardFrom { get; init; } = "ear";
    public string Confidence { get; init; } = "likely";
    public string Note { get; init; } = "";

    public static readonly IReadOnlyList<string> Sources = ["ear", "film of the hands", "live version", "printed chart", "colleague"];
    public static readonly IReadOnlyList<string> Confidences = ["certain", "likely", "guess"];
}

/// <summary>A passage with its preferred reading and where it stands.</summary>
public sealed record PassageRow
{
    public PassageId Id { get; init; }
    public ReadingId ReadingId { get; init; }
    public RecordingId RecordingId { get; init; }
    public StudyId StudyId { get; init; }
    public string Title { get; init; } = "";
    public string Take { get; init; } = "";
    public string Player { get; init; } = "";
    public DateOnly? RecordedFrom { get; init; }
    public DateOnly? RecordedTo { get; init; }
    public double? RecordingTempo { get; init; }
    public int? StartsAtMs { get; init; }
    public int? Bar { get; init; }
    public string Section { get; init; } = "";
    public PassageKind Kind { get; init; }
    public bool BecauseHeard { get; init; }
    public string Text { get; init; } = "";
    public int Bars { get; init; }
    public bool Looped { get; init; }
    public string Source { get; init; } = "";
    public string Confidence { get; init; } = "";
    public string Note { get; init; } = "";
    public int Version { get; init; }
    /// <summary>Toms of the recording's kit.</summary>
    public string Kit { get; init; } = "";
    public ClockTime? StartsAt => StartsAtMs is { } ms ? new(ms) : null;
    public string RecordingName => Take.Length == 0 ? Title : $"{Title}, {Take}";
}

/// <summary>One interpretation of a passage.</summary>
public sealed record ReadingRow
{
    public ReadingId Id { get; init; }
    public string Text { get; init; } = "";
    public int Bars { get; init; }
    public string Source { get; init; } = "";
    public string Confidence { get; init; } = "";
    public string Note { get; init; } = "";
    public bool Preferred { get; init; }
    public DateTime UpdatedAt { get; init; }
}

/// <summary>What came of saving a text that another tab may have saved meanwhile.</summary>
public enum SaveResult { Saved, ChangedMeanwhile }

public sealed class PassageStore(NpgsqlDataSource source, KeptReady kept)
{
    public PassageStore(NpgsqlDataSource source) : this(source, new(source)) { }

    private static readonly string Columns = ColumnsOf("passage");

    /// <summary>These first: the planner knows too little of small tables to find it out, and begins with the recordings.</summary>
    private static readonly string ColumnsOfThese = ColumnsOf("(select * from passage where id = any(@ids) offset 0)");

    private static string ColumnsOf(string passages) =>
        $"""
        select a.id, g.id as reading_id, r.id as recording_id, r.study_id, r.title, r.take, p.name as player, r.recorded_from,
          r.recorded_to,
               r.tempo as recording_tempo, r.kit, a.starts_at_ms, a.bar, a.section, a.kind, a.because_heard, g.text, g.bars, g.looped,
                 g.source, g.confidence, g.note, a.version
        from {passages} a
        join reading g on g.passage_id = a.id and g.preferred
        join recording r on r.id = a.recording_id and r.deleted_at is null
        join study s on s.id = r.study_id and s.deleted_at is null
        join player p on p.id = r.player_id
        """;

    /// <summary>All of a study by player, date and place, each with its bars; kept until the study changes, so that a list knows where it
    /// is.</summary>
    public Task<IReadOnlyList<(PassageId Id, int Bars)>> InOrderAsync(StudyId study, CancellationToken stop) =>
        kept.OfAsync<IReadOnlyList<(PassageId Id, int Bars)>>(study, async s =>
    {
        await using var connection = await source.OpenConnectionAsync(s);
        return (await connection.QueryAsync<(PassageId, int)>(new(
            """
            select a.id, g.bars
            from passage a join reading g on g.passage_id = a.id and g.preferred join recording r on r.id = a.recording_id
              join player p on p.id = r.player_id
            where r.study_id = @study and r.deleted_at is null and a.deleted_at is null
            order by p.role desc, r.recorded_from nulls last, r.title, r.take, a.starts_at_ms nulls last, a.bar, a.id
            """, new { study }, cancellationToken: s))).AsList();
    }, all => all.Count, stop);

    /// <summary>Those with these numbers, in their order, as far as they are there.</summary>
    public async Task<IReadOnlyList<PassageRow>> TheseAsync(IReadOnlyList<PassageId> ids, CancellationToken stop)
    {
        if (ids.Count == 0) return [];
        await using var connection = await source.OpenConnectionAsync(stop);
        var rows = (await connection.QueryAsync<PassageRow>(new(
            $"{ColumnsOfThese} where a.deleted_at is null", new { ids = ids.Select(i => i.Value).ToArray() }, cancellationToken: stop)))
                .ToDictionary(p => p.Id);
        return [.. ids.Where(rows.ContainsKey).Select(id => rows[id])];
    }

    public async Task<IReadOnlyList<PassageRow>> OfRecordingAsync(RecordingId recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<PassageRow>(new(
            $"{Columns} where r.id = @recording and a.deleted_at is null order by a.starts_at_ms nulls last, a.bar, a.id",
            new { recording }, cancellationToken: stop))).AsList();
    }

    /// <summary>The passages changed last, newest first.</summary>
    public async Task<IReadOnlyList<PassageRow>> LatestAsync(StudyId study, int most, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<PassageRow>(new(
            $"{Columns} where r.study_id = @study and a.deleted_at is null order by a.updated_at desc, a.id desc limit @most",
            new { study, most }, cancellationToken: stop))).AsList();
    }

    /// <summary>Nothing when there is no such passage, or it, its recording or its study is deleted.</summary>
    public async Task<PassageRow?> FindAsync(PassageId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<PassageRow>(new(
            $"{Columns} where a.id = @id and a.deleted_at is null", new { id }, cancellationToken: stop));
    }

    /// <summary>Keeps the passage and looks for every idea of the study in it, in one transaction.</summary>
    /// <param name="offsets">How far strokes were played from where they are written, if that is known.</param>
    public async Task<PassageId> AddAsync(RecordingId recording, PassageDraft draft, CancellationToken stop,
        IReadOnlyList<StrokeOffset>? offsets = null)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var id = await InsertAsync(connection, transaction, recording, draft, offsets ?? [], stop);
        await transaction.CommitAsync(stop);
        return id;
    }

    internal static async Task<PassageId> InsertAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, RecordingId recording,
        PassageDraft draft, IReadOnlyList<StrokeOffset> offsets, CancellationToken stop)
    {
        var id = await connection.ExecuteScalarAsync<long>(new(
            """
            insert into passage (recording_id, starts_at_ms, bar, section, kind, because_heard)
            values (@recording, @StartsAt, @Bar, @Section, @Kind, @BecauseHeard) returning id
            """, new { recording, draft.StartsAt, draft.Bar, draft.Section, draft.Kind, draft.BecauseHeard }, transaction,
                cancellationToken: stop));
        var reading = await connection.ExecuteScalarAsync<long>(new(
            "insert into reading (passage_id, text, bars, looped, source, confidence, note) values (@id, @Text, @Bars, @Looped, "
                + "@HeardFrom, @Confidence, @Note) returning id",
            new { id, draft.Text, draft.Bars, draft.Looped, draft.HeardFrom, draft.Confidence, draft.Note }, transaction,
                cancellationToken: stop));
        await KeepOffsetsAsync(connection, transaction, new(reading), offsets, stop);
        await Scan.ReadingAsync(connection, transaction, new(reading), stop);
        return new(id);
    }

    internal static Task KeepOffsetsAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, ReadingId reading,
        IReadOnlyList<StrokeOffset> offsets, CancellationToken stop) =>
        connection.ExecuteAsync(new(
            """
            insert into stroke_offset (reading_id, at_tick, voice, offset_ms, sureness, flam_ms, loudness)
            select @reading, * from unnest(@ticks, @voices, @offsets, @sure, @flams, @loud)
            """,
            new
            {
                reading,
                ticks = offsets.Select(o => o.At.Value).ToArray(),
                voices = offsets.Select(o => o.Voice.Code).ToArray(),
                offsets = offsets.Select(o => o.Milliseconds).ToArray(),
                sure = offsets.Select(o => o.Sureness).ToArray(),
                flams = offsets.Select(o => o.Flam).ToArray(),
                loud = offsets.Select(o => o.Loudness).ToArray(),
            }, transaction, cancellationToken: stop));

    /// <summary>How far the strokes of a passage's preferred reading were played from where they are written; none where nobody
    /// measured.</summary>
    public async Task<IReadOnlyList<StrokeOffset>> OffsetsAsync(PassageId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return [.. (await connection.QueryAsync<(int At, string Voice, double Ms, double Sure, double? Flam, double? Loud)>(new(
            """
            select o.at_tick, o.voice, o.offset_ms, o.sureness, o.flam_ms, o.loudness
            from stroke_offset o join reading g on g.id = o.reading_id where g.passage_id = @id and g.preferred order by o.at_tick, o.voice
            """, new { id }, cancellationToken: stop)))
            .Where(o => Voice.Find(o.Voice) is not null).Select(o => new StrokeOffset(new(o.At), Voice.Find(o.Voice)!, o.Ms, o.Sure,
                o.Flam, o.Loud))];
    }

    /// <summary>A stroke that a person puts early or late.</summary>
    public async Task SetOffsetAsync(ReadingId reading, StrokeOffset offset, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await SetOffsetsAsync(connection, null, reading, [offset], stop);
    }

    /// <summary>Strokes that a person puts early or late, or taps; how loud one was stays known where that is not told anew.</summary>
    private static Task SetOffsetsAsync(NpgsqlConnection connection, NpgsqlTransaction? transaction, ReadingId reading,
        IReadOnlyList<StrokeOffset> offsets, CancellationToken stop) =>
        connection.ExecuteAsync(new(
            """
            insert into stroke_offset (reading_id, at_tick, voice, offset_ms, loudness)
            select @reading, * from unnest(@ticks, @voices, @offsets, @loud)
            on conflict (reading_id, at_tick, voice) do update set offset_ms = excluded.offset_ms, sureness = 1,
              loudness = coalesce(excluded.loudness, stroke_offset.loudness)
            """,
            new
            {
                reading,
                ticks = offsets.Select(o => o.At.Value).ToArray(),
                voices = offsets.Select(o => o.Voice.Code).ToArray(),
                offsets = offsets.Select(o => o.Milliseconds).ToArray(),
                loud = offsets.Select(o => o.Loudness).ToArray(),
            }, transaction, cancellationToken: stop));

    /// <summary>Keeps the changes if nobody else changed the passage since the given version, and looks for every idea again.</summary>
    /// <param name="tapped">Strokes whose timing came with the text.</param>
    public async Task<SaveResult> UpdateAsync(PassageId id, PassageDraft draft, int version, CancellationToken stop,
        IReadOnlyList<StrokeOffset>? tapped = null)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var changed = await connection.ExecuteAsync(new(
            """
            update passage set starts_at_ms = @StartsAt, bar = @Bar, section = @Section, kind = @Kind, because_heard = @BecauseHeard,
                   version = version + 1, updated_at = now()
            where id = @id and version = @version and deleted_at is null
            """, new { id, version, draft.StartsAt, draft.Bar, draft.Section, draft.Kind, draft.BecauseHeard }, transaction,
                cancellationToken: stop));
        if (changed == 0) return SaveResult.ChangedMeanwhile;
        var reading = await connection.ExecuteScalarAsync<long>(new(
            """
            update reading set text = @Text, bars = @Bars, looped = @Looped, source = @HeardFrom, confidence = @Confidence, note = @Note,
              updated_at = now()
            where passage_id = @id and preferred returning id
            """, new { id, draft.Text, draft.Bars, draft.Looped, draft.HeardFrom, draft.Confidence, draft.Note }, transaction,
                cancellationToken: stop));
        if (tapped is { Count: > 0 }) await SetOffsetsAsync(connection, transaction, new(reading), tapped, stop);
        await Scan.ReadingAsync(connection, transaction, new(reading), stop);
        await transaction.CommitAsync(stop);
        return SaveResult.Saved;
    }

    /// <summary>Another text for the preferred reading, of as many bars; all else stays.</summary>
    public async Task<SaveResult> RewriteAsync(PassageId id, string text, int version, CancellationToken stop) =>
        await FindAsync(id, stop) is { } row ? await UpdateAsync(id, new()
        {
            StartsAt = row.StartsAt,
            Bar = row.Bar,
            Section = row.Section,
            Kind = row.Kind,
            BecauseHeard = row.BecauseHeard,
            Text = text,
            Bars = row.Bars,
            Looped = row.Looped,
            HeardFrom = row.Source,
            Confidence = row.Confidence,
            Note = row.Note,
        }, version, stop) : SaveResult.ChangedMeanwhile;

    /// <summary>All readings of a passage, the preferred one first.</summary>
    public async Task<IReadOnlyList<ReadingRow>> ReadingsAsync(PassageId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<ReadingRow>(new(
            "select id, text, bars, source, confidence, note, preferred, updated_at from reading where passage_id = @id order by "
                + "preferred desc, id",
            new { id }, cancellationToken: stop))).AsList();
    }

    /// <summary>Which reading was preferred when, newest first.</summary>
    public async Task<IReadOnlyList<(ReadingId Reading, DateTime ChosenAt)>> ChoicesAsync(PassageId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<(ReadingId, DateTime)>(new(
            "select reading_id, chosen_at from reading_choice where passage_id = @id order by id desc", new { id },
                cancellationToken: stop))).AsList();
    }

    /// <summary>Keeps another interpretation beside the preferred one.</summary>
    public async Task<ReadingId> AddReadingAsync(PassageId id, string text, int bars, string heardFrom, string confidence, string note,
        CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return new(await connection.ExecuteScalarAsync<long>(new(
            """
            insert into reading (passage_id, text, bars, looped, source, confidence, note, preferred)
            select id, @text, @bars, (select looped from reading where passage_id = passage.id and preferred), @heardFrom, @confidence,
              @note, false
            from passage where id = @id and deleted_at is null
            returning id
            """, new { id, text, bars, heardFrom, confidence, note }, cancellationToken: stop)));
    }

    /// <summary>Makes another reading the one that counts, and looks for every idea in it. False when it is none of the
    /// passage’s.</summary>
    public async Task<bool> PreferAsync(PassageId id, ReadingId reading, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var changed = await connection.ExecuteAsync(new(
            """
            update reading set preferred = false where passage_id = @id and preferred
              and exists (select 1 from reading o where o.id = @reading and o.passage_id = @id);
            """, new { id, reading }, transaction, cancellationToken: stop));
        if (changed == 0) return false;
        await connection.ExecuteAsync(new(
            """
            update reading set preferred = true where id = @reading;
            insert into reading_choice (passage_id, reading_id) values (@id, @reading);
            update passage set version = version + 1, updated_at = now() where id = @id
            """, new { id, reading }, transaction, cancellationToken: stop));
        await Scan.ReadingAsync(connection, transaction, reading, stop);
        await transaction.CommitAsync(stop);
        return true;
    }

    /// <summary>Puts it into the trash; what it adjoined is looked through again, since it is no longer read on into it.</summary>
    public async Task DeleteAsync(PassageId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var recording = await connection.ExecuteScalarAsync<long?>(
            new("update passage set deleted_at = now() where id = @id returning recording_id", new { id }, transaction,
            cancellationToken: stop));
        if (recording is { } of) await Scan.RecordingAsync(connection, transaction, new(of), stop);
        await transaction.CommitAsync(stop);
    }

    /// <summary>Brings it back and looks for the ideas that were named or changed meanwhile.</summary>
    public async Task RestoreAsync(PassageId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new("update passage set deleted_at = null where id = @id", new { id }, transaction,
            cancellationToken: stop));
        if (await connection.ExecuteScalarAsync<long?>(new(
            "select id from reading where passage_id = @id and preferred", new { id }, transaction,
                cancellationToken: stop)) is { } reading)
            await Scan.ReadingAsync(connection, transaction, new(reading), stop);
        await transaction.CommitAsync(stop);
    }
}
