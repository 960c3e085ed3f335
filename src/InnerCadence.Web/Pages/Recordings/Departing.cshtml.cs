using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using InnerCadence.Web.Telling;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>Likely fills, set-ups and odd bars of every recording that the ear has heard.</summary>
public sealed class DepartingModel(StudyStore studies, RecordingStore recordings, DepartingStore departing, JobStore jobs,
    RidgePictures pictures) : StudyPage(studies)
{
    private const int Shown = 40;

    public IReadOnlyList<(DepartingRow Row, Recording Recording, Shape? Picture)> Bars { get; private set; } = [];
    public (int Recordings, int Bars) Looked { get; private set; }
    /// <summary>With those of which something is written down.</summary>
    public bool Written { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, bool written, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        (Written, Looked) = (written, await departing.LookedAsync(study, stop));
        var all = (await recordings.OfStudyAsync(study, stop)).ToDictionary(r => r.Id);
        var bars = new List<(DepartingRow, Recording, Shape?)>();
        foreach (var row in await departing.OfStudyAsync(study, written, Shown, stop))
            bars.Add((row, all[row.RecordingId], await pictures.OfAsync(row.RecordingId, Seconds.OfMilliseconds(row.AtMs),
                Seconds.OfMilliseconds(row.UntilMs), [], $"{all[row.RecordingId].Name} at {row.At}: {row.Words}", stop)));
        Bars = bars;
        return Page();
    }

    public async Task<IActionResult> OnPostLookAsync(StudyId study, CancellationToken stop) => !await EnterAsync(study, stop) ? NotFound()
        : Redirect($"/jobs/{await jobs.AddAsync(DepartingStore.Kind, study, "{}", stop)}");

    public async Task<IActionResult> OnPostNothingAsync(StudyId study, RecordingId recording, string? at, bool back, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop) || await recordings.FindAsync(recording, stop) is not { } found || found.StudyId != study)
            return NotFound();
        if (ClockTime.Parse(at ?? "") is not { } clock) return BadRequest();
        if (back) await departing.TakeBackAsync(recording, clock, stop);
        else
        {
            await departing.HeardNothingAsync(recording, clock, stop);
            Tell($"{found.Name} at {clock}: heard, nothing.",
                $"/studies/{study}/departing?handler=Nothing&recording={recording}&at={clock}&back=true");
        }
        return Redirect($"/studies/{study}/departing");
    }
}
