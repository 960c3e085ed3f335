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

    /// <summary>0.5 at the threshold, 1 where nothing else can be meant; below 0.5 where something is struck and this is the likeliest
    /// name for it.</summary>
    public double Confidence { get; init; }
}

/// <summary>Reads strokes off what the ear heard.</summary>
/// <remarks>sound.md, "Strokes from strengths".</remarks>
public static class HeardStrokes
{
    /// <summary>Peaks of one family that are nearer are one stroke; flams lie 15 ms and more apart.</summary>
    private static readonly Seconds OneStroke = Seconds.OfMilliseconds(14);

    /// <summary>What is struck so near to a stroke that has a name is that stroke.</summary>
    private static readonly Seconds SameMoment = Seconds.OfMilliseconds(30);

    private const double SoftestThatCounts = 0.02;

    /// <summary>How much further over its threshold one of two names is that stands against the other: chosen on the sets of the model
    /// card.</summary>
    private const double Clearly = 1.2;

    /// <param name="eager">Moves every threshold: 0 is balanced, below it surer strokes only, above it more of them.</param>
    /// <returns>In order of time.</returns>
    public static IReadOnlyList<HeardStroke> In(Activations heard, Ear ear, double eager = 0)
    {
        double[] thresholds = [.. ear.Thresholds.Select(t => Moved(t, eager))];
        List<HeardStroke>[] found = [.. thresholds.Select((threshold, family) =>
            ClearOf(heard, family, threshold, Peaks(frame => heard.Strength(family, frame), heard.Frames, threshold)))];
        var clear = found.SelectMany(f => f).Select(s => s.At.Value).Order().ToList();
        foreach (var peak in Peaks(heard.Onset, heard.Frames, Moved(ear.OnsetThreshold, eager)))
        {
            if (IsNear(clear, peak.At)) continue;
            var (family, height) = Likeliest(heard, thresholds, peak.Frame);
            found[family].Add(Stroke(heard, family, peak) with
            {
                Strength = height,
                Confidence = 0.5 * Math.Min(1, height / thresholds[family]),
            });
        }
        BowOrBell(found, thresholds);
        return [.. found.SelectMany(WithDynamics).OrderBy(s => s.At.Value).ThenBy(s => s.Voice)];
    }

    private static double Moved(double threshold, double eager) => Math.Clamp(threshold - eager, 0.05, 0.95);

    private readonly record struct Peak(int Frame, Seconds At, double Height);

    /// <summary>Local maxima at or over a threshold; their time leans to the higher neighbour.</summary>
    private static IEnumerable<Peak> Peaks(Func<int, double> strength, int frames, double threshold)
    {
        for (var frame = 0; frame < frames; frame++)
        {
            var height = strength(frame);
            if (height < threshold) continue;
            var (left, right) = (strength(frame - 1), strength(frame + 1));
            if (height < left || height <= right) continue;
            yield return new(frame, new(Math.Max(0, (frame + (right - left) / (2 * height)) / Ear.FramesPerSecond)), height);
        }
    }

    private static List<HeardStroke> ClearOf(Activations heard, int family, double threshold, IEnumerable<Peak> peaks)
    {
        var own = new List<HeardStroke>();
        foreach (var peak in peaks)
        {
            var made = Stroke(heard, family, peak) with { Confidence = 0.5 + 0.5 * (peak.Height - threshold) / (1 - threshold) };
            if (own.Count == 0 || made.At - own[^1].At >= OneStroke) own.Add(made);
            else if (own[^1].Strength < made.Strength) own[^1] = made;
        }
        return own;
    }

    /// <summary>Whether one of the times, in order, lies within <see cref="SameMoment"/> of another.</summary>
    private static bool IsNear(List<double> times, Seconds at)
    {
        var next = times.BinarySearch(at.Value);
        if (next < 0) next = ~next;
        return (next < times.Count && times[next] - at.Value <= SameMoment.Value)
            || (next > 0 && at.Value - times[next - 1] <= SameMoment.Value);
    }

    /// <summary>The family that comes nearest to its threshold around a frame, and its strength there.</summary>
    private static (int Family, double Height) Likeliest(Activations heard, double[] thresholds, int frame) =>
        Enumerable.Range(0, thresholds.Length)
            .Select(family => (family, Enumerable.Range(frame - 1, 3).Max(f => heard.Strength(family, f))))
            .MaxBy(f => f.Item2 / thresholds[f.family]);

    /// <summary>A ride is struck on its bow or on its bell: of both at one moment the one stands that is clearly surer.</summary>
    private static void BowOrBell(List<HeardStroke>[] found, double[] thresholds)
    {
        var (ride, bell) = (Ear.Families.ToList().IndexOf(Family.Ride), Ear.Families.ToList().IndexOf(Family.Bell));
        HeardStroke[] bells = [.. found[bell].Where(s => s.Voice != Voice.Cowbell).OrderBy(s => s.At.Value)];
        var (gone, first) = (new HashSet<HeardStroke>(), 0);
        foreach (var bow in found[ride].OrderBy(s => s.At.Value))
        {
            while (first < bells.Length && bells[first].At <= bow.At - SameMoment) first++;
            for (var i = first; i < bells.Length && bells[i].At < bow.At + SameMoment; i++)
            {
                var (onBow, onBell) = (bow.Strength / thresholds[ride], bells[i].Strength / thresholds[bell]);
                if (onBell > Clearly * onBow) gone.Add(bow);
                else if (onBow > Clearly * onBell) gone.Add(bells[i]);
            }
        }
        found[ride].RemoveAll(gone.Contains);
        found[bell].RemoveAll(gone.Contains);
    }

    private static HeardStroke Stroke(Activations heard, int family, Peak peak)
    {
        var frame = peak.Frame;
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
        return new(peak.At, name, voice, openness, peak.Height,
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
