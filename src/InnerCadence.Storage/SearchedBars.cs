namespace InnerCadence.Storage;

/// <summary>How much of each recording was written down, listened to and searched, as SQL: every bar once, however many spans take it in.</summary>
/// <remarks>
/// An amount whose place is not known is taken to hold the known bars, so the larger counts (docs/decisions/0003). A passage written down because an idea was heard adds
/// to what is written, not to what was searched. The same rule for one idea is Core.Evidence.Exposure.
/// </remarks>
internal static class SearchedBars
{
    /// <summary>Rows of recording_id, passages, written_bars, listened_bars, searched_bars.</summary>
    /// <param name="recordings">A condition on recording r that says which ones are asked for.</param>
    public static string Of(string recordings) =>
        $"""
        select recording_id, count(*) filter (where written)::int as passages, coalesce(sum(bars) filter (where written), 0)::int as written_bars,
               greatest({Size("not written and from_bar is not null")}, coalesce(max(bars) filter (where not written and from_bar is null), 0))::int as listened_bars,
               greatest({Size("searched and from_bar is not null")} + coalesce(sum(bars) filter (where written and searched and from_bar is null), 0),
                        coalesce(max(bars) filter (where not written and from_bar is null), 0))::int as searched_bars
        from (select c.recording_id, c.from_bar, c.bars, false as written, true as searched
              from coverage c join recording r on r.id = c.recording_id where {recordings} and c.closeness <> 'skimmed'
              union all
              select a.recording_id, a.bar, g.bars, true, not a.because_heard
              from passage a join reading g on g.passage_id = a.id and g.preferred join recording r on r.id = a.recording_id where {recordings} and a.deleted_at is null) span
        group by recording_id
        """;

    private static string Size(string spans) =>
        $"coalesce((select sum(upper(x) - lower(x)) from unnest(range_agg(int4range(from_bar, from_bar + bars)) filter (where {spans})) as x), 0)";
}
