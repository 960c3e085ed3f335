using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Listening;

/// <param name="Idea">Its number.</param>
public sealed record LookingInput(long Idea);

/// <summary>The long work of looking for an idea in every recording that the ear has heard. What was looked through and did not change is
/// left as it is, so that work that was stopped goes on where it was.</summary>
public sealed class LookingWork(LookingStore looking, IdeaStore ideas, RecordingStore recordings, TimelineStore timelines,
    SoundStore sounds,
    ActivationFiles activations, PassageStore passages) : Work<LookingInput>(LookingStore.Kind, "Looking in the sound")
{
    /// <summary>Of one recording; what stands lower is hardly anything.</summary>
    private const int MostInOne = 60;

    /// <summary>What is kept of a place: higher where more is kept, so that it is looked for anew.</summary>
    private const int Told = 3;

    protected override async Task RunAsync(LookingInput input, JobRun run)
    {
        var (id, stop) = (new IdeaId(input.Idea), run.Stop);
        if (await ideas.FindAsync(id, stop) is not { } row) throw new JobFailedException("The idea is deleted.");
        if (ShippedEar.Find() is not { } ear) throw new JobFailedException("The ear's runtime is missing on this machine: nothing can be "
            + "looked for.");
        var idea = row.AsIdea();
        var all = await recordings.OfStudyAsync(row.StudyId, stop);
        var known = (await looking.LookedAsync(id, stop)).ToDictionary(l => l.RecordingId);
        var (through, bars) = (0, 0);
        foreach (var (recording, i) in all.Select((r, i) => (r, i)))
        {
            await run.BeatAsync(100 * i / all.Count, $"Looked through {through} recordings, {bars:#,0} bars.",
                $"Cancelled: {through} recordings were looked through; the rest goes on when you ask again.");
            if (await sounds.OfRecordingAsync(recording.Id, stop) is not { Samples: { } hash } sound) continue;
            var timeline = await timelines.OfAsync(recording, stop);
            var lookedFor = $"{Told}|{row.Text}|{row.Rules}|{row.SpanTicks}|{string.Join(' ', row.Scope ?? [])}|{hash}|{ear.Version}|"
                + $"{string.Join(' ', timeline.Marks.Select(m => $"{m.Bar}@{m.At.Milliseconds}"))}";
            if (known.TryGetValue(recording.Id, out var looked) && looked.LookedFor == lookedFor)
            {
                (through, bars) = (through + 1, bars + looked.Bars);
                continue;
            }
            if (await activations.FindAsync(hash, ear.Version, stop) is not { } heard) continue;
            var laid = await Task.Run(() => RecordedBars.Of(recording, timeline, sound, heard, ear), stop);
            if (laid is null) continue;
            var places = await Task.Run(() => SoundSearch.Of(idea, laid, HeardStrokes.In(heard, ear, SoundSearch.Eager)), stop);
            await looking.KeepAsync(id, recording.Id, lookedFor, laid.Count, await AgreementAsync(recording, laid, heard, ear, stop), [.. places.Take(MostInOne)], stop);
            (through, bars) = (through + 1, bars + laid.Count);
        }
        await run.DoneAsync(through == 0 ? "No recording has a sound that the ear has heard."
            : $"{row.Nickname}: {through} of {all.Count} recordings looked through, {bars:#,0} bars.");
    }

    /// <summary>How much of what is written of a recording the ear hears too.</summary>
    private async Task<double?> AgreementAsync(Recording recording, SoundBars laid, Activations heard, Ear ear, CancellationToken stop)
    {
        if (!laid.AreKnown) return null;
        var strokes = HeardStrokes.In(heard, ear);
        return SoundGroup.AgreementOf((await passages.OfRecordingAsync(recording.Id, stop))
            .Where(p => p is { Bar: { } bar, Bars: > 0 } && bar - 1 + p.Bars <= laid.Count)
            .Select(p => (First: p.Bar!.Value - 1, Passage: WrittenPassages.Read(p.Text)))
            .Select(p => EarAgreement.Of(p.Passage, new([.. Enumerable.Range(p.First, p.Passage.Bars + 1)
                .Select(bar => laid.At(laid.StartOf(bar)))], p.Passage), strokes)));
    }
}
