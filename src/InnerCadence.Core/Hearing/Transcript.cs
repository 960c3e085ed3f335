using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Hearing;

/// <summary>A proposal of what was played, from the onsets of a sound: the listener decides.</summary>
public static class Transcript
{
    /// <summary>Below it a stroke is marked as unsure.</summary>
    private const double Sure = 0.6;
    /// <summary>A snare this much weaker than the strongest is a ghost.</summary>
    private const double Ghost = 0.5;
    /// <summary>Onsets of two bands this near are one stroke.</summary>
    private static readonly Seconds Together = new(0.025);

    /// <param name="onsets">In order of time, with seconds of the sound.</param>
    /// <param name="from">The first beat.</param>
    /// <returns>Each voice on its likeliest places; what is weak, or whose drum is doubtful, is unsure.</returns>
    public static Passage Propose(IReadOnlyList<Onset> onsets, Seconds from, Bpm tempo, MeterCycle meters, int bars)
    {
        var beat = new Tick(Tick.PerQuarter);
        var (perBeat, length) = (tempo.SecondsOf(beat), meters.StartOf(bars));
        var here = onsets.Where(o => o.At > from - perBeat / 2 && o.At < from + tempo.SecondsOf(length)).ToList();
        var strongest = here.Where(o => o.Band == SoundBand.Middle).Select(o => o.Strength).DefaultIfEmpty(1).Max();
        var strokes = new List<Stroke>();
        foreach (var of in here.Select(o => (Onset: o, Voice: VoiceOf(o, here))).Where(o => o.Voice is not null).GroupBy(o => o.Voice!))
        {
            List<Onset> own = [.. of.Select(o => o.Onset)];
            strokes.AddRange(Quantise.Place([.. own.Select(o => o.At - from)], beat, perBeat).Where(p => p.At < length)
                .Select(p => new Stroke(p.At, of.Key)
                {
                    Unsure = p.Weak || own[p.Onset].Confidence < Sure,
                    Openness = of.Key == Voice.Hat ? Openness.Closed : null,
                    Dynamic = of.Key == Voice.Snare && own[p.Onset].Strength < strongest * Ghost ? Dynamic.Ghost : Dynamic.Normal,
                }));
        }
        return new(meters, bars, Passage.InOrder(strokes)) { Tempo = tempo };
    }

    /// <summary>Nothing where another band says it better.</summary>
    private static Voice? VoiceOf(Onset onset, IReadOnlyList<Onset> all)
    {
        bool With(SoundBand band, Family family) => all.Any(o => o.Band == band && o.Family == family
            && Math.Abs(o.At - onset.At) < Together);
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
