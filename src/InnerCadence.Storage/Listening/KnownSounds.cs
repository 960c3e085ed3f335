using System.Globalization;
using Dapper;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>What people said about notes and instruments of other programs, so that they are asked once.</summary>
public sealed class KnownSounds(NpgsqlDataSource source)
{
    /// <summary>General MIDI with what was said over it.</summary>
    public async Task<PercussionMap> MapAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var said = await connection.QueryAsync<(string Called, string? Voice,
            string? Openness)>(new("select called, voice, openness from known_sound order by called", cancellationToken: stop));
        return said.Aggregate(PercussionMap.General, (map, s) =>
            map.With(s.Called, s.Voice is { } code && Voice.Find(code) is { } voice
            ? new(voice, s.Openness switch { "open" => Openness.Open, "closed" => Openness.Closed, _ => null }) : null));
    }

    /// <summary>Remembers which drum each is; no sound for what is to be left out.</summary>
    public async Task SayAsync(IReadOnlyDictionary<string, PercussionSound?> said, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        foreach (var (called, sound) in said)
            await connection.ExecuteAsync(new(
                "insert into known_sound (called, voice, openness) values (@called, @voice, @openness) on conflict (called) do update "
                    + "set voice = excluded.voice, openness = excluded.openness",
                new
                {
                    called = PercussionMap.Called(called),
                    voice = sound?.Voice.Code,
                    openness = sound?.Openness?.ToString()
                    .ToLower(CultureInfo.InvariantCulture)
                }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
    }

    /// <summary>Forgets what was said: General MIDI alone holds again, or is silent about it.</summary>
    public async Task ForgetAsync(string called, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("delete from known_sound where called = @called", new { called = PercussionMap.Called(called) },
            cancellationToken: stop));
    }
}
