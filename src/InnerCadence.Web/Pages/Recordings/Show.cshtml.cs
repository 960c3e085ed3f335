using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>One recording: its strip over clock time, its passages, its form, and how much of it was searched.</summary>
public sealed class RecordingModel(
    StudyStore studies, RecordingStore recordings, PassageStore passages, IdeaStore ideas, SightingStore sightings,
        CoverageStore coverages, TimelineStore timelines, RecordingCatalogue catalogue, SoundStore sounds,
    EvidenceOfIdeas evidence, JobStore jobs, LookingStore looking)
    : RecordingPage(studies, recordings, timelines)
{
    [BindProperty]
    public SearchInput Search { get; set; } = new();

    [BindProperty]
    public string? FormText { get; set; }

    public IReadOnlyList<PassageRow> Passages { get; private set; } = [];
    public Account Account { get; private set; } = null!;
    public IReadOnlyList<CoverageRow> Coverage { get; private set; } = [];
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];
    public SoundRow? Sound { get; private set; }
    public StripView Strip { get; private set; } = null!;
    public Recording? Before { get; private set; }
    public Recording? After { get; private set; }

    public async Task<IActionResult> OnGetAsync(RecordingId recording, double? from, double? to, CancellationToken stop)
    {
        if (!await FindAsync(recording, from, to, stop)) return NotFound();
        FormText = Recording.Form;
        return Page();
    }

    /// <summary>The strip alone, for the script that moves along it.</summary>
    public async Task<IActionResult> OnGetStripAsync(RecordingId recording, double? from, double? to, CancellationToken stop) =>
        await FindAsync(recording, from, to, stop) ? Content(Strip.Picture.AsJson().ToJsonString(), "application/json") : NotFound();

    /// <summary>The other of a clock time and a bar, for forms that take either.</summary>
    public async Task<IActionResult> OnGetPlaceAsync(RecordingId recording, string? clock, string? bar, CancellationToken stop)
    {
        if (!await FindRecordingAsync(recording, stop)) return NotFound();
        var at = Typed.Span(clock, _ => { })?.At;
        var (foundAt, foundBar) = Timeline.Complete(at, at is null ? Chart.BarTyped(bar, Timeline.Chart, _ => { }) : null);
        var section = foundBar is { } b ? Timeline.Form.SectionOf(b) : null;
        var chart = foundBar is { } c ? Timeline.Chart?.ChartBarOf(c) : null;
        return new JsonResult(new
        {
            clock = foundAt?.ToString(),
            bar = foundBar,
            section = section?.Name,
            chart = chart is { } printed
            ? $"bar {printed.Bar} of the chart{(printed.Time > 1 ? $", time {printed.Time}" : "")}" : null
        });
    }

    /// <summary>Every passage of it, or of one section, is measured against its sound in the background.</summary>
    public async Task<IActionResult> OnPostMeasureAsync(RecordingId recording, string? section, CancellationToken stop)
    {
        if (!await FindAsync(recording, null, null, stop)) return NotFound();
        var chosen = Passages.Where(p => string.IsNullOrEmpty(section) || p.Section == section).Select(p => p.Id.Value).ToList();
        return chosen.Count == 0 ? BadRequest() : Redirect(
            $"/jobs/{await jobs.AddAsync(MeasuringWork.MeasurementKind, Study.Id, MeasuringWork.InputOf(chosen, Recording.Name), stop)}");
    }

    public async Task<IActionResult> OnPostFormAsync(RecordingId recording, int version, CancellationToken stop)
    {
        if (!await FindAsync(recording, null, null, stop)) return NotFound();
        var text = ModelState.Text("FormText", FormText?.ReplaceLineEndings("\n"), most: Form.MostLength);
        var read = Form.Parse(text, Recording.Meters);
        foreach (var problem in read.Problems) ModelState.AddModelError("FormText", problem.Message);
        if (!ModelState.IsValid) return Again();
        if (!await Timelines.SaveFormAsync(recording, text, version, stop, read.Bars)) return ChangedMeanwhile("The recording",
            $"the form “{Recording.Form}”.");
        Kept();
        Tell(read.Sections.Count == 0 ? "The form is empty now."
            : $"{read.Sections.Count} sections, "
            + $"{Words.Bars(read.Bars)}{(Recording.TotalBars is not { } total ? ", so many has the recording"
                : total != read.Bars ? $"; the recording is said to have {total}" : "")}.");
        return Redirect($"/recordings/{recording}");
    }

    public async Task<IActionResult> OnPostCoverAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, null, null, stop)) return NotFound();
        FormText = Recording.Form;
        if (Search.Read(ModelState, Recording, Timeline, Ideas) is not { } draft) return Again();
        await coverages.AddAsync(recording, draft, stop);
        return Redirect($"/recordings/{recording}#searched");
    }

    /// <summary>Amounts of searched bars of which nobody said where.</summary>
    public IReadOnlyList<CoverageRow> NotPlaced => [.. Coverage.Where(c => c.AsSearch().PlacedIn(Recording.TotalBars) is null)];

    /// <summary>What was typed for the place of an amount and cannot be read.</summary>
    public (CoverageId Id, string Text, string Why)? PlacedTyped { get; private set; }

    /// <summary>Says where an amount of searched bars lies.</summary>
    public async Task<IActionResult> OnPostPlaceAsync(RecordingId recording, CoverageId coverage, int version, string? spans,
        string? typed, CancellationToken stop)
    {
        if (!await FindAsync(recording, null, null, stop)) return NotFound();
        FormText = Recording.Form;
        var text = string.IsNullOrWhiteSpace(typed) ? spans ?? "" : typed;
        var read = Typed.Searched(text, Recording.TotalBars ?? UploadLimits.Bars);
        if (read is null || read.Any(s => s.From is null))
        {
            PlacedTyped = (coverage, text, $"Write which bars, such as 1-16, "
                + $"33-48{(Recording.TotalBars is { } total ? $"; the recording has {Words.Bars(total)}" : "")}.");
            return Again();
        }
        if (!await coverages.PlaceAsync(recording, coverage, version, [.. read.Select(s => (s.From!.Value, s.Bars))], stop)) Tell(
            "That was changed in another tab meanwhile: look at it again.");
        return Redirect($"/recordings/{recording}#searched");
    }

    public async Task<IActionResult> OnPostUncoverAsync(RecordingId recording, CoverageId coverage, int version, CancellationToken stop)
    {
        if (await coverages.RemoveAsync(recording, coverage, version, stop) is { } gone)
            Tell(
                $"{Words.Bars(gone.Bars)} {gone.Closeness} are taken out.",
                FormattableString.Invariant(
                    $"/recordings/{recording}?handler=Recover&closeness={gone.Closeness}&from={gone.FromBar}&bars={gone.Bars}")
                + FormattableString.Invariant($"&start={gone.FromMs}&end={gone.ToMs}&ideas={string.Join('.', gone.IdeaIds)}")
                + FormattableString.Invariant($"&on={gone.SearchedOn:yyyy-MM-dd}&by={Uri.EscapeDataString(gone.ByWhom)}"));
        return Redirect($"/recordings/{recording}#searched");
    }

    /// <summary>Puts in again what was taken out, with the day on which it was searched.</summary>
    public async Task<IActionResult> OnPostRecoverAsync(
        RecordingId recording, Core.Evidence.Closeness closeness, int? from, int bars, int? start, int? end, string? ideas, DateOnly on,
            string? by, CancellationToken stop)
    {
        if (!ModelState.IsValid || bars is < 1 or > UploadLimits.Bars || by?.Length > UploadLimits.Name
            || !await FindAsync(recording, null, null, stop)) return NotFound();
        var named = (ideas ?? "").Split('.');
        await coverages.AddAsync(recording, new CoverageDraft(closeness, from, bars,
            [.. Ideas.Where(i => named.Contains(i.Id.ToString())).Select(i => i.Id)], on)
        {
            Clock = start is >= 0 and { } first && end is { } last && last > first ? (new(first), new(last)) : null,
            ByWhom = by ?? "",
        }, stop);
        return Redirect($"/recordings/{recording}#searched");
    }

    /// <summary>What the form and the clock say against each other, in sentences.</summary>
    public IEnumerable<string> Doubts() => (Timeline.Map?.Doubts ?? []).Select(doubt =>
    {
        var where = Timeline.Form.SectionOf(doubt.Mark.Bar - 1)?.Name is { } name ? $"The {name}, up to bar {doubt.Mark.Bar},"
            : $"The stretch up to bar {doubt.Mark.Bar}";
        if (doubt.Beats == 0) return string.Create(CultureInfo.InvariantCulture,
            $"Bar {doubt.Mark.Bar} at {doubt.Mark.At} is {Math.Abs(doubt.Milliseconds):0} ms "
            + $"{(doubt.Milliseconds > 0 ? "later" : "earlier")} than its neighbours put it.");
        var meter = Timeline.Grid.MeterOf(doubt.Mark.Bar - 1);
        var bars = Math.Abs(doubt.Beats) % meter.Counts == 0 ? Math.Abs(doubt.Beats) / meter.Counts : 0;
        return $"{where} is {Math.Abs(doubt.Beats)} {(Math.Abs(doubt.Beats) == 1 ? "beat" : "beats")} "
            + $"{(doubt.Beats > 0 ? "longer" : "shorter")} on the clock than its bars: "
            + $"{(bars > 0 ? $"{(bars == 1 ? "one bar" : $"{bars} bars")} too {(doubt.Beats > 0 ? "few" : "many")}?" : "an odd bar?")}";
    });

    private async Task<bool> FindAsync(RecordingId id, double? from, double? to, CancellationToken stop)
    {
        if (!await FindRecordingAsync(id, stop)) return false;
        Passages = await passages.OfRecordingAsync(id, stop);
        Account = await evidence.AccountAsync(Recording.StudyId, stop);
        Coverage = await coverages.OfRecordingAsync(id, stop);
        Ideas = await ideas.OfStudyAsync(Recording.StudyId, stop);
        Sound = await sounds.OfRecordingAsync(id, stop);
        Strip = new(Recording, Timeline, Passages, Coverage, [.. SightingView.Of(await sightings.OfRecordingAsync(id, stop))],
            Sound is { HasOverview: true } s ? await sounds.OverviewAsync(s.Id, stop) : null, from, to)
        { LookedFor = await looking.LookedForAsync(id, stop) };
        var takes = await catalogue.TakesAsync(Recording, stop);
        var here = takes.Select(t => t.Id).ToList().IndexOf(id);
        (Before, After) = (takes.ElementAtOrDefault(here - 1), takes.ElementAtOrDefault(here + 1));
        return true;
    }
}
