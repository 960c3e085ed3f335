using System.Globalization;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>Tempo and bars of one recording: tapped, marked, drifting; bar and clock both ways; the printed chart.</summary>
public sealed class TempoModel(StudyStore studies, RecordingStore recordings, TimelineStore timelines, SoundStore sounds)
    : RecordingPage(studies, recordings, timelines)
{
    [BindProperty]
    public string? Marks { get; set; }

    /// <summary>A stretch that goes slower or faster than any tempo is meant so.</summary>
    [BindProperty]
    public bool Meant { get; set; }
    public bool AsksIfMeant { get; private set; }

    /// <summary>Taps and marks go by the sound’s own clock.</summary>
    public bool HasSound { get; private set; }

    /// <summary>The sound from afar, along which bars are marked; nothing without a sound.</summary>
    public StripView? Strip { get; private set; }
    public string BarsAsJson => StripView.BarLines(Recording, Timeline);
    public string SectionsAsJson => StripView.Sections(Timeline);

    /// <summary>Its loops are cut by the server, to the sample.</summary>
    public bool CutsLoops { get; private set; }

    [BindProperty]
    public string? ChartFirstBar { get; set; }

    [BindProperty]
    public string? ChartRepeats { get; set; }

    public Drift? Drift => Timeline.Map is { } map ? Core.Timing.Drift.Of(map) : null;

    /// <summary>The tempo to which note lengths are told: over all that is marked, else as it is written.</summary>
    public Bpm? Tempo => Timeline.Map is { } map ? Bpm.Of(map.MeanTempo ?? map.TempoAt(1)) : Recording.Tempo is { } t ? Bpm.Of(t) : null;

    public string? Asked { get; private set; }
    public string? Answer { get; private set; }

    /// <summary>Bar lines that the ear takes the sound to have, from its first on.</summary>
    public IReadOnlyList<BarMark> HeardBars { get; private set; } = [];
    /// <summary>They stand in the field now, and are not kept yet.</summary>
    public bool Proposes { get; private set; }

    /// <summary>What was said to be wrong in them.</summary>
    public BeatCorrection Corrected { get; private set; } = new();
    public string? OneTyped { get; private set; }
    /// <summary>What of it cannot be read, in sentences.</summary>
    public IReadOnlyList<string> CannotCorrect { get; private set; } = [];

    /// <summary>The same page with something else put right in what the ear has.</summary>
    public string Correct(BeatCorrection correction) => "?heard=yes"
        + (correction.Later == 0 ? "" : $"&later={correction.Later}") + (correction.Pace == 1 ? "" : $"&pace={correction.Pace}")
        + (correction.Beats is { } beats ? $"&beats={beats}" : "")
        + (correction.One is { } one ? $"&one={new ClockTime((int)Math.Round(one.Milliseconds))}" : "") + "#marks";

    /// <param name="later">Beats by which the heard bar lines are later; <paramref name="pace"/> 2 or -2, twice or half as many beats;
    /// <paramref name="beats"/> of a bar; <paramref name="one"/> the clock time of bar 1.</param>
    public async Task<IActionResult> OnGetAsync(RecordingId recording, string? place, string? heard, int? later, int? pace, string? beats,
        string? one, CancellationToken stop)
    {
        OneTyped = one;
        var ofBar = int.TryParse(beats, NumberStyles.None, CultureInfo.InvariantCulture, out var told)
            && told is >= 1 and <= BeatCorrection.MostBeats ? told : default(int?);
        CannotCorrect =
        [
            .. !string.IsNullOrWhiteSpace(beats) && ofBar is null
                ? [$"‘{beats}’ is no number of beats: write 1 to {BeatCorrection.MostBeats}."] : (string[])[],
            .. !string.IsNullOrWhiteSpace(one) && ClockTime.Parse(one) is null
                ? [$"‘{one}’ is no clock time: write for example 0:00.4."] : (string[])[],
        ];
        Corrected = new(Math.Clamp(later ?? 0, 0, BeatCorrection.MostBeats), pace is 2 or -2 ? pace.Value : 1,
            ofBar,
            ClockTime.Parse(one ?? "") is { } first ? Seconds.OfMilliseconds(first.Milliseconds) : null);
        if (!await FindAsync(recording, stop)) return NotFound();
        Fill();
        Proposes = heard == "yes" && HeardBars.Count > 1;
        if (Proposes) Marks = BarMarks.Say(HeardBars);
        if (!string.IsNullOrWhiteSpace(place) && place.Length < 40) (Asked, Answer) = (place.Trim(), Convert(place.Trim()));
        return Page();
    }

    public async Task<IActionResult> OnGetStripAsync(RecordingId recording, double? from, double? to, CancellationToken stop) =>
        await FindAsync(recording, stop, from, to) && Strip is { } strip
            ? Content(strip.Picture.AsJson().ToJsonString(), "application/json") : NotFound();

    private async Task<bool> FindAsync(RecordingId recording, CancellationToken stop, double? from = null, double? to = null)
    {
        if (!await FindRecordingAsync(recording, stop)) return false;
        if (await sounds.OfRecordingAsync(recording, stop) is not { } sound) return true;
        (HasSound, CutsLoops) = (true, sound.Samples is not null);
        Strip = new(Recording, Timeline, [], [], [], sound.HasOverview ? await sounds.OverviewAsync(sound.Id, stop) : null, from, to);
        if (sound.IsHeard && await sounds.HeardAsync(sound.Id, stop) is { } told) HeardBars =
            [.. Corrected.Of(told.Beats).Where(b => b.Bar).Take(BarMarks.Most).Select((b, i) => new BarMark(i + 1,
                new((int)Math.Round(b.At.Milliseconds))))];
        return true;
    }

    public async Task<IActionResult> OnPostMarksAsync(RecordingId recording, int version, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        var typed = Marks;
        Fill();
        Marks = typed;
        var marks = BarMarks.Read(typed?.ReplaceLineEndings("\n"), message => ModelState.AddModelError("Marks", message));
        if (marks is null) return Again();
        if (!Meant && TempoMap.Of(Timeline.Grid, marks, null)?.Impossible.Take(3).ToList() is { Count: > 0 } impossible)
        {
            foreach (var (from, to, bpm) in impossible)
                ModelState.AddModelError("Marks", string.Create(CultureInfo.InvariantCulture,
                    $"From bar {from.Bar} at {from.At} to bar {to.Bar} at {to.At} it would go at {bpm:0.#} BPM, outside 20 to 400: is "
                    + $"one of the two mistyped?"));
            AsksIfMeant = true;
            return Again();
        }
        if (!await Timelines.SaveMarksAsync(recording, marks, version, stop)) return ChangedMeanwhile("The recording",
            $"{Timeline.Marks.Count} marks: "
            + $"{BarMarks.Say(Timeline.Marks.Take(40)).Replace("\n", "; ")}{(Timeline.Marks.Count > 40 ? " …" : ".")}");
        Kept();
        Tell($"{marks.Count} bars are marked." + (Recording.TotalBars is null
            && Timeline.Of(Recording, marks).BarsUpTo(Recording.Duration) is { } bars
            ? $" They reach to the end at {Recording.Duration}: the recording has {bars} bars now, as nobody had said how many." : ""));
        return Redirect($"/recordings/{recording}/tempo");
    }

    /// <summary>Bar lines as they were laid on the wave beside a passage; the page that asks stays where it is.</summary>
    /// <param name="bar">Of the recording, from 1.</param>
    /// <param name="lines">Seconds of its bar line and of those after it, with spaces between.</param>
    public async Task<IActionResult> OnPostFitAsync(RecordingId recording, int bar, string? lines, CancellationToken stop)
    {
        if (!await FindRecordingAsync(recording, stop)) return NotFound();
        double[] at = [.. (lines ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(BarMarks.Most)
            .Select(l => double.TryParse(l, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var second) ? second
                : double.NaN)];
        if (at.Length < 2 || !at.All(second => second is >= 0 and < 86_400) || bar is < 1 or > UploadLimits.Bars) return BadRequest();
        var why = "";
        var marks = BarMarks.Laid(Timeline.Marks, [.. at.Select((second, i) => new BarMark(bar + i, new((int)Math.Round(second * 1000))))],
            message => why = message);
        if (marks is not null && TempoMap.Of(Timeline.Grid, marks, null)?.Impossible.FirstOrDefault() is { From.Bar: > 0 } odd)
            (marks, why) = (null, string.Create(CultureInfo.InvariantCulture,
                $"From bar {odd.From.Bar} to bar {odd.To.Bar} it would go at {odd.Bpm:0.#} BPM: put the marks right on the page for tempo "
                    + $"and bars."));
        if (marks is null) return new JsonResult(new { said = why, kept = false });
        var before = BarMarks.Say(Timeline.Marks);
        if (!await Timelines.SaveMarksAsync(recording, marks, Recording.Version, stop))
            return new JsonResult(new { said = "The recording was changed meanwhile: try again.", kept = false });
        var (first, last) = (new ClockTime((int)Math.Round(at[0] * 1000)), new ClockTime((int)Math.Round(at[^1] * 1000)));
        return new JsonResult(new
        {
            said = $"Bar {bar} is marked at {first}, bar {bar + at.Length - 1} at {last}.",
            kept = true,
            before,
            version = Recording.Version + 1
        });
    }

    public async Task<IActionResult> OnPostChartAsync(RecordingId recording, int version, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        var (first, repeats) = (ChartFirstBar, ChartRepeats);
        Fill();
        (ChartFirstBar, ChartRepeats) = (first, repeats);
        var bar = ModelState.Number("ChartFirstBar", first, 1, UploadLimits.Bars, "a bar");
        var text = ModelState.Text("ChartRepeats", repeats);
        if (Chart.ParseRepeats(text) is null) ModelState.AddModelError("ChartRepeats",
            $"‘{text}’ cannot be read: write stretches of the chart and how often they are played, in order, such as 9-16 x2, 25-32 x3.");
        if (!ModelState.IsValid) return Again();
        if (!await Timelines.SaveChartAsync(recording, bar, text, version, stop)) return ChangedMeanwhile("The recording",
            $"the chart from bar “{Recording.ChartFirstBar}” with “{Recording.ChartRepeats}”.");
        Tell("The chart is kept.");
        return Redirect($"/recordings/{recording}/tempo");
    }

    private void Fill()
    {
        Marks = BarMarks.Say(Timeline.Marks);
        ChartFirstBar = Recording.ChartFirstBar?.ToString(CultureInfo.InvariantCulture);
        ChartRepeats = Recording.ChartRepeats;
    }

    /// <summary>41, 41.3, 1:32.4 or chart 51: the other names of the same place.</summary>
    private string Convert(string place)
    {
        if (place.StartsWith("chart ", StringComparison.OrdinalIgnoreCase)
            && int.TryParse(place.AsSpan(6), NumberStyles.None, CultureInfo.InvariantCulture, out var printed)
            && printed is >= 1 and <= UploadLimits.Bars)
            return Timeline.Chart is { } chart ? string.Join(" and ", chart.BarsOf(printed)
                .Select(b => Say(b, 1, Timeline.Map?.ClockOf(b))))
                : "No chart is laid beside this recording yet: say below in which bar it begins.";
        if (place.Contains(':') && ClockTime.Parse(place) is { } at)
        {
            if (Timeline.Map is not { } map) return "No bar is marked yet, so the clock says no bar.";
            var found = map.PlaceOf(at);
            var beat = Timeline.Grid.CountOf(found);
            return found.Bar < 1 ? "That is before bar 1." : Say(found.Bar, Math.Floor(beat * 100 + 0.5) / 100, at);
        }
        var parts = place.Split('.', 2);
        if (!int.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var bar)
            || bar is < 1 or > UploadLimits.Bars) return $"‘{place}’ is no place: write a bar such as 41, a bar and beat such as 41.3, "
            + $"a clock time such as 1:32.4, or chart 51.";
        var counts = Timeline.Grid.MeterOf(bar).Counts;
        if (parts.Length == 2 && !(int.TryParse(parts[1], NumberStyles.None, CultureInfo.InvariantCulture, out var b) && b >= 1
            && b <= counts)) return $"Bar {bar} has the counts 1 to {counts}.";
        var count = parts.Length == 2 ? int.Parse(parts[1], CultureInfo.InvariantCulture) : 1;
        return Say(bar, count, Timeline.Map?.ClockOf(new BarPlace(bar, Timeline.Grid.MeterOf(bar).Beat * (count - 1))));
    }

    private string Say(int bar, double beat, ClockTime? at)
    {
        var section = Timeline.Form.SectionOf(bar) is { } s ? $", {s.Name}, bar {bar - s.FirstBar + 1} of {s.Bars}" : "";
        var chart = Timeline.Chart?.ChartBarOf(bar) is { } printed
            ? $", bar {printed.Bar} of the chart{(printed.Time > 1 ? $", time {printed.Time}" : "")}" : "";
        return string.Create(CultureInfo.InvariantCulture,
            $"bar {bar}, count {beat:0.##}{section}{chart}, {at?.ToString() ?? "no clock time known"}");
    }
}
