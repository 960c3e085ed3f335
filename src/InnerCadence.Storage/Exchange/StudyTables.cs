using System.Globalization;
using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using Npgsql;

namespace InnerCadence.Storage.Exchange;

/// <summary>The tables of a study, one a kind of thing.</summary>
public sealed class StudyTables(NpgsqlDataSource source)
{
    // Columns ending in _ms are clock times; a pair x_from and x_to is one date x, as well as it is known.
    private static readonly IReadOnlyDictionary<string, string> Tables = new Dictionary<string, string>
    {
        ["recordings"] =
            """
            select r.title, r.take, p.name as player, r.sure, coalesce(e.name, '') as ensemble, coalesce(l.title, '') as release,
              r.recorded_from, r.recorded_to, r.issued_from, r.issued_to,
                   r.kind, r.meter, r.tempo, r.tempo_read, r.duration_ms, r.total_bars as bars, r.kit, s.bars as searched, s.closeness,
                     s.searched_on, r.note
            from recording r join player p on p.id = r.player_id left join ensemble e on e.id = r.ensemble_id left
              join release l on l.id = r.release_id
            left join lateral (select string_agg(case when c.from_bar is null then c.bars::text
              else c.from_bar || '-' || c.from_bar + c.bars - 1 end, ', ' order by c.from_bar, c.id) as bars, c.closeness, c.searched_on
                               from coverage c where c.recording_id = r.id and c.from_ms is null
                                 and not exists (select 1 from coverage_idea n where n.coverage_id = c.id)
                               group by c.closeness, c.searched_on order by sum(c.bars) desc, c.closeness, c.searched_on limit 1) s on true
            where r.study_id = @study and r.deleted_at is null order by p.role desc, r.recorded_from nulls last, r.title, r.take, r.id
            """,
        ["passages"] =
            """
            select r.title, r.take, a.starts_at_ms as at_ms, a.bar, a.section, a.kind, a.because_heard, g.bars, g.looped as repeats,
              g.source, g.note, g.text
            from passage a join reading g on g.passage_id = a.id and g.preferred join recording r on r.id = a.recording_id
            where r.study_id = @study and r.deleted_at is null and a.deleted_at is null order by r.id, a.starts_at_ms nulls last, a.bar,
              a.id
            """,
        ["readings"] =
            """
            select r.title, r.take, a.starts_at_ms as at_ms, a.bar, g.preferred, g.source, g.note, g.text
            from reading g join passage a on a.id = g.passage_id join recording r on r.id = a.recording_id
            where r.study_id = @study and r.deleted_at is null and a.deleted_at is null order by r.id, a.starts_at_ms nulls last, a.id,
              g.preferred desc, g.id
            """,
        ["ideas"] =
            "select nickname, note, text, span_ticks, array_to_string(scope, ' ') as scope, rules::text as rules, named_on from idea "
                + "where study_id = @study and deleted_at is null order by id",
        ["sightings"] =
            """
            select i.nickname as idea, r.title, r.take, a.starts_at_ms as passage_at_ms, a.bar as passage_bar, x.start_tick, x.end_tick,
              x.factor, x.verdict, x.cost, x.unsure, x.summary,
                   coalesce(x.judgement, 'waiting') as judgement, x.reason
            from sighting x join idea i on i.id = x.idea_id and i.deleted_at is null join reading g on g.id = x.reading_id and g.preferred
            join passage a on a.id = g.passage_id and a.deleted_at is null join recording r on r.id = a.recording_id
              and r.deleted_at is null
            where i.study_id = @study and not x.vanished order by i.id, r.id, a.id, x.start_tick
            """,
        ["coverage"] =
            """
            select r.title, r.take, c.closeness, c.from_ms, c.to_ms, c.from_bar, c.bars, c.searched_on, c.by_whom,
                   coalesce((select string_agg(i.nickname, '; ' order by i.id) from coverage_idea n join idea i on i.id = n.idea_id
                     where n.coverage_id = c.id), 'everything') as searched_for
            from coverage c join recording r on r.id = c.recording_id where r.study_id = @study and r.deleted_at is null
              order by r.id, c.searched_on, c.id
            """,
        ["sections"] =
            """
            select r.title, r.take, s.ordinal, s.kind, s.name, s.first_bar, s.bars, s.meters, s.pause_ms
            from section s join recording r on r.id = s.recording_id where r.study_id = @study and r.deleted_at is null
              order by r.id, s.ordinal
            """,
        ["marks"] = "select r.title, r.take, m.bar, m.at_ms from bar_mark m join recording r on r.id = m.recording_id where r.study_id "
            + "= @study and r.deleted_at is null order by r.id, m.bar",
        ["issues"] =
            """
            select r.title, r.take, i.label, i.number, i.transfer, i.issued_from, i.issued_to, i.speed, i.offset_ms as offset_in_ms, i.note
            from issue i join recording r on r.id = i.recording_id where r.study_id = @study and r.deleted_at is null order by r.id, i.id
            """,
        ["attributions"] =
            """
            select r.title, r.take, p.name as player, d.sure, d.from_bar, d.bars, d.note
            from drummed d join recording r on r.id = d.recording_id join player p on p.id = d.player_id where r.study_id = @study
              and r.deleted_at is null order by r.id, d.from_bar
            """,
        ["claims"] =
            """
            select c.sentence, c.test, p.name as player, coalesce(i.nickname, '') as idea, s.standing, s.figures, s.reason,
              s.at as stands_since, c.note
            from claim c left join player p on p.id = c.player_id left join idea i on i.id = c.idea_id
            left join lateral (select t.* from claim_standing t where t.claim_id = c.id order by t.id desc limit 1) s on true
            where c.study_id = @study and c.deleted_at is null order by c.id
            """,
        ["ensembles"] = "select name, active_from, active_to, note from ensemble where study_id = @study order by name",
        ["releases"] = "select l.title, coalesce(e.name, '') as ensemble, l.issued_from, l.issued_to, l.note from release l left join "
            + "ensemble e on e.id = l.ensemble_id where l.study_id = @study order by l.title",
    };

