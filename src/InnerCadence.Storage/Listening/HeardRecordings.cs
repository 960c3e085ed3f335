using System.Runtime.CompilerServices;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Listening;

/// <summary>A recording whose sound the ear has heard and whose bars are known.</summary>
/// <param name="FollowsFrom">All that its bars follow from: see <see cref="RecordedBars.FollowFrom"/>.</param>
public sealed record HeardRecording(Recording Recording, string FollowsFrom, SoundBars Bars, Activations Heard, Ear Ear);

/// <summary>A way through every recording of a study that can be looked through, with how much of it was.</summary>
public sealed class LookingThrough(RecordingStore recordings, TimelineStore timelines, SoundStore sounds, ActivationFiles activations,
    JobRun run)
{
    public int Recordings { get; private set; }
    public int Bars { get; private set; }
    /// <summary>Of the study.</summary>
    public int Of { get; private set; }

    /// <param name="done">Bars of a recording that was looked through as it is now: it is counted and not given. Nothing where it is to
    /// be looked through.</param>
    /// <returns>One at a time in memory.</returns>
    /// <exception cref="JobFailedException">There is no ear on this machine.</exception>
    public async IAsyncEnumerable<HeardRecording> EachAsync(Func<Recording, string, int?> done,
        [EnumeratorCancellation] CancellationToken stop)
    {
        if (ShippedEar.Find() is not { } ear) throw new JobFailedException("The ear's runtime is missing on this machine: nothing can be "
            + "looked for.");
        var all = await recordings.OfStudyAsync(run.Study, stop);
        Of = all.Count;
        foreach (var (recording, i) in all.Select((r, i) => (r, i)))
        {
            await run.BeatAsync(95 * i / all.Count, $"Looked through {Recordings} recordings, {Bars:#,0} bars.",
                $"Cancelled: {Recordings} recordings were looked through; the rest goes on when you ask again.");
            if (await sounds.OfRecordingAsync(recording.Id, stop) is not { Samples: { } hash } sound) continue;
            var timeline = await timelines.OfAsync(recording, stop);
            var from = RecordedBars.FollowFrom(recording, timeline, sound, ear);
            if (done(recording, from) is { } bars)
            {
                Count(bars);
                continue;
            }
            if (await activations.FindAsync(hash, ear.Version, stop) is not { } heard
                || RecordedBars.Of(recording, timeline, sound, heard, ear) is not { } laid) continue;
            Count(laid.Count);
            yield return new(recording, from, laid, heard, ear);
        }
    }

    private void Count(int bars) => (Recordings, Bars) = (Recordings + 1, Bars + bars);
}

/// <summary>Begins ways through the recordings that can be looked through.</summary>
public sealed class HeardRecordings(RecordingStore recordings, TimelineStore timelines, SoundStore sounds, ActivationFiles activations)
{
    public LookingThrough For(JobRun run) => new(recordings, timelines, sounds, activations, run);
}
