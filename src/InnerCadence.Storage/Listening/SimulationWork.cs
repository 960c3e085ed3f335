using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Listening;

/// <param name="Recording">Its number.</param>
public sealed record SimulationInput(long Recording);

/// <summary>The long work of making a recording’s sound up from its passages.</summary>
/// <param name="sound">The samples of one sound of the kit.</param>
public sealed class SimulationWork(RecordingStore recordings, TimelineStore timelines, PassageStore passages, SoundStore sounds,
    SoundFiles files, Func<SoundKey, float[]> sound)
    : Work<SimulationInput>(SoundStore.SimulationKind, "Making a simulated sound")
{
    /// <summary>Half an hour is longer than any piece of a study.</summary>
    private const int MostSeconds = 1800;

    protected override async Task RunAsync(SimulationInput input, JobRun run)
    {
        var (id, stop) = (new RecordingId(input.Recording), run.Stop);
        if (await recordings.FindAsync(id, stop) is not { } recording
            || await timelines.OfAsync(recording, stop) is not { Map: { } map } timeline)
            throw new JobFailedException("Mark the recording’s bars first: its sound is made up along them.");
        await run.BeatAsync(5, $"Playing {recording.Name}.", "Cancelled: no sound was made.");
        var placed = (await passages.OfRecordingAsync(id, stop)).Where(p => p is { Bar: not null, Bars: > 0 }).OrderBy(p => p.Bar)
            .Select(p => new PlacedPassage(p.Bar!.Value, CountLines.Parse(p.Text).Passage, p.Kind == PassageKind.Groove)).ToList();
        var bars = recording.TotalBars ?? timeline.Grid.LastDescribed;
        var seconds = Math.Min(MostSeconds, recording.Duration is { } lasts ? lasts.Milliseconds / 1000.0
            : map.SecondsOf(new(bars + 1, Tick.Zero)) + 2);
        var samples = await Task.Run(() => Simulation.Render(map, timeline.Grid, bars, new(seconds), placed, sound, (int)id.Value,
            SimulatedDay.Of((int)id.Value, recording.Recorded?.Earliest.Year)), stop);
        await run.BeatAsync(80, "Keeping the sound.", "Cancelled: no sound was made.");
        using var content = new MemoryStream(Wav.Write(samples, 1));
        var hash = await files.KeepAsync(content, stop);
        await sounds.AttachAsync(recording, hash, "simulated.wav", "audio/wav", content.Length, seconds, true, stop);
        await run.DoneAsync("The simulated sound is at hand.");
    }
}
