using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Statistics;

namespace InnerCadence.Core.Timing;

/// <summary>How early or late a voice is played, in milliseconds, late positive.</summary>
/// <param name="Interval">Student's t of 95 % around the mean; nothing below two strokes.</param>
public sealed record VoiceTiming(Voice Voice, double Mean, (double Low, double High)? Interval, int Strokes);

/// <summary>A stroke that is played unlike the same place in other bars.</summary>
/// <param name="Milliseconds">Against the middle of the others, late positive.</param>
public sealed record OddStroke(int Bar, Voice Voice, Tick InBar, double Milliseconds);

/// <summary>What the offsets of a passage say (time.md, "Micro-timing"): each voice, what is certain in words, and the strokes that stand
/// out.</summary>
public sealed record MicroTiming(IReadOnlyList<VoiceTiming> Voices, IReadOnlyList<string> Certain, IReadOnlyList<OddStroke> Odd)
{
    /// <summary>With fewer moments that two voices share nothing is said.</summary>
    public const int Least = 8;
    private const double Robust = 2.5, MadToDeviation = 1.4826;
    /// <summary>In milliseconds: what no ear and no measurement tells apart does not stand out.</summary>
    private const double Finest = 2;
    private const int LeastBars = 4;

    /// <summary>Nothing where there are no offsets for strokes of the passage.</summary>
    public static MicroTiming? Of(Passage passage, IReadOnlyCollection<StrokeOffset> offsets)
    {
        var written = passage.Strokes.Select(s => (s.At, s.Voice)).ToHashSet();
        var own = offsets.Where(o => written.Contains((o.At, o.Voice))).ToList();
        if (own.Count == 0) return null;
        return new(Means(own.Select(o => (o.Voice, o.Milliseconds))), Certainties(own), Oddities(passage, own));
    }

    /// <summary>Each voice on its own, in canonical order.</summary>
    internal static IReadOnlyList<VoiceTiming> Means(IEnumerable<(Voice Voice, double Milliseconds)> offsets) =>
        [.. offsets.GroupBy(o => o.Voice).OrderBy(g => g.Key).Select(g => Mean(g.Key, [.. g.Select(o => o.Milliseconds)]))];

    private static VoiceTiming Mean(Voice voice, double[] offsets)
    {
        var (mean, spread) = offsets.MeanStandardDeviation();
        return new(voice, mean, offsets.Length < 2 ? null : Around(mean, spread, offsets.Length), offsets.Length);
    }

    private static (double Low, double High) Around(double mean, double spread, int n)
    {
        var half = StudentT.InvCDF(0, 1, n - 1, 0.975) * spread / Math.Sqrt(n);
        return (mean - half, mean + half);
    }

    /// <summary>Each voice against the one with the most strokes, where both are struck at once: only what the interval leaves no doubt
    /// about.</summary>
    private static List<string> Certainties(List<StrokeOffset> own)
    {
        var byVoice = own.GroupBy(o => o.Voice).ToDictionary(g => g.Key, g => g.ToDictionary(o => o.At, o => o.Milliseconds));
        var anchor = byVoice.OrderByDescending(v => v.Value.Count).ThenBy(v => v.Key).First();
        var said = new List<string>();
        foreach (var (voice, offsets) in byVoice.Where(v => v.Key != anchor.Key).OrderBy(v => v.Key))
        {
            double[] apart = [.. offsets.Where(o => anchor.Value.ContainsKey(o.Key)).Select(o => o.Value - anchor.Value[o.Key])];
            if (apart.Length < Least) continue;
            var (mean, spread) = apart.MeanStandardDeviation();
            var interval = Around(mean, spread, apart.Length);
            if (interval.Low > 0) said.Add(FormattableString.Invariant(
                $"{voice.Name} {mean:0} ms ({interval.Low:0} to {interval.High:0}) behind the {anchor.Key.Name}"));
            else if (interval.High < 0) said.Add(FormattableString.Invariant(
                $"{voice.Name} {-mean:0} ms ({-interval.High:0} to {-interval.Low:0}) ahead of the {anchor.Key.Name}"));
        }
        return said;
    }

    private static List<OddStroke> Oddities(Passage passage, List<StrokeOffset> own)
    {
        var odd = new List<OddStroke>();
        foreach (var place in own.Select(o => (Offset: o, At: passage.Meters.Locate(o.At))).GroupBy(o => (o.Offset.Voice, o.At.InBar))
            .Where(g => g.Count() >= LeastBars))
        {
            var middle = place.Select(o => o.Offset.Milliseconds).Median();
            var deviation = Math.Max(Finest, MadToDeviation * place.Select(o => Math.Abs(o.Offset.Milliseconds - middle)).Median());
            odd.AddRange(place.Where(o => Math.Abs(o.Offset.Milliseconds - middle) > Robust * deviation)
                .Select(o => new OddStroke(o.At.Bar, o.Offset.Voice, o.At.InBar, o.Offset.Milliseconds - middle)));
        }
        return [.. odd.OrderBy(o => o.Bar).ThenBy(o => o.InBar).ThenBy(o => o.Voice)];
    }

    /// <summary>bar 3, kick on the e of 3: 31 ms later than elsewhere</summary>
    /// <param name="first">Number of the passage's first bar.</param>
    public static string Words(OddStroke odd, Passage passage, int first = 1) =>
        FormattableString.Invariant($"bar {first + odd.Bar}, {odd.Voice.Name} on ")
            + FormattableString.Invariant(
                $"{CountNames.Spoken(odd.InBar, passage.Meters.MeterOf(odd.Bar))}: {Math.Abs(odd.Milliseconds):0} ms ")
            + FormattableString.Invariant($"{(odd.Milliseconds > 0 ? "later" : "earlier")} than elsewhere");
}
