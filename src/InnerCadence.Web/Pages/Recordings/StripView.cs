using System.Text.Json;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>What the long strip of a recording shows, and which stretch of it.</summary>
public sealed class StripView
{
    private readonly Recording recording;
    private readonly Timeline timeline;
    private readonly TempoMap? map;
    private readonly IReadOnlyList<CoveredRun> covered;
    private readonly IReadOnlyList<StripMark> marks;
    private readonly byte[]? sound;
    private readonly double end;

    public StripView(Recording recording, Timeline timeline, IReadOnlyList<PassageRow> passages, IReadOnlyList<CoverageRow> coverage,
        IReadOnlyList<SightingView> found, byte[]? sound, double? from, double? to)
    {
        (this.recording, this.timeline, this.sound) = (recording, timeline, sound);
        map = timeline.Map ?? Guess(recording, timeline);
        IsGuess = timeline.Map is null;
        covered = Core.Evidence.Covered.Runs(
        [
            .. coverage.Where(c => c.FromBar is not null).Select(c => new CoveredRun(c.FromBar!.Value, c.Bars, c.As)),
            // An amount that is the whole recording has its place.
            .. coverage.Where(c => c.FromBar is null && recording.TotalBars is { } all && c.Bars >= all)
                .Select(c => new CoveredRun(1, recording.TotalBars!.Value, c.As)),
            .. passages.Where(p => p is { Bar: not null, Bars: > 0 })
                .Select(p => new CoveredRun(p.Bar!.Value, p.Bars, Closeness.Transcribed)),
        ]);
        var shown = found.Where(s => s.Row.Stands).ToList();
        marks =
        [
            .. shown.Where(s => s.Clock is not null).Select(s => new StripMark(
                s.Clock!.Value.Milliseconds / 1000.0, s.Row.Idea + (s.Row.IsWaiting ? "?" : ""), s.Row.Verdict == Verdict.NearMiss
                    || s.Row.IsWaiting ? "near" : "match", $"/sightings/{s.Row.Id}")),
            .. passages.Where(p => shown.All(s => s.Row.PassageId != p.Id))
                .Select(p => (Row: p, At: timeline.Complete(p.StartsAt, p.Bar).At)).Where(p => p.At is not null)
                .Select(p => new StripMark(p.At!.Value.Milliseconds / 1000.0, p.Row.Kind.Word, "plain", $"/passages/{p.Row.Id}")),
        ];
        end = Math.Max(1, new[]
        {
            recording.Duration is { } lasts ? lasts.Milliseconds / 1000.0 : 0,
            recording.Duration is null && map is not null
                ? map.SecondsOf(new(Math.Max(recording.TotalBars ?? 0, timeline.Grid.LastDescribed) + 1, Core.Music.Tick.Zero)) : 0,
            marks.Count > 0 ? marks.Max(m => m.Seconds) + 1 : 0,
            (sound?.Length ?? 0) / (double)Core.Hearing.Overview.AColumn,
        }.Max());
        (From, To) = (Math.Clamp(from ?? 0, 0, end), Math.Clamp(to ?? end, 0, end));
        if (To - From < 0.5) (From, To) = (Math.Max(0, Math.Min(From, end - 0.5)), Math.Min(end, Math.Max(0.5, From + 0.5)));
    }

    public double From { get; }
    public double To { get; }
    /// <summary>Ideas for which the ear looked through all of it.</summary>
    public IReadOnlyList<string> LookedFor { get; init; } = [];
    public bool IsWhole => From == 0 && To == end;
    /// <summary>The bars stand where length and number of bars put them, not where they were marked.</summary>
    public bool IsGuess { get; }
    /// <summary>There is a clock to draw along.</summary>
    public bool HasClock => sound is not null || map is not null || recording.Duration is not null || marks.Count > 0;

    public Shape Picture => new LongStrip
    {
        Label = $"{recording.Name} from {At(From)} to {At(To)}: {timeline.Form.Sections.Count} sections, {covered.Sum(c => c.Bars)} "
            + $"bars searched whose place is known, {marks.Count} passages and sightings. The tables below say the same.",
        From = From,
        To = To,
        Timeline = timeline,
        Map = map,
        Sound = sound,
        Covered = covered,
        TotalBars = recording.TotalBars,
        Marks = marks,
        LookedFor = LookedFor,
    }.Draw();

    /// <summary>Address of another stretch: nearer or farther round the middle, or moved by a share of what is shown.</summary>
    public string Stretch(double zoom, double move)
    {
        var (middle, half) = ((From + To) / 2 + move * (To - From), (To - From) / 2 / zoom);
        var (from, to) = (Math.Max(0, middle - half), Math.Min(end, middle + half));
        if (move > 0) from = Math.Max(0, Math.Min(from, end - 2 * half));
        if (move < 0) to = Math.Min(end, Math.Max(to, 2 * half));
        return from <= 0 && to >= end ? $"/recordings/{recording.Id}"
            : FormattableString.Invariant($"/recordings/{recording.Id}?from={from:0.###}&to={to:0.###}");
    }

    /// <summary>Seconds of the bar lines from that of bar 1 on, as JSON; empty where no bar is marked.</summary>
    public static string BarLines(Recording recording, Timeline timeline)
    {
        if (timeline.Map is not { } map) return "[]";
        var last = Math.Max(recording.TotalBars ?? 0, Math.Max(timeline.Grid.LastDescribed, map.Marks[^1].Bar));
        return $"[{string.Join(',', Enumerable.Range(1, Math.Min(UploadLimits.Bars, last + 1)).Select(bar =>
            Math.Round(map.SecondsOf(new(bar, Core.Music.Tick.Zero)), 3).ToString(System.Globalization.CultureInfo.InvariantCulture)))}]";
    }

    /// <summary>First bar, number of bars and name of every section, as JSON.</summary>
    public static string Sections(Timeline timeline) =>
        JsonSerializer.Serialize(timeline.Form.Sections.Where(s => s.Bars > 0).Select(s => new object[] { s.FirstBar, s.Bars, s.Name }));

    public static ClockTime At(double seconds) => new((int)Math.Round(seconds * 1000));

    /// <summary>Bars spread evenly over the recording's length.</summary>
    private static TempoMap? Guess(Recording recording, Timeline timeline)
    {
        if (recording is not { DurationMs: { } ms }) return null;
        var bars = recording.TotalBars ?? timeline.Grid.LastDescribed;
        return bars < 1 ? null : TempoMap.Of(timeline.Grid, [new(1, new(0)), new(bars + 1, new(ms))], null);
    }
}
