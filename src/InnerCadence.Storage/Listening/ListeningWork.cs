using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <param name="Sound">Its number.</param>
public sealed record SoundInput(long Sound);

/// <summary>Long work that streams a WAV file’s samples to a listener, so that memory stays flat however long it is.</summary>
public abstract class ListeningWork(SoundStore sounds, SoundFiles files, string kind, string heading) : Work<SoundInput>(kind, heading)
{
    private const int Frames = 16384;

    /// <summary>What hears the samples of one file.</summary>
    protected interface IListener
    {
        void Take(ReadOnlySpan<float> mono);
        /// <returns>What was heard, in a sentence.</returns>
        Task<string> KeepAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, SoundId id, CancellationToken stop);
    }

    protected abstract string Doing { get; }
    protected abstract string Stopped { get; }
    /// <param name="hash">Of the file whose samples are heard.</param>
    protected abstract IListener Listen(WavHead head, string hash);

    protected override async Task RunAsync(SoundInput input, JobRun run)
    {
        var id = new SoundId(input.Sound);
        if (await sounds.FindAsync(id, run.Stop) is not { } row
            || !files.Has(row.Hash)) throw new JobFailedException("The sound file is not there any more.");
        var hash = row.Samples is { } wav && files.Has(wav) ? wav : row.Hash;
        await using var file = files.Open(hash);
        if ((await SoundStore.HeadAsync(file, run.Stop)).Head is not { } head) throw new JobFailedException(
            "Only a WAV file is read here.");
        var listener = Listen(head, hash);
        file.Position = head.DataStart;
        var (bytes, mono, sides) = (new byte[head.FrameBytes * Frames], new float[Frames], new SidesAsOne());
        var (left, beat) = (head.DataBytes, 0L);
        while (left > 0)
        {
            var most = (int)Math.Min(bytes.Length, left);
            var read = await file.ReadAtLeastAsync(bytes.AsMemory(0, most), most, throwOnEndOfStream: false, run.Stop);
            if (read == 0) break;
            left -= read;
            listener.Take(mono.AsSpan(0, head.Decode(bytes.AsSpan(0, read), mono, sides)));
            if (head.DataBytes - left < beat) continue;
            beat += head.DataBytes / 20 + 1;
            await run.BeatAsync((int)(100 - left * 100 / head.DataBytes), Doing, Stopped);
        }
        await run.KeepAsync((connection, transaction) => listener.KeepAsync(connection, transaction, id, run.Stop));
    }
}
