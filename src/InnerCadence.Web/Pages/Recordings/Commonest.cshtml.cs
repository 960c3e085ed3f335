using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Telling;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>What stays under a groove that never repeats, by the ear, and the bars that depart from it.</summary>
public sealed class CommonestModel(StudyStore studies, RecordingStore recordings, TimelineStore timelines, SoundStore sounds,
    ActivationFiles activations, PassageStore passages, DepartingStore departing, RidgePictures pictures)
        : RecordingPage(studies, recordings, timelines)
{
    private const int Shown = 20;
    private IReadOnlyDictionary<int, Shape?> ridges = new Dictionary<int, Shape?>();

    public CommonestBar? Common { get; private set; }
    public IReadOnlyList<DepartingBar> Departing { get; private set; } = [];
    /// <summary>Bars that depart, that somebody heard and that are nothing.</summary>
    public IReadOnlyList<DepartingBar> Nothing { get; private set; } = [];
    /// <summary>Bars of which something is written down.</summary>
    public IReadOnlySet<int> Written { get; private set; } = new HashSet<int>();
    public string? Section { get; private set; }
    /// <summary>Else their numbers mean nothing to anybody.</summary>
    public bool BarsAreKnown { get; private set; }
    public string? Problem { get; private set; }
    public string Text => Common is null ? "" : CountWriter.Write(Common.Nucleus);
    public Shape Picture => Strands.Draw(Common!.Nucleus, new() { Width = 560, Gap = 28, RowSixteenths = 32 });
    public Shape? RidgesOf(DepartingBar bar) => ridges.GetValueOrDefault(bar.Bar);

    public static ClockTime Clock(Seconds at) => new((int)Math.Max(0, Math.Round(at.Milliseconds)));

    /// <summary>The page on which what most bars have is taken up as a passage, where it first stands.</summary>
    public string TakeUp
    {
        get
        {
            var first = Timeline.Form.Sections.FirstOrDefault(s => s.Name == Section)?.FirstBar ?? 1;
            var at = Timeline.Map is { } map ? $"&at={Clock(map.SecondsOf(new(first, Tick.Zero)))}" : "";
            return $"/recordings/{Recording.Id}/passages/new?kind=groove{(BarsAreKnown ? $"&bar={first}" : "")}{at}"
                + $"&text={Uri.EscapeDataString(Text)}";
        }
    }

    /// <param name="section">Name of a section; all of the recording where it is none.</param>
    public async Task<IActionResult> OnGetAsync(RecordingId recording, string? section, CancellationToken stop)
    {
        if (!await FindRecordingAsync(recording, stop)) return NotFound();
        var chosen = Timeline.Form.Sections.FirstOrDefault(s => s.Name == section && s.Bars > 0);
        Section = chosen?.Name;
        var written = (await passages.OfRecordingAsync(recording, stop)).Where(p => p is { Bar: not null, Bars: > 0 }).ToList();
        if (await sounds.OfRecordingAsync(recording, stop) is not { Samples: { } hash } sound) Problem =
            "The recording has no sound at hand that is read: attach one first.";
        else if (ShippedEar.Find() is not { } ear || await activations.OfAsync(hash, stop) is not { } heard) Problem =
            "The ear has not heard this sound yet: it does so by itself after it is attached.";
        else
        {
            var strokes = HeardStrokes.In(heard, ear);
            var bars = RecordedBars.Of(Recording, Timeline, sound, heard, ear);
            Common = bars is null ? null : CommonestBar.Of(bars, strokes, chosen?.FirstBar ?? 1, chosen?.LastBar ?? bars.Count,
                bars.AreKnown ? [.. written.Where(p => p.Kind == PassageKind.Groove)
                    .SelectMany(p => WrittenBar.Of(WrittenPassages.Read(p.Text), p.Bar!.Value))] : null);
            BarsAreKnown = bars?.AreKnown == true;
            if (Common is null) Problem = "Fewer than four bars of one meter are known here: mark bars, or choose more of the recording.";
        }
        var nothing = await departing.NothingAsync(recording, stop);
        var apart = (Common?.Departing ?? []).ToLookup(d => DepartingStore.IsNothing(nothing, d.From));
        (Departing, Nothing) = ([.. apart[false].Take(Shown)], [.. apart[true]]);
        var drawn = new Dictionary<int, Shape?>();
        foreach (var d in Departing) drawn[d.Bar] = await pictures.OfAsync(recording, d.From, d.To, Usual(d), $"Bar {d.Bar} as the ear "
            + "heard it, with what most bars have", stop);
        ridges = drawn;
        Written = BarsAreKnown ? written.SelectMany(p => Enumerable.Range(p.Bar!.Value, p.Bars)).ToHashSet() : new HashSet<int>();
        return Page();
    }

    public async Task<IActionResult> OnPostNothingAsync(RecordingId recording, string? at, bool back, string? section,
        CancellationToken stop)
    {
        if (!await FindRecordingAsync(recording, stop)) return NotFound();
        if (ClockTime.Parse(at ?? "") is not { } clock) return BadRequest();
        if (back) await departing.TakeBackAsync(recording, clock, stop);
        else await departing.HeardNothingAsync(recording, clock, stop);
        return Redirect($"/recordings/{recording}/commonest{(section is { Length: > 0 } ? $"?section={Uri.EscapeDataString(section)}" : "")}"
            + "#departing");
    }

    /// <summary>What most bars have, laid over this one.</summary>
    private IReadOnlyList<RidgeBead> Usual(DepartingBar bar)
    {
        var (length, from) = (Common!.Meter.Length, Common.Meter.Length * (bar.OfPattern - 1));
        return [.. Common.Nucleus.Strokes.Where(s => s.At >= from && s.At < from + length).Select(s => new RidgeBead(s.Voice,
            bar.From + (bar.To - bar.From) * ((double)(s.At - from).Value / length.Value), true))];
    }
}