    public static IEnumerable<string> Names => Tables.Keys;

    /// <summary>Reads one table, or nothing when there is none of this name.</summary>
    public async Task<Sheet?> ReadAsync(StudyId study, string table, CancellationToken stop)
    {
        if (!Tables.TryGetValue(table, out var sql)) return null;
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var read = await connection.ExecuteReaderAsync(new CommandDefinition(sql, new { study }, cancellationToken: stop));
        string[] names = [.. Enumerable.Range(0, read.FieldCount).Select(read.GetName)];
        var rows = new List<IReadOnlyList<object?>>();
        while (await read.ReadAsync(stop))
            rows.Add([.. Enumerable.Range(0, names.Length).Where(i => !IsEnd(names[i]))
                .Select(i => IsEnd(names.ElementAtOrDefault(i + 1)) ? Date(read.GetValue(i), read.GetValue(i + 1))
                    : Say(names[i], read.GetValue(i)))]);
        return new([.. names.Where(n => !IsEnd(n)).Select(Head)], rows);
    }

    private static string Head(string column) => column switch
    {
        "duration_ms" => "duration",
        "recorded_from" or "issued_from" or "active_from" => column[..^5],
        _ when column.EndsWith("_ms", StringComparison.Ordinal) && column != "offset_in_ms" => column[..^3],
        _ => column,
    };

    /// <summary>The second column of a date.</summary>
    private static bool IsEnd(string? column) => column is "recorded_to" or "issued_to" or "active_to";

    private static string? Date(object from, object to) => Day(from) is { } first && Day(to) is { } last ? new PartialDate(first, last)
        .ToString() : null;

    private static DateOnly? Day(object value) => value switch
    {
        DateOnly day => day,
        DateTime day => DateOnly.FromDateTime(day),
        _ =>
        null
    };

    private static object? Say(string column, object? value) => value switch
    {
        null or DBNull => null,
        int ms when column.EndsWith("_ms", StringComparison.Ordinal) && column != "offset_in_ms" => new ClockTime(ms).ToString(),
        DateTime day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        _ => value,
    };
}
