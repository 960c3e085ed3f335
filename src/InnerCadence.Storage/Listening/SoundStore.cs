using Dapper;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>A sound file at hand for a recording.</summary>
public sealed record SoundRow
{
    public SoundId Id { get; init; }
    public RecordingId RecordingId { get; init; }
    public string Hash { get; init; } = "";
    public string Name { get; init; } = "";
    public string Media { get; init; } = "";
    public long Bytes { get; init; }
    public double? Seconds { get; init; }
    public bool Simulated { get; init; }
    public bool HasOverview { get; init; }
    /// <summary>What was struck in it was looked for.</summary>
    public bool IsHeard { get; init; }

    /// <summary>Hash of the WAV made of it, where it is not WAV itself.</summary>
    public string? Decoded { get; init; }
    /// <summary>Hash of the film as a browser plays it; nothing where there is none.</summary>
    public string? Film { get; init; }
    public string? FilmMedia { get; init; }

    /// <summary>Hash of the samples that the core reads; nothing where only the browser reads the file.</summary>
    public string? Samples => Decoded ?? (Media == "audio/wav" ? Hash : null);

    /// <summary>What is played: samples where there are any, since a browser goes to any place of them at once.</summary>
    public (string Hash, string Media) Played => Samples is { } wav ? (wav, "audio/wav") : (Hash, Media);
}

/// <summary>Sound files of recordings: kept by content, with an overview made in the background.</summary>
public sealed class SoundStore(NpgsqlDataSource source, SoundFiles store, ActivationFiles activations)
{
    public const string OverviewKind = "overview", SimulationKind = "simulation", OnsetsKind = "onsets",
        DecodingKind = "decoding";

    private const string Columns =
        "id, recording_id, hash, name, media, bytes, seconds, simulated, decoded, film, film_media, overview is not null as has_overview, "
            + "heard is not null as "
        + "is_heard";

    public async Task<SoundRow?> OfRecordingAsync(RecordingId recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<SoundRow>(new(
            $"select {Columns} from sound where recording_id = @recording and deleted_at is null", new { recording },
                cancellationToken: stop));
    }

