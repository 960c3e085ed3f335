using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Passages;
using Npgsql;

namespace InnerCadence.Storage.Recordings;

/// <summary>The bars and the clock of one recording: its form, its marks, and what follows from them.</summary>
/// <param name="Map">Nothing before a bar is marked.</param>
public sealed record Timeline(Form Form, BarGrid Grid, ValueList<BarMark> Marks, TempoMap? Map, Chart? Chart)
{
    public static Timeline Of(Recording recording, IReadOnlyList<BarMark> marks) =>
        Of(recording.Meters, recording.Tempo, recording.Form, recording.ChartFirstBar, recording.ChartRepeats, marks);

    public static Timeline Of(MeterCycle meters, double? tempo, string form, int? chartFirstBar, string chartRepeats,
        IReadOnlyList<BarMark> marks)
    {
        var read = Form.Parse(form, meters);
        var grid = new BarGrid(meters, read.Sections);
        var all = marks.Concat(read.Sections.Where(s => s is { At: not null, Bars: > 0 } && marks.All(m => m.Bar != s.FirstBar))
            .Select(s => new BarMark(s.FirstBar, s.At!.Value)));
        var map = TempoMap.Of(grid, all, tempo is { } bpm ? Bpm.Of(bpm) : null);
        return new(read, grid, [.. marks], map, chartFirstBar is { } first ? new(first, Chart.ParseRepeats(chartRepeats) ?? []) : null);
    }

    /// <summary>The other of clock and bar, where only one is known and the map says the other.</summary>
    public (ClockTime? At, int? Bar) Complete(ClockTime? at, int? bar) =>
        (at ?? (bar is { } b ? Map?.ClockOf(b) : null),
            bar ?? (at is { } clock && Map?.PlaceOf(clock) is { Bar: >= 1 } place ? place.Bar : null));

    /// <summary>A passage with what follows from where it lies: the other of clock and bar, and the section where none is typed.</summary>
    public PassageDraft Place(PassageDraft draft)
    {
        var (at, bar) = Complete(draft.StartsAt, draft.Bar);
        return draft with
        {
            StartsAt = at,
            Bar = bar,
            Section = draft.Section.Length == 0 && bar is { } b ? Form.SectionOf(b)?.Name ?? ""
            : draft.Section
        };
    }

    /// <summary>Which bars a span on the clock takes in; nothing before a bar is marked.</summary>
    public (int From, int Bars)? BarsOf(ClockTime from, ClockTime to) => Map?.BarsOf(from, to);

    /// <summary>How many bars there are up to the end, where marks reach near it.</summary>
    public int? BarsUpTo(ClockTime? end) => end is { } length ? Map?.BarsUpTo(length) : null;
}

/// <summary>Forms, bar marks and charts of recordings.</summary>
public sealed class TimelineStore(NpgsqlDataSource source)
{
    public async Task<Timeline> OfAsync(Recording recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return Timeline.Of(recording, await MarksAsync(connection, null, recording.Id, stop));
    }

    /// <summary>Keeps the form line with its sections; where nobody said how many bars the recording has, the form does. False when
    /// somebody changed the recording since the given version was read.</summary>
    /// <param name="bars">How many bars the form has, where that is to fill what is empty.</param>
    public Task<bool> SaveFormAsync(RecordingId id, string form, int version, CancellationToken stop, int? bars = null) =>
        SaveAsync(id, version, "form = @form, total_bars = coalesce(total_bars, nullif(@bars, 0)),", new { id, version, form, bars }, null,
            stop);

    /// <summary>Keeps where the printed chart begins and repeats; nothing for no chart.</summary>
    public Task<bool> SaveChartAsync(RecordingId id, int? firstBar, string repeats, int version, CancellationToken stop) =>
        SaveAsync(id, version, "chart_first_bar = @firstBar, chart_repeats = @repeats,", new { id, version, firstBar, repeats }, null,
            stop);

    /// <summary>Keeps the marks in place of those before.</summary>
    public Task<bool> SaveMarksAsync(RecordingId id, IReadOnlyCollection<BarMark> marks, int version, CancellationToken stop) =>
        SaveAsync(id, version, "", new { id, version }, async (connection, transaction) =>
        {
            var study = await connection.ExecuteScalarAsync<long>(new(
                """
                delete from bar_mark where recording_id = @id;
                insert into bar_mark (recording_id, bar, at_ms) select @id, bar, at_ms from unnest(@bars, @times) as m (bar, at_ms);
                select study_id from recording where id = @id
                """, new { id, bars = marks.Select(m => m.Bar).ToArray(), times = marks.Select(m => m.At.Milliseconds).ToArray() },
                    transaction, cancellationToken: stop));
            await Listening.LookingStore.AgainAsync(connection, transaction, new StudyId(study), null, stop);
        }, stop);

