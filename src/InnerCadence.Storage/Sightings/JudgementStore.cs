using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using Npgsql;

namespace InnerCadence.Storage.Sightings;

/// <summary>Who judges, what each judged, and how well that agrees.</summary>
public sealed class JudgementStore(NpgsqlDataSource source)
{
    private const string NameOf = "judge";

    /// <summary>The name that judgements get; empty where none is set.</summary>
    public async Task<string> NameAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<string>(new("select value from setting where name = @NameOf", new { NameOf },
            cancellationToken: stop)) ?? "";
    }

    public async Task SetNameAsync(string name, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(
            new("insert into setting (name, value) values (@NameOf, @name) on conflict (name) do update set value = excluded.value",
            new { NameOf, name }, cancellationToken: stop));
    }

    /// <summary>Judges a sighting, and keeps that it was judged and by whom: both or neither.</summary>
    /// <returns>False where it was judged or changed since that version was read.</returns>
    /// <param name="settles">With the verdicts of those who differ in view.</param>
    public async Task<bool> JudgeAsync(SightingId sighting, int version, Judgement judgement, string reason, CancellationToken stop,
        bool settles = false)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (!await SightingStore.JudgeAsync(connection, transaction, sighting, version, judgement, reason, stop)) return false;
        await NoteAsync(connection, transaction, sighting, judgement, blind: false, settles, stop);
        await transaction.CommitAsync(stop);
        return true;
    }

    /// <summary>
    /// Judges a sighting without knowing whose it is. What was judged before stays as it is: the second look is kept beside it, for the
    /// agreement. In one round a sighting counts once, however
    /// often it is sent.
    /// </summary>
    /// <param name="since">When the round began.</param>
    public async Task JudgeBlindAsync(SightingId sighting, int version, Judgement judgement, string reason, DateTime since,
        CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new("select 1 from sighting where id = @sighting for update", new { sighting }, transaction,
            cancellationToken: stop));
        if (await connection.ExecuteScalarAsync<bool>(new(
            "select exists (select 1 from judgement_made where sighting_id = @sighting and blind and made_at >= @since and judge = "
                + "coalesce((select value from setting where name = @NameOf), ''))",
            new { sighting, since, NameOf }, transaction, cancellationToken: stop))) return;
        var (kept, vanished) = await connection.QuerySingleOrDefaultAsync<(string?,
            bool)>(new("select judgement, vanished from sighting where id = @sighting", new { sighting }, transaction,
            cancellationToken: stop));
        if (JudgedWords.Read(kept).Waits(vanished))
            await SightingStore.JudgeAsync(connection, transaction, sighting, version, judgement, reason, stop);
        await NoteAsync(connection, transaction, sighting, judgement, blind: true, settles: false, stop);
        await transaction.CommitAsync(stop);
    }

    private static Task NoteAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, SightingId sighting, Judgement judgement,
        bool blind, bool settles, CancellationToken stop) => connection.ExecuteAsync(new(
        """
        insert into judgement_made (sighting_id, judge, judgement, blind, settles)
        values (@sighting, coalesce((select value from setting where name = @NameOf), ''), @word, @blind, @settles)
        """, new { sighting, NameOf, word = judgement.Word(), blind, settles }, transaction, cancellationToken: stop));

    /// <summary>When a judge last judged each sighting of a study blind, before a moment.</summary>
    public async Task<IReadOnlyDictionary<SightingId,
        DateTime>> BlindBeforeAsync(StudyId study, string judge, DateTime before, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<(SightingId Id, DateTime At)>(new(
            """
            select m.sighting_id, max(m.made_at) from judgement_made m join sighting x on x.id = m.sighting_id
              join idea i on i.id = x.idea_id
            where i.study_id = @study and m.judge = @judge and m.blind and m.made_at < @before group by m.sighting_id
            """, new { study, judge, before }, cancellationToken: stop))).ToDictionary(row => row.Id, row => row.At);
    }

    /// <summary>
    /// With oneself: each judge's blind judgements of one sighting, each against the one before. With others: the last judgements of every
    /// two judges of one sighting.
    /// </summary>
    public async Task<(Agreement? Self, Agreement? Others)> AgreementAsync(StudyId study, CancellationToken stop)
    {
        var made = await MadeAsync(study, stop);
        return (Agreement.WithOneself(made), Agreement.BetweenJudges(made));
    }

    /// <summary>What judges differ about and nobody has settled, the oldest first.</summary>
    public async Task<IReadOnlyList<Disagreement>> DisagreementsAsync(StudyId study, CancellationToken stop) =>
        Disagreement.Among(await MadeAsync(study, stop, deletedToo: false));

    /// <summary>Every judgement, sighting by sighting, in the order in which they were made.</summary>
    private async Task<List<MadeJudgement>> MadeAsync(StudyId study, CancellationToken stop, bool deletedToo = true)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<MadeJudgement>(new(
            """
            select m.sighting_id as sighting, m.judge, m.judgement, m.blind, m.made_at, m.settles
            from judgement_made m join sighting x on x.id = m.sighting_id join idea i on i.id = x.idea_id
            where i.study_id = @study and (@deletedToo or i.deleted_at is null and not x.vanished) order by m.sighting_id, m.made_at, m.id
            """, new { study, deletedToo }, cancellationToken: stop))).AsList();
    }
}
