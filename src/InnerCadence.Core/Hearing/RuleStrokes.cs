using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>Strokes from the onsets of three bands, where the trained ear cannot be used: each band says what it says best.</summary>
public static class RuleStrokes
{
    /// <summary>A snare this much weaker than the strongest is a ghost.</summary>
    private const double Ghost = 0.5;
    /// <summary>Onsets of two bands this near are one stroke.</summary>
    private static readonly Seconds Together = new(0.025);

    /// <param name="onsets">In order of time.</param>
    public static IReadOnlyList<HeardStroke> Of(IReadOnlyList<Onset> onsets)
    {
        var strongest = onsets.Where(o => o.Band == SoundBand.Middle).Select(o => o.Strength).DefaultIfEmpty(1).Max();
        return [.. onsets.Select((o, i) => (Onset: o, Voice: VoiceOf(o, Around(onsets, i)))).Where(o => o.Voice is not null).Select(o =>
            new HeardStroke(o.Onset.At, o.Onset.Family, o.Voice!, o.Voice == Voice.Hat ? Openness.Closed : null, o.Onset.Strength, null,
                null)
            {
                Confidence = o.Onset.Confidence,
                Dynamic = o.Voice == Voice.Snare && o.Onset.Strength < strongest * Ghost ? Dynamic.Ghost : Dynamic.Normal,
            })];
    }

    private static IEnumerable<Onset> Around(IReadOnlyList<Onset> onsets, int at)
    {
        for (var i = at - 1; i >= 0 && onsets[at].At - onsets[i].At < Together; i--) yield return onsets[i];
        for (var i = at + 1; i < onsets.Count && onsets[i].At - onsets[at].At < Together; i++) yield return onsets[i];
    }

    /// <summary>Nothing where another band says it better.</summary>
    private static Voice? VoiceOf(Onset onset, IEnumerable<Onset> around)
    {
        bool With(SoundBand band, Family family) => around.Any(o => o.Band == band && o.Family == family);
        return (onset.Band, onset.Family) switch
        {
            (SoundBand.Low, Family.Kick) => Voice.Kick,
            (SoundBand.Low, Family.Tom) => With(SoundBand.Middle, Family.Tom) ? Voice.FloorTom : null,
            (SoundBand.Middle, Family.Snare) => Voice.Snare,
            (SoundBand.Middle, Family.Tom) => With(SoundBand.Low, Family.Tom) || With(SoundBand.Low, Family.Kick) ? null : Voice.AnyTom,
            (SoundBand.High, Family.Hat) => Voice.Hat,
            (SoundBand.High, Family.Ride) => Voice.Ride,
            (SoundBand.High, Family.Bell) => Voice.RideBell,
            (SoundBand.High, Family.Crash) => Voice.Crash,
            _ => null,
        };
    }
}
