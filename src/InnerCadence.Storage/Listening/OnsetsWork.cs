using System.Text.Json;
using Dapper;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>The long work of looking for what is struck in a sound, and for its tempo.</summary>
public sealed class OnsetsWork(SoundStore sounds, SoundFiles files)
    : ListeningWork(sounds, files, SoundStore.OnsetsKind, "Listening for what is struck")
{
    protected override string Doing => "Listening to the sound.";
    protected override string Stopped => "Cancelled: nothing was kept of what was heard.";
    protected override IListener Listen(WavHead head) => new Heard(new(head.Rate));

    private sealed class Heard(Onsets onsets) : IListener
    {
        public void Take(ReadOnlySpan<float> mono) => onsets.Add(mono);

        public async Task<string> KeepAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, SoundId id, CancellationToken stop)
        {
            var heard = new HeardSound(onsets.Found(), onsets.Tempos());
            await connection.ExecuteAsync(new("update sound set heard = @heard::jsonb where id = @id",
                new { id, heard = JsonSerializer.Serialize(heard) }, transaction, cancellationToken: stop));
            return $"{heard.Onsets.Count:#,0} onsets were heard.";
        }
    }
}
