using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>Some seconds of the record, on one key.</summary>
public sealed record HeardSpan(string Name, Seconds From, Seconds To);

/// <summary>A stroke that stands out, and where it is heard: itself, and the same place in the bars before and after.</summary>
public sealed record OddView(OddStroke Odd, string Words, IReadOnlyList<HeardSpan> Spans);

/// <summary>A passage measured against its sound: how early or late each voice is, how fast each bar, how loud.</summary>
public sealed class TimingModel(StudyStore studies, PassageStore passages, Records records, MeasurementStore measurements,
    RecordingStore recordings,
    TimelineStore timelines) : StudyPage(studies)
{
    /// <summary>How many times what is early or late is drawn.</summary>
    public static readonly IReadOnlyList<int> Exaggerations = [0, 1, 4, 10];

    public PassageRow Passage { get; private set; } = null!;
    public Passage Read { get; private set; } = Core.Music.Passage.Empty;
    public RecordView? Record { get; private set; }
    public IReadOnlyList<StrokeOffset> Offsets { get; private set; } = [];
    public MicroTiming? Timing { get; private set; }
    public Measurement? Measurement { get; private set; }
    public MeasuredSwing? Swung { get; private set; }
    public int Exaggerated { get; private set; } = 4;
    public string? Problem { get; private set; }
    public int FirstBar => Passage.Bar ?? 1;

    /// <summary>The text was changed since it was measured in anything but its levels, of which nothing is measured.</summary>
    public bool IsStale => Measurement is { } made && made.Text != Passage.Text
        && CountLines.Parse(made.Text).Passage with { Levels = Read.Levels, Looped = Read.Looped } != Read;

    /// <summary>A span over which it is played louder and louder, or softer, and the text does not say so.</summary>
    public LoudnessGrowth? Growth { get; private set; }

    /// <summary>The same as a line of the text.</summary>
    public string? GrowthLine => Growth is { } growth ? CountWriter.LevelLines(Read with { Levels = growth.Marks }).Single() : null;

    /// <summary>How long each bar lasts, as JSON.</summary>
    public string BarsInMilliseconds
    {
        get
        {
            var laid = Laid;
            return System.Text.Json.JsonSerializer.Serialize(Enumerable.Range(0, Read.Bars)
                .Select(bar => Math.Round((laid.At(Read.Meters.StartOf(bar + 1)) - laid.At(Read.Meters.StartOf(bar))).Milliseconds, 3)));
        }
    }

    /// <summary>Quarters a minute of each bar, by the fitted grid.</summary>
    public IReadOnlyList<double> Tempos { get; private set; } = [];
    public IReadOnlyList<OddView> Odd { get; private set; } = [];

    /// <summary>bar 6 198.2 (6 faster)</summary>
    public string TempoWords(int bar)
    {
        var change = bar == 0 ? 0 : Tempos[bar] - Tempos[bar - 1];
        return string.Create(CultureInfo.InvariantCulture, $"bar {FirstBar + bar} {Tempos[bar]:0.0}")
            + (Math.Abs(change) < 1 ? "" : string.Create(CultureInfo.InvariantCulture,
                $" ({Math.Abs(change):0} {(change > 0 ? "faster" : "slower")})"));
    }

    public Shape Picture => Strands.Draw(Read, new()
    {
        FirstBar = FirstBar,
        Width = 1180,
        Shifted = Played.ToDictionary(o => (o.At, o.Voice),
            o => Laid.TicksLate(o.At, Seconds.OfMilliseconds(o.Milliseconds * Exaggerated))),
        Differing = Timing is null ? new HashSet<(Tick, Voice)>() : Timing.Odd.Select(o => (o.At, o.Voice)).ToHashSet(),
    });

    /// <summary>Its bars as they were measured; at the written tempo where they were not.</summary>
    private LaidBars Laid => Measurement is { Lines: var lines } ? new(lines, Read)
        : LaidBars.AtItsTempo(Read, (Passage.RecordingTempo is { } bpm ? Bpm.Of(bpm) : null) ?? Bpm.Usual);

    private IReadOnlyList<StrokeOffset> Played => MeasurementStore.Played(Read, Measurement, Offsets);

    /// <summary>As they are kept, which is what a dragged bead changes.</summary>
    public string LateAsJson => AsJson(Offsets);

    public string OffsetsAsJson => AsJson(Played);

    private static string AsJson(IEnumerable<StrokeOffset> offsets) => System.Text.Json.JsonSerializer.Serialize(offsets.Select(o =>
        new object[] { o.At.Value, o.Voice.Code, Math.Round(o.Milliseconds, 2) }));

    public async Task<IActionResult> OnGetAsync(PassageId passage, int? by, CancellationToken stop)
    {
        if (by is { } times && Exaggerations.Contains(times)) Exaggerated = times;
        return await FindAsync(passage, stop) ? Page() : NotFound();
    }

    public async Task<IActionResult> OnPostMeasureAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        var (measured, why) = await measurements.MeasureAsync(Passage, stop);
        if (measured is null)
        {
            Problem = why switch
            {
                Unmeasurable.NoSound => "The recording has no sound at hand that is read: attach one first.",
                Unmeasurable.NotHeardYet =>
                    "The ear has not heard this sound yet: it does so by itself after it is attached, in a minute or two.",
                Unmeasurable.NoBarLines => "Where it lies on the record is not known: give its clock time and a tempo, or mark bars.",
                _ => "Nothing is written yet that could be measured.",
            };
            return Again();
        }
        Tell($"{measured.Strokes.Count} of {Read.Strokes.Count(s => !s.Echo)} strokes were found in the sound.");
        return Redirect($"/passages/{passage}/timing");
    }

    /// <summary>The fitted bar lines become the recording's marks.</summary>
    public async Task<IActionResult> OnPostMarksAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        if (Measurement is not { } made || Passage.Bar is not { } first
            || await recordings.FindAsync(Passage.RecordingId, stop) is not { } recording)
            return BadRequest();
        var timeline = await timelines.OfAsync(recording, stop);
        var marks = BarMarks.Laid(timeline.Marks, [.. made.Lines.Select((line, i) => new BarMark(first + i,
            new((int)Math.Round(line.Milliseconds))))],
            message => Problem = message);
        if (marks is null) return Again();
        if (!await timelines.SaveMarksAsync(Passage.RecordingId, marks, recording.Version, stop))
        {
            Problem = "The recording was changed meanwhile: try again.";
            return Again();
        }
        Tell($"Bars {first} to {first + made.Lines.Count - 1} are marked where they were measured.");
        return Redirect($"/passages/{passage}/timing");
    }

    /// <summary>The levels that were found become a line of the text.</summary>
    public async Task<IActionResult> OnPostLevelsAsync(PassageId passage, int version, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        if (GrowthLine is not { } line) return BadRequest();
        if (await passages.RewriteAsync(passage, $"{Passage.Text.TrimEnd()}\n{line}", version, stop) != SaveResult.Saved)
        {
            Problem = "The passage was changed meanwhile: look at it and try again.";
            return Again();
        }
        Tell($"Written into the text: {line}");
        return Redirect($"/passages/{passage}/timing#loudness");
    }

    /// <summary>A stroke is put early or late by hand.</summary>
    /// <param name="stroke">Ticks and code of its voice, with a blank between.</param>
    public async Task<IActionResult> OnPostStrokeAsync(PassageId passage, string? stroke, string? late, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        var parts = (stroke ?? "").Split(' ');
        if (parts.Length != 2 || !int.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var tick)
            || Voice.Find(parts[1]) is not { } voice
            || !Read.Strokes.Any(s => s.At.Value == tick && s.Voice == voice)) return BadRequest();
        if (!double.TryParse((late ?? "").Trim().Replace('−', '-').TrimEnd('m', 's', ' '), NumberStyles.Float,
            CultureInfo.InvariantCulture, out var ms)
            || Math.Abs(ms) > 500)
        {
            Problem = $"‘{late}’ is no lateness: write milliseconds from -500 to 500, late above 0, such as 12 or -8.";
            return Again();
        }
        await passages.SetOffsetAsync(Passage.ReadingId, new(new(tick), voice, ms), stop);
        Tell($"{Place(new(tick), voice)}: {TimingViews.Late(ms)}.");
        return Redirect($"/passages/{passage}/timing");
    }

    public string Place(Tick at, Voice voice)
    {
        var (bar, inBar) = Read.Meters.Locate(at);
        return $"{voice.Name} on {CountNames.Spoken(inBar, Read.Meters.MeterOf(bar))}"
            + $"{(Read.Bars > 1 || Passage.Bar is not null ? $", bar {FirstBar + bar}" : "")}";
    }

    private async Task<bool> FindAsync(PassageId id, CancellationToken stop)
    {
        if (await passages.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        (Passage, Read) = (found, CountLines.Parse(found.Text).Passage with { Looped = found.Looped });
        Offsets = await passages.OffsetsAsync(id, stop);
        Measurement = await measurements.OfAsync(id, stop);
        Timing = MicroTiming.Of(Read, Offsets, Measurement is null ? null : RiseTimes.Doubt);
        if (Measurement is { } made && made.Lines.Count != Read.Bars + 1) Measurement = null;
        Growth = LoudnessGrowth.Of(Read, Offsets);
        Record = await records.BesideAsync(found, stop) is { } record ? Measurement is null ? record
            : record with { Lines = Measurement.Lines } : null;
        if (Measurement is not null) (Tempos, Swung) = (Laid.BarTempos, MeasuredSwing.Of(Measurement.Swung(Read), Laid, Offsets));
        Odd = Timing is null ? [] : [.. Timing.Odd.Select(o => new OddView(o, o.Words(Read, FirstBar), SpansOf(o)))];
        return true;
    }

    private const double Before = 0.35, After = 0.5;

    /// <summary>A beat round the stroke, and the same place in the bars before and after.</summary>
    private IReadOnlyList<HeardSpan> SpansOf(OddStroke odd)
    {
        if (Measurement is null) return [];
        var laid = Laid;
        var spans = new List<HeardSpan>();
        foreach (var (bar, name) in (ReadOnlySpan<(int, string)>)[(odd.Bar, "it"), (odd.Bar - 1, "the bar before"),
            (odd.Bar + 1, "the bar after")])
        {
            if (bar < 0 || bar >= Read.Bars) continue;
            var at = laid.At(Swing.Played(Read.Meters.StartOf(bar) + odd.InBar, Measurement.Swung(Read)));
            spans.Add(new(name, new(Math.Max(0, at - Before)), new(at + After)));
        }
        return spans;
    }
}
