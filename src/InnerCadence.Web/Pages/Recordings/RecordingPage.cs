using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>A page about one recording.</summary>
public abstract class RecordingPage(StudyStore studies, RecordingStore recordings, TimelineStore timelines) : StudyPage(studies)
{
    protected TimelineStore Timelines { get; } = timelines;

    public Recording Recording { get; private set; } = null!;
    public Timeline Timeline { get; private set; } = null!;

    /// <summary>False when there is no such recording.</summary>
    protected async Task<bool> FindRecordingAsync(RecordingId id, CancellationToken stop)
    {
        if (await recordings.FindAsync(id, stop) is not { } found) return false;
        ViewData["Recording"] = id;
        Recording = found;
        Timeline = await Timelines.OfAsync(found, stop);
        return await EnterAsync(found.StudyId, stop);
    }
}
