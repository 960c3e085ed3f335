using Dapper;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>The long work of listening for what is struck in a sound, and for its beat: by the trained ear, or by rules where its runtime
/// is missing.</summary>
public sealed class OnsetsWork(SoundStore sounds, SoundFiles files, ActivationFiles activations)
    : ListeningWork(sounds, files, SoundStore.OnsetsKind, "Listening for what is struck")
{
    protected override string Doing => "Listening to the sound.";
    protected override string Stopped => "Cancelled: nothing was kept of what was heard.";

    protected override IListener Listen(WavHead head, string hash) =>
        ShippedEar.Find() is { } ear ? new ByEar(ear, new(ear, head.Rate), activations, hash) : new ByRules(new(head.Rate));

    private static async Task<string> KeepAsync(HeardSound heard, NpgsqlConnection connection, NpgsqlTransaction transaction, SoundId id,
        CancellationToken stop)
    {
        await connection.ExecuteAsync(new("update sound set heard = @heard::jsonb, ear = @Ear where id = @id",
            new { id, heard = heard.ToJson(), heard.Ear }, transaction, cancellationToken: stop));
        var study = await connection.ExecuteScalarAsync<long>(new(
            "select r.study_id from sound s join recording r on r.id = s.recording_id where s.id = @id", new { id }, transaction,
            cancellationToken: stop));
        await LookingStore.AgainAsync(connection, transaction, new StudyId(study), null, stop);
        return $"{heard.Strokes.Count:#,0} strokes were heard.";
    }

    private sealed class ByEar(Ear ear, EarPass pass, ActivationFiles activations, string hash) : IListener
    {
        public void Take(ReadOnlySpan<float> mono) => pass.Add(mono);

        public async Task<string> KeepAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, SoundId id, CancellationToken stop)
        {
            var heard = pass.End();
            await activations.KeepAsync(hash, ear.Version, heard, stop);
            var strokes = HeardStrokes.In(heard, ear);
            var recording = await connection.QuerySingleAsync<Recording>(new(
                "select r.meter, r.tempo, r.tempo_read from sound s join recording r on r.id = s.recording_id where s.id = @id", new { id },
                transaction, cancellationToken: stop));
            var beats = HeardBeats.Of(heard, strokes, recording.Meters, recording.FeltTempo is { } bpm ? Bpm.Of(bpm) : null);
            var sound = new HeardSound([.. strokes], beats.Beats, beats.Tempos, ear.Version) { Echoes = heard.Echoes };
            return await OnsetsWork.KeepAsync(sound, connection, transaction, id, stop);
        }
    }

    private sealed class ByRules(Onsets onsets) : IListener
    {
        public void Take(ReadOnlySpan<float> mono) => onsets.Add(mono);

        public Task<string> KeepAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, SoundId id, CancellationToken stop) =>
            OnsetsWork.KeepAsync(new([.. RuleStrokes.Of(onsets.Found())], [], [.. onsets.Tempos()], null), connection, transaction, id,
                stop);
    }
}
