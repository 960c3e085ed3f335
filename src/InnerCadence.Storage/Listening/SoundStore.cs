using System.Text.Json;
using Dapper;
using InnerCadence.Core.Counting.Reading;
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

    /// <summary>Whether the core reads it itself; others only the browser does.</summary>
    public bool IsWav => Media == "audio/wav";
}

/// <summary>What the core heard in a sound.</summary>
public sealed record HeardSound(IReadOnlyList<Onset> Onsets, IReadOnlyList<SoundTempo> Tempos);

/// <summary>Sound files of recordings: kept by content, with an overview made in the background.</summary>
public sealed class SoundStore(NpgsqlDataSource source, SoundFiles store, JobStore jobs, RecordingStore recordings, TimelineStore timelines, PassageStore passages)
{
    public const string OverviewKind = "overview", SimulationKind = "simulation", OnsetsKind = "onsets";

    private const string Columns = "id, recording_id, hash, name, media, bytes, seconds, simulated, overview is not null as has_overview, heard is not null as is_heard";

    public async Task<SoundRow?> OfRecordingAsync(RecordingId recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<SoundRow>(new(
            $"select {Columns} from sound where recording_id = @recording and deleted_at is null", new { recording }, cancellationToken: stop));
    }

    /// <summary>0 to 255, one a fiftieth of a second; nothing before it is made.</summary>
    public async Task<byte[]?> OverviewAsync(SoundId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<byte[]?>(new("select overview from sound where id = @id", new { id }, cancellationToken: stop));
    }

    /// <summary>What was struck in it; nothing before that was looked for.</summary>
    public async Task<HeardSound?> HeardAsync(SoundId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<string?>(new("select heard::text from sound where id = @id", new { id }, cancellationToken: stop)) is { } json ? JsonSerializer.Deserialize<HeardSound>(json) : null;
    }

    /// <summary>Attaches a file that the store keeps already, in place of what was attached. A WAV file gets its overview in the background; others get it from the browser.</summary>
    public async Task<SoundId> AttachAsync(Recording recording, string hash, string name, string media, long bytes, double? seconds, bool simulated, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var id = await connection.ExecuteScalarAsync<long>(new(
            """
            update sound set deleted_at = now() where recording_id = @Id and deleted_at is null;
            insert into sound (recording_id, hash, name, media, bytes, seconds, simulated) values (@Id, @hash, @name, @media, @bytes, @seconds, @simulated) returning id
            """, new { recording.Id, hash, name, media, bytes, seconds, simulated }, transaction, cancellationToken: stop));
        if (seconds is not null)
            await connection.ExecuteAsync(new(
                "insert into job (kind, study_id, input) values (@OverviewKind, @StudyId, jsonb_build_object('sound', @id))", new { OverviewKind, recording.StudyId, id }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
        return new(id);
    }

    /// <summary>Keeps an overview that the browser made of a file that only it can read.</summary>
    public async Task SetOverviewAsync(SoundId id, byte[] overview, double seconds, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("update sound set overview = @overview, seconds = @seconds where id = @id and overview is null", new { id, overview, seconds }, cancellationToken: stop));
    }

    public Task DeleteAsync(SoundId id, CancellationToken stop) => MarkAsync("update sound set deleted_at = now() where id = @id", id, stop);

    /// <summary>Brings it back, unless another file took its place.</summary>
    public Task RestoreAsync(SoundId id, CancellationToken stop) => MarkAsync(
        "update sound s set deleted_at = null where s.id = @id and not exists (select 1 from sound o where o.recording_id = s.recording_id and o.deleted_at is null)", id, stop);

    /// <summary>Throws away the files of sounds that were deleted over a day ago and that nothing else uses.</summary>
    public async Task ClearAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var gone = (await connection.QueryAsync<string>(new(
            """
            with old as (delete from sound where deleted_at < now() - interval '1 day' returning hash)
            select distinct hash from old where not exists (select 1 from sound s where s.hash = old.hash and (s.deleted_at is null or s.deleted_at >= now() - interval '1 day'))
            """, cancellationToken: stop))).AsList();
        foreach (var hash in gone) store.Remove(hash);
    }

    /// <summary>Runs a claimed job that makes the overview of a WAV file; memory stays flat however long it is.</summary>
    public Task OverviewAsync(Job job, Guid worker, CancellationToken stop)
    {
        Overview? overview = null;
        return ListenAsync(job, worker, "Making the picture of the sound.", "Cancelled: the sound has no picture yet.", head => overview = new(head.Rate), mono => overview!.Add(mono),
            async (connection, transaction, id) =>
            {
                await connection.ExecuteAsync(new("update sound set overview = @overview where id = @id", new { id, overview = overview!.Columns() }, transaction, cancellationToken: stop));
                return "The picture of the sound is made.";
            }, stop);
    }

