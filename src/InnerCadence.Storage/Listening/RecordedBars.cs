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

    /// <summary>All that they follow from: where it is another, what was worked out from them is stale.</summary>
    public static string FollowFrom(Recording recording, Timeline timeline, SoundRow sound, Ear ear) => FormattableString.Invariant(
        $"{sound.Samples}|{ear.Version}|{recording.Meter}|{recording.FeltTempo}|")
        + string.Join(' ', timeline.Marks.Select(m => $"{m.Bar}@{m.At.Milliseconds}"));
}
