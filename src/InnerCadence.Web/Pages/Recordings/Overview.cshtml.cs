using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <param name="Columns">As base64: 0 to 255, one a fiftieth of a second.</param>
public sealed record OverviewInput(byte[]? Columns, double Seconds);

/// <summary>Takes what the browser saw of a sound that only it can decode; apart from the page of the sound, whose requests may be as large
/// as a sound file.</summary>
[RequestSizeLimit(4 * 1024 * 1024)]
public sealed class OverviewModel(StudyStore studies, RecordingStore recordings, TimelineStore timelines, SoundStore sounds)
    : RecordingPage(studies, recordings, timelines)
{
    private const int MostSeconds = 12 * 3600;

    public IActionResult OnGet(RecordingId recording) => Redirect($"/recordings/{recording}/listen");

    public async Task<IActionResult> OnPostAsync(RecordingId recording, [FromBody] OverviewInput input, CancellationToken stop)
    {
        if (!await FindRecordingAsync(recording, stop)
            || await sounds.OfRecordingAsync(recording, stop) is not { HasOverview: false } sound) return NotFound();
        if (input.Columns is not { Length: > 0 and <= MostSeconds * Overview.AColumn }
            || !(input.Seconds is > 0 and < MostSeconds)) return BadRequest();
        await sounds.SetOverviewAsync(sound.Id, input.Columns, input.Seconds, stop);
        return new OkResult();
    }
}
