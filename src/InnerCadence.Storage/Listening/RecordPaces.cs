using Dapper;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Recordings;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>How recordings' time goes: by their marks and by what was heard in the sound at hand.</summary>
public sealed class RecordPaces(NpgsqlDataSource source, TimelineStore timelines)
{
    /// <summary>Where the bar lines of a passage fall on the recording's sound.</summary>
    /// <returns>Nothing where they are not known.</returns>
    public async Task<PassageClock?> ClockOfAsync(Recording recording, SoundRow sound, Passage passage, int? bar, ClockTime? start,
        CancellationToken stop)
    {
        var map = (await timelines.OfAsync(recording, stop)).Map;
        var told = recording.Tempo is { } tempo ? Bpm.Of(tempo) : null;
        // Where the bar is marked nothing that was heard is asked for.
        if (PassageClock.Of(map, passage, bar, start, told) is { By: LinesBy.Marks } marked) return marked;
        if (start is null) return null;
        var heard = await BeatsAsync(sound.Id, stop);
        return new RecordPace(map, heard.Beats)
        {
            Likeliest = heard.Tempos is [var likeliest, ..] ? likeliest.Quarters(recording.Meters) : null,
        }.ClockOf(passage, bar, start, told);
    }

    private async Task<HeardBeats> BeatsAsync(SoundId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<string?>(new(
            """
            select jsonb_build_object('Strokes', '[]'::jsonb, 'Beats', heard->'Beats', 'Tempos', heard->'Tempos')::text
            from sound where id = @id and heard is not null
            """, new { id }, cancellationToken: stop)) is { } json && HeardSound.FromJson(json) is { } heard
            ? new([.. heard.Beats], [.. heard.Tempos]) : HeardBeats.None;
    }
}
