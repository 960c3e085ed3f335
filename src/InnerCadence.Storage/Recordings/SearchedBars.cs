namespace InnerCadence.Storage.Recordings;

/// <summary>How much of each recording was written down, listened to and searched, as SQL: every bar once, however many spans take it
/// in.</summary>
/// <remarks>
/// Only bars with a place count; an amount that is all of the recording has one (docs/decisions/0003). A passage written down because an
/// idea was heard adds to what is written, not
/// to what was searched. Core.Evidence.Exposure.AtAll is the rule; a test holds the two together.
/// </remarks>
internal static class SearchedBars
{
    /// <summary>Rows of recording_id, passages, written_bars, listened_bars, searched_bars, not_placed.</summary>
    /// <param name="recordings">A condition on recording r that says which ones are asked for.</param>
    public static string Of(string recordings) =>
        $"""
        select recording_id, count(*) filter (where written)::int as passages,
          coalesce(sum(bars) filter (where written), 0)::int as written_bars,
               {Size("not written")}::int as listened_bars, {Size("searched")}::int as searched_bars,
               greatest(0, coalesce(max(bars) filter (where not written and from_bar is null), 0) - {Size("searched")})::int as not_placed
        from (select c.recording_id, coalesce(c.from_bar, case when c.bars >= r.total_bars then 1 end) as from_bar, c.bars,
          false as written, true as searched, r.total_bars
              from coverage c join recording r on r.id = c.recording_id where {recordings} and c.closeness <> 'skimmed'
              union all
              select a.recording_id, a.bar, g.bars, true, not a.because_heard, r.total_bars
              from passage a join reading g on g.passage_id = a.id and g.preferred join recording r on r.id = a.recording_id
                where {recordings} and a.deleted_at is null) span
        group by recording_id
        """;

    private static string Size(string spans) =>
        $"""
        coalesce((select sum(upper(x) - lower(x))
          from unnest(range_agg(int4range(from_bar, least(from_bar + bars, coalesce(total_bars, 2000000) + 1)))
          filter (where {spans} and from_bar is not null and from_bar <= coalesce(total_bars, 2000000))) as x), 0)
        """;
}
