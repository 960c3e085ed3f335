using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Storage.Listening;

/// <summary>The bars of a recording on the clock of its sound.</summary>
public static class RecordedBars
{
    /// <param name="heard">What the ear has of the sound: it says where bars are that nobody marked.</param>
    /// <returns>Nothing where no bar is known or heard.</returns>
    public static SoundBars? Of(Recording recording, Timeline timeline, SoundRow sound, Activations heard, Ear ear) => SoundBars.Of(
        [.. timeline.Marks.Select(m => (m.Bar, Seconds.OfMilliseconds(m.At.Milliseconds)))], recording.Meters,
        recording.FeltTempo is { } bpm ? Bpm.Of(bpm) : null, new(sound.Seconds ?? heard.Frames / (double)Ear.FramesPerSecond), heard, ear);
}
