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
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>What stays under a groove that never repeats, by the ear, and the bars that depart from it.</summary>
public sealed class CommonestModel(StudyStore studies, RecordingStore recordings, TimelineStore timelines, SoundStore sounds,
    ActivationFiles activations,
    PassageStore passages) : RecordingPage(studies, recordings, timelines)
{
    private const int Shown = 24;

    public CommonestBar? Common { get; private set; }
    public IReadOnlyList<DepartingBar> Departing { get; private set; } = [];
    /// <summary>Bars of which something is written down.</summary>
    public IReadOnlySet<int> Written { get; private set; } = new HashSet<int>();
    public string? Section { get; private set; }
    public string? Problem { get; private set; }
    public string Text => Common is null ? "" : CountWriter.Write(Common.Nucleus);
    public Shape Picture => Strands.Draw(Common!.Nucleus, new() { Width = 560, Gap = 28 });

    /// <param name="section">Name of a section; all of the recording where it is none.</param>
    public async Task<IActionResult> OnGetAsync(RecordingId recording, string? section, CancellationToken stop)
    {
        if (!await FindRecordingAsync(recording, stop)) return NotFound();
        var chosen = Timeline.Form.Sections.FirstOrDefault(s => s.Name == section && s.Bars > 0);
        Section = chosen?.Name;
        if (await sounds.OfRecordingAsync(recording, stop) is not { Samples: { } hash } sound) Problem =
            "The recording has no sound at hand that is read: attach one first.";
        else if (ShippedEar.Find() is not { } ear || await activations.OfAsync(hash, stop) is not { } heard) Problem =
            "The ear has not heard this sound yet: it does so by itself after it is attached.";
        else
        {
            var strokes = HeardStrokes.In(heard, ear);
            var bars = RecordedBars.Of(Recording, Timeline, sound, heard, ear);
            Common = bars is null ? null : CommonestBar.Of(bars, strokes, chosen?.FirstBar ?? 1, chosen?.LastBar ?? bars.Count);
            if (Common is null) Problem = "Fewer than four bars of one meter are known here: mark bars, or choose more of the recording.";
        }
        Departing = Common is null ? [] : [.. Common.Departing.Take(Shown)];
        Written = (await passages.OfRecordingAsync(recording, stop)).Where(p => p.Bar is not null)
            .SelectMany(p => Enumerable.Range(p.Bar!.Value, Math.Max(1, p.Bars))).ToHashSet();
        return Page();
    }
}
