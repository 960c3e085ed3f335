using Dapper;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>A bar of a recording that departs from its commonest one, as it is kept.</summary>
public sealed record DepartingRow
{
    public RecordingId RecordingId { get; init; }
    public int AtMs { get; init; }
    public int UntilMs { get; init; }
    /// <summary>Nothing where bars were taken by the ear.</summary>
    public int? Bar { get; init; }
    public double Surprise { get; init; }
    public string Words { get; init; } = "";
    /// <summary>Something is written down there.</summary>
    public bool Written { get; init; }

    public ClockTime At => new(AtMs);
}

/// <summary>Likely fills, set-ups and odd bars of a whole study, and those that a person heard and that are nothing.</summary>
public sealed class DepartingStore(NpgsqlDataSource source)
{
    public const string Kind = "departing";

    /// <summary>What was heard belongs to the bar that lies so near, in milliseconds.</summary>
    private const int Same = 150;

    /// <summary>The farthest first, without those that are nothing.</summary>
    /// <param name="written">With those of which something is written down.</param>
    public async Task<IReadOnlyList<DepartingRow>> OfStudyAsync(StudyId study, bool written, int most, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<DepartingRow>(new(
            """
            select * from (select d.recording_id, d.at_ms, d.until_ms, d.bar, d.surprise, d.words, exists (
                select from passage p join reading x on x.passage_id = p.id and x.preferred
                where p.recording_id = d.recording_id and p.deleted_at is null
                  and (p.bar is not null and d.bar >= p.bar and d.bar < p.bar + x.bars
                  or p.starts_at_ms between d.at_ms - @Same and d.until_ms - @Same)) as written
              from departing_bar d join recording r on r.id = d.recording_id and r.deleted_at is null
              where r.study_id = @study and not exists (select from heard_nothing n where n.recording_id = d.recording_id
                and n.at_ms between d.at_ms - @Same and d.at_ms + @Same)) d
            where @written or not written order by surprise desc, recording_id, at_ms limit @most
            """, new { study, written, most, Same }, cancellationToken: stop))).AsList();
    }

    /// <summary>Recordings and bars that were looked through.</summary>
    public async Task<(int Recordings, int Bars)> LookedAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleAsync<(int, int)>(new(
            """
            select count(*)::int, coalesce(sum(l.bars), 0)::int from departing_look l
            join recording r on r.id = l.recording_id and r.deleted_at is null where r.study_id = @study
            """, new { study }, cancellationToken: stop));
    }

    internal async Task<IReadOnlyDictionary<RecordingId, (string LookedFor, int Bars)>> LooksAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<(RecordingId Recording, string LookedFor, int Bars)>(new(
            "select l.recording_id, l.looked_for, l.bars from departing_look l join recording r on r.id = l.recording_id "
                + "where r.study_id = @study", new { study }, cancellationToken: stop)))
            .ToDictionary(l => l.Recording, l => (l.LookedFor, l.Bars));
    }

    internal async Task KeepAsync(RecordingId recording, string lookedFor, SoundBars bars, IReadOnlyList<DepartingBar> departing,
        CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            delete from departing_bar where recording_id = @recording;
            insert into departing_look (recording_id, looked_for, bars) values (@recording, @lookedFor, @bars)
            on conflict (recording_id) do update set looked_for = excluded.looked_for, bars = excluded.bars
            """, new { recording, lookedFor, bars = bars.Count }, transaction, cancellationToken: stop));
        await connection.ExecuteAsync(new(
            "insert into departing_bar (recording_id, at_ms, until_ms, bar, surprise, words) "
                + "values (@recording, @at, @until, @bar, @Surprise, @Words)",
            departing.Select(d => new
            {
                recording,
                at = (int)Math.Max(0, Math.Round(d.From.Milliseconds)),
                until = (int)Math.Max(0, Math.Round(d.To.Milliseconds)),
                bar = bars.AreKnown ? d.Bar : (int?)null,
                d.Surprise,
                d.Words,
            }), transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
    }

    /// <summary>Milliseconds of the bars of a recording that were heard and are nothing.</summary>
    public async Task<IReadOnlyList<int>> NothingAsync(RecordingId recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<int>(new("select at_ms from heard_nothing where recording_id = @recording order by at_ms",
            new { recording }, cancellationToken: stop))).AsList();
    }

    public static bool IsNothing(IReadOnlyList<int> nothing, Seconds at) => nothing.Any(ms => Math.Abs(ms - at.Milliseconds) <= Same);

    public async Task HeardNothingAsync(RecordingId recording, ClockTime at, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            "insert into heard_nothing (recording_id, at_ms) values (@recording, @at) on conflict do nothing",
            new { recording, at = at.Milliseconds }, cancellationToken: stop));
    }

    public async Task TakeBackAsync(RecordingId recording, ClockTime at, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            "delete from heard_nothing where recording_id = @recording and at_ms between @at - @Same and @at + @Same",
            new { recording, at = at.Milliseconds, Same }, cancellationToken: stop));
    }
}