    /// <summary>Recordings of a study whose sound is at hand and read here.</summary>
    public async Task<IReadOnlySet<RecordingId>> ReadInAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<RecordingId>(new(
            """
            select s.recording_id from sound s join recording r on r.id = s.recording_id
            where r.study_id = @study and s.deleted_at is null and (s.decoded is not null or s.media = 'audio/wav')
            """, new { study }, cancellationToken: stop))).ToHashSet();
    }

    /// <summary>Nothing where there is no such sound.</summary>
    public async Task<SoundRow?> FindAsync(SoundId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<SoundRow>(new($"select {Columns} from sound where id = @id", new { id },
            cancellationToken: stop));
    }

    /// <summary>0 to 255, one a fiftieth of a second; nothing before it is made.</summary>
    public async Task<byte[]?> OverviewAsync(SoundId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<byte[]?>(new("select overview from sound where id = @id", new { id },
            cancellationToken: stop));
    }

    /// <summary>Has sounds listened to whose samples are read and which this ear has not heard, one job each.</summary>
    internal const string Hear =
        """
        insert into job (kind, study_id, input)
          select @OnsetsKind, r.study_id, jsonb_build_object('sound', s.id, 'recording', r.id)
          from sound s join recording r on r.id = s.recording_id
          where s.deleted_at is null and r.deleted_at is null and (s.decoded is not null or s.media = 'audio/wav')
            and (s.heard is null or s.ear is distinct from @ear)
            and not exists (select 1 from job j
              where j.kind = @OnsetsKind and j.state in ('waiting', 'running') and (j.input->>'sound')::bigint = s.id)
        """;

    /// <summary>Has the sounds of a recording listened to again where it gets another meter or tempo: their bars follow from it.</summary>
    internal const string HearInTime =
        """
        insert into job (kind, study_id, input)
          select @OnsetsKind, r.study_id, jsonb_build_object('sound', s.id, 'recording', r.id)
          from sound s join recording r on r.id = s.recording_id
          where r.id = @id and (r.meter <> @Meter or r.tempo is distinct from @Tempo or r.tempo_read <> @TempoRead)
            and s.deleted_at is null and s.heard is not null
            and not exists (select 1 from job j where j.kind = @OnsetsKind and j.state = 'waiting' and (j.input->>'sound')::bigint = s.id)
        """;

    /// <summary>What another ear heard, or none, is heard anew in the background.</summary>
    public async Task HearAsync(string? ear, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new($"{Hear} order by s.id", new { ear, OnsetsKind }, cancellationToken: stop));
    }

    /// <summary>What was struck in it; nothing before that was looked for.</summary>
    public async Task<HeardSound?> HeardAsync(SoundId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<string?>(new("select heard::text from sound where id = @id", new { id },
            cancellationToken: stop)) is { } json ? HeardSound.FromJson(json) : null;
    }

    /// <summary>Attaches a file that the store keeps already, in place of what was attached. A WAV file gets its overview in the
    /// background; others are made into one first, or get it from the browser where that cannot be. Where nobody said how long the
    /// recording lasts, a sound that was not made up does.</summary>
    /// <param name="decodes">It is to be made into WAV, and a film into one that a browser plays.</param>
    public async Task<SoundId> AttachAsync(Recording recording, string hash, string name, string media, long bytes, double? seconds,
        bool simulated, CancellationToken stop, bool decodes = false)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var id = await connection.ExecuteScalarAsync<long>(new(
            """
            update sound set deleted_at = now() where recording_id = @Id and deleted_at is null;
            insert into sound (recording_id, hash, name, media, bytes, seconds, simulated)
              values (@Id, @hash, @name, @media, @bytes, @seconds, @simulated) returning id
            """, new { recording.Id, hash, name, media, bytes, seconds, simulated }, transaction, cancellationToken: stop));
        if (decodes || seconds is not null)
            await connection.ExecuteAsync(new(
                "insert into job (kind, study_id, input) values (@kind, @StudyId, jsonb_build_object('sound', @id, 'recording', @Id))",
                    new { kind = decodes ? DecodingKind : OverviewKind, recording.StudyId, id, Id = recording.Id.Value }, transaction,
                        cancellationToken: stop));
        await SayLengthAsync(connection, transaction, new(id), stop);
        await transaction.CommitAsync(stop);
        return new(id);
    }

    /// <summary>Where nobody said how long the recording lasts, a sound that was not made up does, once its length is known.</summary>
    internal static async Task SayLengthAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, SoundId id,
        CancellationToken stop)
    {
        if (await connection.ExecuteScalarAsync<long?>(new(
            """
            update recording r set duration_ms = (s.seconds * 1000)::int from sound s
            where s.id = @id and r.id = s.recording_id and r.duration_ms is null and s.seconds > 0 and not s.simulated and s.deleted_at is null
            returning r.id
            """, new { id }, transaction, cancellationToken: stop)) is { } recording)
            await TimelineStore.FollowAsync(connection, transaction, new(recording), stop);
    }

    /// <summary>Keeps what the core reads of a file, and has its picture made.</summary>
    public async Task SetDecodedAsync(SoundId id, string decoded, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            update sound set decoded = @decoded where id = @id;
            insert into job (kind, study_id, input)
              select @OverviewKind, r.study_id, jsonb_build_object('sound', s.id) from sound s join recording r on r.id = s.recording_id
              where s.id = @id and s.overview is null
            """, new { id, decoded, OverviewKind }, cancellationToken: stop));
    }

    public async Task SetFilmAsync(SoundId id, string film, string media, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("update sound set film = @film, film_media = @media where id = @id", new { id, film, media },
            cancellationToken: stop));
    }

    /// <summary>Has sounds made up, in the background, for the recordings of a study whose bars are marked and that have none.</summary>
    public async Task SimulateAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            insert into job (kind, study_id, input)
              select @SimulationKind, r.study_id, jsonb_build_object('recording', r.id) from recording r
              where r.study_id = @study and r.deleted_at is null
                and (select count(*) from bar_mark b where b.recording_id = r.id) > 1
                and not exists (select 1 from sound s where s.recording_id = r.id and s.deleted_at is null)
              order by r.id
            """, new { study, SimulationKind }, cancellationToken: stop));
    }

    /// <summary>Keeps an overview that the browser made of a file that only it can read.</summary>
    public async Task SetOverviewAsync(SoundId id, byte[] overview, double seconds, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new("update sound set overview = @overview, seconds = @seconds where id = @id and overview is null",
            new { id, overview, seconds }, transaction, cancellationToken: stop));
        await SayLengthAsync(connection, transaction, id, stop);
        await transaction.CommitAsync(stop);
    }

    public Task DeleteAsync(SoundId id, CancellationToken stop) =>
        MarkAsync("update sound set deleted_at = now() where id = @id", id, stop);

    /// <summary>Brings it back, unless another file took its place.</summary>
    public Task RestoreAsync(SoundId id, CancellationToken stop) => MarkAsync(
        "update sound s set deleted_at = null where s.id = @id and not exists (select 1 from sound o where o.recording_id = "
            + "s.recording_id and o.deleted_at is null)", id, stop);

    /// <summary>Throws away the files of sounds that were deleted over a day ago and that nothing else uses.</summary>
    public async Task ClearAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var gone = (await connection.QueryAsync<string>(new(
            """
            with old as (delete from sound where deleted_at < now() - interval '1 day' returning hash, decoded, film),
                 gone as (select unnest(array[hash, decoded, film]) as hash from old)
            select distinct hash from gone where hash is not null and not exists (select 1 from sound s
              where gone.hash in (s.hash, s.decoded, s.film) and (s.deleted_at is null or s.deleted_at >= now() - interval '1 day'))
            """, cancellationToken: stop))).AsList();
        foreach (var hash in gone)
        {
            store.Remove(hash);
            activations.Remove(hash);
        }
    }

    /// <summary>What a kept file holds.</summary>
    /// <exception cref="UnreadableMediaException">It is no sound and no film.</exception>
    public async Task<MediaFacts> FactsAsync(string hash, MediaTool tool, CancellationToken stop) =>
        MediaFacts.Read(await tool.ProbeAsync(store.PathOf(hash), stop));

    /// <summary>Throws a file away that no recording has.</summary>
    public async Task ForgetAsync(string hash, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        if (!await connection.ExecuteScalarAsync<bool>(new("select exists (select 1 from sound where @hash in (hash, decoded, film))",
            new { hash },
            cancellationToken: stop))) store.Remove(hash);
    }

    /// <summary>The head of a WAV file, or why it has none; the stream is left somewhere in it.</summary>
    public static async Task<(WavHead? Head, string? Problem)> HeadAsync(Stream file, CancellationToken stop)
    {
        var start = new byte[(int)Math.Min(WavHead.Most, file.Length)];
        file.Position = 0;
        await file.ReadExactlyAsync(start, stop);
        return WavHead.Read(start, file.Length);
    }

    private async Task MarkAsync(string sql, SoundId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(sql, new { id }, cancellationToken: stop));
    }
}
