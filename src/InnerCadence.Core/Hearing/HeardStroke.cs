using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>Something that the ear takes for a stroke: the listener decides.</summary>
/// <param name="Voice">The finer name; a tom is any tom, since which of them is heard by comparison only.</param>
/// <param name="Openness">Of a hat.</param>
/// <param name="Strength">How sure it is that the family was struck, 0 to 1.</param>
/// <param name="Loudness">As a pad's velocity, 0 to 1; nothing where the old rules heard it.</param>
/// <param name="TomPitch">0 at 50 Hz, 1 at 400 Hz, in octaves; nothing for what is no tom.</param>
public sealed record HeardStroke(Seconds At, Family Family, Voice Voice, Openness? Openness, double Strength, double? Loudness,
    double? TomPitch)
{
    /// <summary>Ghost, normal or accent, against the others of its voice.</summary>
    public Dynamic Dynamic { get; init; } = Dynamic.Normal;

    /// <summary>0.5 at the threshold, 1 where nothing else can be meant.</summary>
    public double Confidence { get; init; }
}

/// <summary>Reads strokes off what the ear heard.</summary>
/// <remarks>sound.md, "Strokes from strengths".</remarks>
public static class HeardStrokes
{
    /// <summary>Peaks of one family that are nearer are one stroke; flams lie 15 ms and more apart.</summary>
    private static readonly Seconds OneStroke = Seconds.OfMilliseconds(14);

    private const double SoftestThatCounts = 0.02;

    /// <param name="eager">Moves every threshold: 0 is balanced, below it surer strokes only, above it more of them.</param>
    /// <returns>In order of time.</returns>
    public static IReadOnlyList<HeardStroke> In(Activations heard, Ear ear, double eager = 0)
    {
        var found = new List<HeardStroke>();
        for (var family = 0; family < Ear.Families.Count; family++)
        {
            var threshold = Math.Clamp(ear.Thresholds[family] - eager, 0.05, 0.95);
            var own = new List<HeardStroke>();
            for (var frame = 0; frame < heard.Frames; frame++)
            {
                var height = heard.Strength(family, frame);
                var (left, right) = (heard.Strength(family, frame - 1), heard.Strength(family, frame + 1));
                if (height < threshold || height < left || height <= right) continue;
                var made = Stroke(heard, family, frame, height, (right - left) / (2 * height)) with
                {
                    Confidence = 0.5 + 0.5 * (height - threshold) / (1 - threshold),
                };
                if (own.Count > 0 && made.At - own[^1].At < OneStroke)
                {
                    if (own[^1].Strength < made.Strength) own[^1] = made;
                }
                else own.Add(made);
            }
            found.AddRange(WithDynamics(own));
        }
        return [.. found.OrderBy(s => s.At.Value).ThenBy(s => s.Voice)];
    }

    private static HeardStroke Stroke(Activations heard, int family, int frame, double height, double lean)
    {
        bool Is(EarKind kind) => heard.Kind(kind, frame) > 0.5;
        var name = Ear.Families[family];
        var voice = name switch
        {
            Family.Kick => Voice.Kick,
            Family.Snare => Is(EarKind.CrossStick) ? Voice.CrossStick : Voice.Snare,
            Family.Hat => Is(EarKind.HatFoot) ? Voice.HatFoot : Voice.Hat,
            Family.Ride => Voice.Ride,
            Family.Crash => Voice.Crash,
            Family.Tom => Voice.AnyTom,
            _ => Is(EarKind.Cowbell) ? Voice.Cowbell : Voice.RideBell,
        };
        Openness? openness = voice != Voice.Hat ? null : Is(EarKind.OpenHat) ? Openness.Open : Openness.Closed;
        return new(new(Math.Max(0, (frame + lean) / Ear.FramesPerSecond)), name, voice, openness, height,
            Math.Max(SoftestThatCounts, heard.Loudness(family, frame)), name == Family.Tom ? heard.TomPitch(frame) : null);
    }

    /// <summary>A ghost is under 45 % of the loudness that a quarter of its voice's strokes reach, an accent a fifth over its middle and
    /// loud.</summary>
    private static IEnumerable<HeardStroke> WithDynamics(List<HeardStroke> strokes) => strokes.GroupBy(s => s.Voice).SelectMany(of =>
    {
        double[] loudness = [.. of.Select(s => s.Loudness ?? 0).Order()];
        var (middle, loud) = (loudness[loudness.Length / 2], loudness[(int)(loudness.Length * 0.75)]);
        return of.Select(s => s with
        {
            Dynamic = s.Loudness < Math.Min(0.4, loud * 0.5) ? Dynamic.Ghost
                : s.Loudness > 0.75 && s.Loudness > middle * 1.2 ? Dynamic.Accent : Dynamic.Normal,
        });
    });
}
