using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using Npgsql;

namespace InnerCadence.Storage.Recordings;

/// <summary>Which recordings of a study are asked for; what is not set lets everything through.</summary>
public sealed record CatalogueFilter
{
    public PlayerId? Player { get; init; }
    public RecordingKind? Kind { get; init; }
    public EnsembleId? Ensemble { get; init; }
    public ReleaseId? Release { get; init; }
    /// <summary>Part of a title or take, in any case.</summary>
    public string? Text { get; init; }
    public int? FromYear { get; init; }
    public int? ToYear { get; init; }
    /// <summary>none, part or all.</summary>
    public string? Searched { get; init; }
    public string Sort { get; init; } = "recorded";
    public bool Descending { get; init; }

    public static readonly IReadOnlyList<string> Sorts = ["recorded", "title", "player", "ensemble", "release", "kind", "tempo", "lasts",
        "passages", "searched"];
    public static readonly IReadOnlyList<string> SearchedWords = ["none", "part", "all"];
}

/// <summary>How many recordings a filter lets through, and how much of them is searched.</summary>
public sealed record CatalogueTotals(int Recordings, int Titles, int Bars, int Searched);

/// <summary>The discography of a study, filtered, sorted and in pages.</summary>
public sealed class RecordingCatalogue(NpgsqlDataSource source, KeptReady kept)
{
    public RecordingCatalogue(NpgsqlDataSource source) : this(source, new(source)) { }

    private static readonly string From =
        $"""
        with w as ({SearchedBars.Of("r.study_id = @study")}),
             found as (
               select r.id, r.study_id, r.player_id, p.name as player, p.role = 'subject' as by_subject, p.role, r.title,
                 coalesce(e.name, '') as ensemble, coalesce(l.title, '') as release,
                      r.recorded_from, r.recorded_to, r.issued_from, r.issued_to, r.sure, r.kind, r.take, r.meter, r.tempo, r.tempo_read,
                        r.duration_ms, r.total_bars, r.note, r.version,
                      coalesce(w.passages, 0) as passages, coalesce(w.written_bars, 0) as written_bars,
                        coalesce(w.listened_bars, 0) as listened_bars,
                      least(coalesce(w.searched_bars, 0), coalesce(r.total_bars, 2147483647)) as searched_bars
               from recording r join player p on p.id = r.player_id left join ensemble e on e.id = r.ensemble_id left
                 join release l on l.id = r.release_id
               left join w on w.recording_id = r.id
               where r.study_id = @study and r.deleted_at is null
                 and (@Player::bigint is null or r.player_id = @Player) and (@Kind::text is null or r.kind = @Kind)
                 and (@Ensemble::bigint is null or r.ensemble_id = @Ensemble) and (@Release::bigint is null or r.release_id = @Release)
                 and (@like::text is null or concat_ws(', ', r.title, nullif(r.take, '')) ilike @like)
                 and (@FromYear::int is null or r.recorded_to >= make_date(@FromYear, 1, 1))
                   and (@ToYear::int is null or r.recorded_from <= make_date(@ToYear, 12, 31))),
             kept as (
               select * from found
               where case @Searched when 'none' then searched_bars = 0 when 'all' then searched_bars > 0
                 and searched_bars >= coalesce(total_bars, 2147483647)
                                    when 'part' then searched_bars > 0 and searched_bars < coalesce(total_bars, 2147483647) else true end)
        """;

    /// <summary>Takes of one title stand together, where the title's first row in the order has its place.</summary>
    public Task<IReadOnlyList<Recording>> PageAsync(StudyId study, CatalogueFilter filter, int skip, int take, CancellationToken stop) =>
        kept.OfAsync(study, s => ReadAsync(study, filter, skip, take, s), page => page.Count, stop, (filter, skip, take));

    public Task<CatalogueTotals> TotalsAsync(StudyId study, CatalogueFilter filter, CancellationToken stop) =>
        kept.OfAsync(study, s => CountAsync(study, filter, s), _ => 1, stop, filter);

    private async Task<IReadOnlyList<Recording>> ReadAsync(StudyId study, CatalogueFilter filter, int skip, int take,
        CancellationToken stop)
    {
        var key = filter.Sort switch
        {
            "title" => "lower(title)",
            "player" => "player",
            "ensemble" => "lower(ensemble)",
            "release" => "lower(release)",
            "kind" => "kind",
            "tempo" => "tempo",
            "lasts" => "duration_ms",
            "passages" => "passages",
            "searched" => "searched_bars::float / nullif(total_bars, 0)",
            _ => "recorded_from",
        };
        var (way, first) = filter.Descending ? ("desc", "max") : ("asc", "min");
        var bySubject = filter.Sort == "recorded" ? "role desc," : "";
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<Recording>(new(
            $"""
            {From}
            select * from (select *, {first}({key}) over (partition by player_id, lower(title)) as place from kept) k
            order by {bySubject} place {way} nulls last, lower(title), player_id, {key} {way} nulls last, recorded_from nulls last, take, id
            limit @take offset @skip
            """, Values(study, filter, skip, take), cancellationToken: stop))).AsList();
    }

    private async Task<CatalogueTotals> CountAsync(StudyId study, CatalogueFilter filter, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleAsync<CatalogueTotals>(new(
            $"""
            {From}
            select count(*)::int as recordings, count(distinct (player_id, lower(title)))::int as titles,
              coalesce(sum(total_bars), 0)::int as bars, coalesce(sum(searched_bars), 0)::int as searched
            from kept
            """, Values(study, filter, 0, 0), cancellationToken: stop));
    }

    /// <summary>The takes and live versions of a recording's title by its player, itself among them, in the order of their dates.</summary>
    public async Task<IReadOnlyList<Recording>> TakesAsync(Recording recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<Recording>(new(
            """
            select id, title, take from recording
            where study_id = @StudyId and player_id = @PlayerId and lower(title) = lower(@Title) and deleted_at is null
              order by recorded_from nulls last, take, id
            """, new { recording.StudyId, recording.PlayerId, recording.Title }, cancellationToken: stop))).AsList();
    }

    private static object Values(StudyId study, CatalogueFilter filter, int skip, int take) => new
    {
        study,
        filter.Player,
        filter.Kind,
        filter.Ensemble,
        filter.Release,
        like = string.IsNullOrEmpty(filter.Text) ? null : $"%{filter.Text.Replace(@"\", @"\\").Replace("%", @"\%").Replace("_", @"\_")}%",
        filter.FromYear,
        filter.ToYear,
        filter.Searched,
        skip,
        take,
    };
}