    /// <summary>Runs a claimed job that looks for what was struck in a WAV file, and for its tempo.</summary>
    public Task OnsetsAsync(Job job, Guid worker, CancellationToken stop)
    {
        Onsets? onsets = null;
        return ListenAsync(job, worker, "Listening to the sound.", "Cancelled: nothing was kept of what was heard.", head => onsets = new(head.Rate), mono => onsets!.Add(mono),
            async (connection, transaction, id) =>
            {
                var heard = new HeardSound(onsets!.Found(), onsets.Tempos());
                await connection.ExecuteAsync(new("update sound set heard = @heard::jsonb where id = @id", new { id, heard = JsonSerializer.Serialize(heard) }, transaction, cancellationToken: stop));
                return $"{heard.Onsets.Count:#,0} onsets were heard.";
            }, stop);
    }

    private delegate void Samples(ReadOnlySpan<float> mono);

    /// <summary>Streams a sound’s samples to a listener and keeps what it made, with the job’s end, in one transaction.</summary>
    private async Task ListenAsync(Job job, Guid worker, string doing, string cancelled, Action<WavHead> begin, Samples take, Func<NpgsqlConnection, NpgsqlTransaction, SoundId, Task<string>> keep, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var id = new SoundId(JsonDocument.Parse(job.Input).RootElement.GetProperty("sound").GetInt64());
        var row = await connection.QuerySingleOrDefaultAsync<SoundRow>(new($"select {Columns} from sound where id = @id", new { id }, cancellationToken: stop));
        if (row is null || !store.Has(row.Hash))
        {
            await JobStore.EndAsync(connection, null, job.Id, worker, "failed", "The sound file is not there any more.", stop);
            return;
        }
        await using var file = store.Open(row.Hash);
        if ((await HeadAsync(file, stop)).Head is not { } head)
        {
            await JobStore.EndAsync(connection, null, job.Id, worker, "failed", "Only a WAV file is read here.", stop);
            return;
        }
        begin(head);
        file.Position = head.DataStart;
        var bytes = new byte[head.FrameBytes * 16384];
        var mono = new float[16384];
        var (left, beat) = (head.DataBytes, 0L);
        while (left > 0)
        {
            var read = await file.ReadAtLeastAsync(bytes.AsMemory(0, (int)Math.Min(bytes.Length, left)), (int)Math.Min(bytes.Length, left), throwOnEndOfStream: false, stop);
            if (read == 0) break;
            left -= read;
            take(mono.AsSpan(0, head.Decode(bytes.AsSpan(0, read), mono)));
            if (head.DataBytes - left < beat) continue;
            beat += head.DataBytes / 20 + 1;
            if (!await jobs.BeatAsync(job.Id, worker, (int)(100 - left * 100 / head.DataBytes), doing, stop))
            {
                await JobStore.EndAsync(connection, null, job.Id, worker, "cancelled", cancelled, stop);
                return;
            }
        }
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var said = await keep(connection, transaction, id);
        if (await JobStore.EndAsync(connection, transaction, job.Id, worker, "done", said, stop)) await transaction.CommitAsync(stop);
    }

    /// <summary>Runs a claimed job that makes a recording’s sound up from its passages.</summary>
    public async Task SimulateAsync(Job job, Guid worker, Func<SoundKey, float[]> sound, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var id = new RecordingId(JsonDocument.Parse(job.Input).RootElement.GetProperty("recording").GetInt64());
        if (await recordings.FindAsync(id, stop) is not { } recording || await timelines.OfAsync(recording, stop) is not { Map: { } map } timeline)
        {
            await JobStore.EndAsync(connection, null, job.Id, worker, "failed", "Mark the recording’s bars first: its sound is made up along them.", stop);
            return;
        }
        await jobs.BeatAsync(job.Id, worker, 5, $"Playing {recording.Name}.", stop);
        var placed = (await passages.OfRecordingAsync(id, stop)).Where(p => p is { Bar: not null, Bars: > 0 }).OrderBy(p => p.Bar)
            .Select(p => new PlacedPassage(p.Bar!.Value, CountLines.Parse(p.Text).Passage, p.Kind == "groove")).ToList();
        var bars = recording.TotalBars ?? timeline.Grid.LastDescribed;
        var seconds = Math.Min(1800, recording.Duration is { } lasts ? lasts.Milliseconds / 1000.0 : map.SecondsOf(new(bars + 1, Core.Music.Tick.Zero)) + 2);
        var samples = await Task.Run(() => Simulation.Render(map, timeline.Grid, bars, seconds, placed, sound, (int)id.Value), stop);
        if (!await jobs.BeatAsync(job.Id, worker, 80, "Keeping the sound.", stop))
        {
            await JobStore.EndAsync(connection, null, job.Id, worker, "cancelled", "Cancelled: no sound was made.", stop);
            return;
        }
        using var content = new MemoryStream(Wav.Write(samples, 1));
        var hash = await store.KeepAsync(content, stop);
        await AttachAsync(recording, hash, "simulated.wav", "audio/wav", content.Length, seconds, true, stop);
        await JobStore.EndAsync(connection, null, job.Id, worker, "done", "The simulated sound is at hand.", stop);
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
