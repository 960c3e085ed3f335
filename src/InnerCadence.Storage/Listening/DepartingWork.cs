using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Listening;

public sealed record DepartingInput;

/// <summary>The long work of looking for likely fills, set-ups and odd bars in every recording that the ear has heard. What was looked
/// through and did not change is left as it is.</summary>
public sealed class DepartingWork(DepartingStore departing, RecordingStore recordings, TimelineStore timelines, SoundStore sounds,
    ActivationFiles activations) : Work<DepartingInput>(DepartingStore.Kind, "Looking for what departs")
{
    private const int MostInOne = 24;

    protected override async Task RunAsync(DepartingInput input, JobRun run)
    {
        var stop = run.Stop;
        if (ShippedEar.Find() is not { } ear) throw new JobFailedException("The ear's runtime is missing on this machine: nothing can be "
            + "looked for.");
        var all = await recordings.OfStudyAsync(run.Study, stop);
        var known = await departing.LooksAsync(run.Study, stop);
        var (through, bars) = (0, 0);
        foreach (var (recording, i) in all.Select((r, i) => (r, i)))
        {
            await run.BeatAsync(100 * i / all.Count, $"Looked through {through} recordings, {bars:#,0} bars.",
                $"Cancelled: {through} recordings were looked through; the rest goes on when you ask again.");
            if (await sounds.OfRecordingAsync(recording.Id, stop) is not { Samples: { } hash } sound) continue;
            var timeline = await timelines.OfAsync(recording, stop);
            var lookedFor = $"{hash}|{ear.Version}|{recording.Meter}|{recording.FeltTempo}|"
                + string.Join(' ', timeline.Marks.Select(m => $"{m.Bar}@{m.At.Milliseconds}"));
            if (known.TryGetValue(recording.Id, out var look) && look.LookedFor == lookedFor)
            {
                (through, bars) = (through + 1, bars + look.Bars);
                continue;
            }
            if (await activations.FindAsync(hash, ear.Version, stop) is not { } heard) continue;
            var laid = RecordedBars.Of(recording, timeline, sound, heard, ear);
            var common = laid is null ? null : await Task.Run(() => CommonestBar.Of(laid, HeardStrokes.In(heard, ear), 1, laid.Count), stop);
            if (common is null) continue;
            await departing.KeepAsync(recording.Id, lookedFor, common.Bars, laid!.AreKnown, [.. common.Departing.Take(MostInOne)], stop);
            (through, bars) = (through + 1, bars + common.Bars);
        }
        await run.DoneAsync(through == 0 ? "No recording has a sound that the ear has heard and whose bars are known."
            : $"{through} of {all.Count} recordings looked through, {bars:#,0} bars.");
    }
}
