using Dapper;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>The long work of making a sound’s picture.</summary>
public sealed class OverviewWork(SoundStore sounds, SoundFiles files)
    : ListeningWork(sounds, files, SoundStore.OverviewKind, "Making the picture of a sound")
{
    protected override string Doing => "Making the picture of the sound.";
    protected override string Stopped => "Cancelled: the sound has no picture yet.";
    protected override IListener Listen(WavHead head, string hash) => new Seen(new(head.Rate), head.Rate);

    private sealed class Seen(Overview overview, int rate) : IListener
    {
        private long samples;

        public void Take(ReadOnlySpan<float> mono)
        {
            samples += mono.Length;
            overview.Add(mono);
        }

        public async Task<string> KeepAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, SoundId id, CancellationToken stop)
        {
            // Its picture is what one waits for; what is struck in it is heard after that.
            await connection.ExecuteAsync(new(
                $"update sound set overview = @overview, seconds = coalesce(seconds, @seconds) where id = @id; {SoundStore.Hear} and s.id = @id",
                new
                {
                    id,
                    overview = overview.Columns(),
                    seconds = (double)samples / rate,
                    ear = ShippedEar.Find()?.Version,
                    SoundStore.OnsetsKind
                },
                transaction, cancellationToken: stop));
            await SoundStore.SayLengthAsync(connection, transaction, id, stop);
            return "The picture of the sound is made.";
        }
    }
}
