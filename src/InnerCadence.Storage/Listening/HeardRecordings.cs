using System.Runtime.CompilerServices;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Listening;

/// <summary>A recording whose sound the ear has heard and whose bars are known.</summary>
public sealed record HeardRecording(Recording Recording, SoundBars Bars, Activations Heard, Ear Ear);

/// <summary>Goes through every recording of a study that can be looked through, one at a time in memory.</summary>
public sealed class HeardRecordings(RecordingStore recordings, TimelineStore timelines, SoundStore sounds, ActivationFiles activations)
{
    /// <exception cref="JobFailedException">There is no ear on this machine.</exception>
    public async IAsyncEnumerable<HeardRecording> OfAsync(JobRun run, [EnumeratorCancellation] CancellationToken stop)
    {
        if (ShippedEar.Find() is not { } ear) throw new JobFailedException("The ear's runtime is missing on this machine: nothing can be "
            + "looked for.");
        var all = await recordings.OfStudyAsync(run.Study, stop);
        var (through, bars) = (0, 0);
        foreach (var (recording, i) in all.Select((r, i) => (r, i)))
        {
            await run.BeatAsync(95 * i / all.Count, $"Looked through {through} recordings, {bars:#,0} bars.",
                $"Cancelled: {through} recordings were looked through.");
            if (await sounds.OfRecordingAsync(recording.Id, stop) is not { Samples: { } hash } sound
                || await activations.FindAsync(hash, ear.Version, stop) is not { } heard
                || RecordedBars.Of(recording, await timelines.OfAsync(recording, stop), sound, heard, ear) is not { } laid) continue;
            (through, bars) = (through + 1, bars + laid.Count);
            yield return new(recording, laid, heard, ear);
        }
    }
}
