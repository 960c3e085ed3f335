using System.Collections.Concurrent;
using Dapper;
using InnerCadence.Core.Music;
using Microsoft.Extensions.Caching.Memory;
using Npgsql;

namespace InnerCadence.Storage.Evidence;

/// <summary>
/// Keeps what was worked out of a study's evidence until something of it changes. Every change leaves a row in <c>evidence_change</c> in
/// its own transaction, whoever
/// makes it, so that nothing stale is ever shown.
/// </summary>
/// <param name="most">In rows that the kept things were made of; what is used least goes first.</param>
public sealed class KeptReady(NpgsqlDataSource source, long most = 1_500_000) : IDisposable
{
    /// <summary>Rows of changes are only counted, so old ones go now and then.</summary>
    private const int MostChanges = 2_000;

    private static readonly AsyncLocal<ConcurrentDictionary<StudyId, Task<string>>?> Look = new();

    private readonly MemoryCache kept = new(new MemoryCacheOptions { SizeLimit = most });

    /// <summary>The thing of this kind that is kept of a study, or a new one.</summary>
    /// <param name="work">Makes it; it is shared by all who ask, so that no one of them may stop it.</param>
    /// <param name="rows">How much it holds.</param>
    /// <param name="choice">Which one, where there are several of a kind; the same one is equal.</param>
    public async Task<T> OfAsync<T>(StudyId study, Func<CancellationToken, Task<T>> work, Func<T, long> rows, CancellationToken stop,
        object? choice = null)
    {
        // Told before it is worked out: what changes meanwhile is found the next time.
        var stamp = await (Look.Value is { } look ? look.GetOrAdd(study, s => StampAsync(s, CancellationToken.None)).WaitAsync(stop)
            : StampAsync(study, stop));
        var key = (typeof(T), study, choice);
        if (kept.TryGetValue(key, out (string Stamp, Task<T> Made) known) && known.Stamp == stamp
            && !known.Made.IsFaulted) return await known.Made.WaitAsync(stop);
        var made = work(CancellationToken.None);
        // While it is made it is kept as one row, so that who comes meanwhile waits for it.
        kept.Set(key, (stamp, made), new MemoryCacheEntryOptions { Size = 1 });
        var thing = await made.WaitAsync(stop);
        kept.Set(key, (stamp, made), new MemoryCacheEntryOptions { Size = Math.Max(1, rows(thing)) });
        return thing;
    }

    /// <summary>From here on, in this flow of work, a study is asked once whether it changed: for a look, which changes nothing
    /// itself.</summary>
    public static void BeginLook() => Look.Value = new();

    /// <summary>Another one after every change of the study's evidence.</summary>
    public async Task<string> StampAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<string>(
            new("select coalesce(max(id), 0) || ':' || count(*) from evidence_change where study_id = @study", new { study },
            cancellationToken: stop)) ?? "";
    }

    /// <summary>Takes old rows of changes away where there are many.</summary>
    public async Task TidyAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            delete from evidence_change e where (select count(*) from evidence_change) > @MostChanges
              and (e.id < (select max(c.id) from evidence_change c where c.study_id = e.study_id)
                or not exists (select 1 from study s where s.id = e.study_id))
            """,
            new { MostChanges }, cancellationToken: stop));
    }

    public void Dispose() => kept.Dispose();
}