    private async Task<bool> SaveAsync(RecordingId id, int version, string change, object values, Func<NpgsqlConnection, NpgsqlTransaction,
        Task>? more, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (await connection.ExecuteAsync(new(
            $"update recording set {change} version = version + 1 where id = @id and version = @version and deleted_at is null", values,
                transaction, cancellationToken: stop)) == 0) return false;
        if (more is not null) await more(connection, transaction);
        await FollowAsync(connection, transaction, id, stop);
        await transaction.CommitAsync(stop);
        return true;
    }

    /// <summary>Writes what follows from form, marks, meter and tempo: the sections, the bars of what was searched by the clock, and how
    /// many bars there are where nobody said so.</summary>
    internal static async Task FollowAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, RecordingId id,
        CancellationToken stop)
    {
        var recording = await connection.QuerySingleAsync<Recording>(new(
            "select id, meter, tempo, form, chart_first_bar, chart_repeats, duration_ms, total_bars from recording where id = @id",
                new { id }, transaction, cancellationToken: stop));
        var timeline = Timeline.Of(recording.Meters, recording.Tempo, recording.Form, null, "",
            await MarksAsync(connection, transaction, id, stop));
        var sections = timeline.Form.Sections;
        if (recording.TotalBars is null && timeline.BarsUpTo(recording.Duration) is { } all)
        {
            await connection.ExecuteAsync(new("update recording set total_bars = @all where id = @id", new { id, all }, transaction,
                cancellationToken: stop));
            recording = recording with { TotalBars = all };
        }
        await connection.ExecuteAsync(new(
            """
            delete from section where recording_id = @id;
            insert into section (recording_id, ordinal, kind, name, first_bar, bars, meters, pause_ms)
            select @id, ordinal, kind, name, first_bar, bars, nullif(meters, ''), pause_ms
            from unnest(@ordinals, @kinds, @names, @firsts, @bars, @meters, @pauses) as s (ordinal, kind, name, first_bar, bars, meters,
              pause_ms)
            """,
            new
            {
                id,
                ordinals = Enumerable.Range(1, sections.Count).ToArray(),
                kinds = sections.Select(s => s.Kind).ToArray(),
                names = sections.Select(s => s.Name).ToArray(),
                firsts = sections.Select(s => s.FirstBar).ToArray(),
                bars = sections.Select(s => s.Bars).ToArray(),
                meters = sections.Select(s => s.Meters?.ToString() ?? "").ToArray(),
                pauses = sections.Select(s => (int)(s.PauseSeconds * 1000)).ToArray(),
            }, transaction, cancellationToken: stop));
        var clocked = await connection.QueryAsync<CoverageRow>(new(
            "select id, from_ms, to_ms from coverage where recording_id = @id and from_ms is not null", new { id }, transaction,
                cancellationToken: stop));
        foreach (var row in clocked)
        {
            var (from, bars) = Searched(timeline, recording, row.Clock!.Value);
            await connection.ExecuteAsync(new("update coverage set from_bar = @from, bars = @bars where id = @Id",
                new { row.Id, from, bars }, transaction, cancellationToken: stop));
        }
    }

    /// <summary>The bars of a span on the clock; without a tempo map an amount, by the share of the recording’s length or by its
    /// tempo.</summary>
    public static (int? From, int Bars) Searched(Timeline timeline, Recording recording, (ClockTime From, ClockTime To) span)
    {
        if (timeline.BarsOf(span.From, span.To) is { } known) return known;
        var seconds = (span.To.Milliseconds - span.From.Milliseconds) / 1000.0;
        var bar = (double)recording.Meters.StartOf(recording.Meters.Meters.Count).Value / recording.Meters.Meters.Count / Tick.PerQuarter;
        var bars = recording is { DurationMs: { } all, TotalBars: { } total } ? seconds * 1000 / all * total
            : seconds * (recording.Tempo ?? 100) / 60 / bar;
        return (null, Math.Max(1, (int)Math.Round(bars)));
    }

    private static async Task<IReadOnlyList<BarMark>> MarksAsync(NpgsqlConnection connection, NpgsqlTransaction? transaction,
        RecordingId id, CancellationToken stop) =>
        [.. (await connection.QueryAsync<(int Bar, int At)>(new("select bar, at_ms from bar_mark where recording_id = @id order by bar",
            new { id }, transaction, cancellationToken: stop)))
            .Select(m => new BarMark(m.Bar, new(m.At)))];
}
