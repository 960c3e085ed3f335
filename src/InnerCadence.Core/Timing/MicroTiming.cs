using InnerCadence.Core.Music;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Statistics;

namespace InnerCadence.Core.Timing;

/// <summary>How early or late a voice is played, in milliseconds, late positive.</summary>
/// <param name="Interval">Student's t of 95 % around the mean; nothing below two strokes.</param>
public sealed record VoiceTiming(Voice Voice, double Mean, (double Low, double High)? Interval, int Strokes);

/// <summary>The same of one place in the bar.</summary>
public sealed record PlaceTiming(Voice Voice, Tick InBar, double Mean, (double Low, double High)? Interval, int Strokes);

/// <summary>A voice against the one that keeps time, in milliseconds, behind it positive.</summary>
public sealed record TimingGap(Voice Voice, Voice Timekeeper, double Mean, double Low, double High)
{
    /// <summary>The interval leaves no doubt on which side it lies.</summary>
    public bool IsCertain => Low > 0 || High < 0;

    /// <summary>snare 12 ms (7 to 17) behind the ride</summary>
    public override string ToString() => Mean >= 0
        ? FormattableString.Invariant($"{Voice.Name} {Mean:0} ms ({Low:0} to {High:0}) behind the {Timekeeper.Name}")
        : FormattableString.Invariant($"{Voice.Name} {-Mean:0} ms ({-High:0} to {-Low:0}) ahead of the {Timekeeper.Name}");
}

/// <summary>What the offsets of a passage say: each voice, each place, what is certain, and the strokes that stand out.</summary>
/// <remarks>time.md, "Micro-timing". Means leave out the strokes that stand out, and those whose start is hardly heard.</remarks>
public sealed record MicroTiming(ValueList<VoiceTiming> Voices, ValueList<PlaceTiming> Places, ValueList<TimingGap> Gaps,
    ValueList<OddStroke> Odd)
{
    /// <summary>With fewer moments that two voices share the voices are compared on their own.</summary>
    private const int LeastShared = 5;

    /// <summary>What is heard less clearly than this is in no mean.</summary>
    internal const double LeastSure = 0.15;

    /// <summary>What no interval leaves a doubt about.</summary>
    public IEnumerable<TimingGap> Certain => Gaps.Where(g => g.IsCertain);

    /// <param name="doubt">Milliseconds by which all strokes of a voice may be read early or late alike, one deviation; none where they
    /// were struck on pads.</param>
    /// <returns>Nothing where there are no offsets for strokes of the passage.</returns>
    public static MicroTiming? Of(Passage passage, IReadOnlyCollection<StrokeOffset> offsets, Func<Voice, double>? doubt = null)
    {
        var written = passage.Strokes.Select(s => (s.At, s.Voice)).ToHashSet();
        var own = offsets.Where(o => written.Contains((o.At, o.Voice)) && o.Sureness >= LeastSure).ToList();
        if (own.Count == 0) return null;
        var odd = OddStrokes.In(passage, own);
        var standOut = odd.Select(o => (o.At, o.Voice)).ToHashSet();
        var usual = own.Where(o => !standOut.Contains((o.At, o.Voice))).ToList();
        return new(Means(usual, doubt), [.. usual.GroupBy(o => (o.Voice, passage.Meters.Locate(o.At).InBar)).OrderBy(g => g.Key.Voice)
            .ThenBy(g => g.Key.InBar)
            .Select(g => Mean([.. g.Select(o => o.Milliseconds)], doubt?.Invoke(g.Key.Voice) ?? 0) is var (mean, interval)
                ? new PlaceTiming(g.Key.Voice, g.Key.InBar, mean, interval, g.Count()) : null!)], [.. GapsOf(usual, doubt)], [.. odd]);
    }

    /// <summary>Each voice on its own, in canonical order.</summary>
    /// <remarks>The voice with most strokes has none: the others are measured by it.</remarks>
    internal static ValueList<VoiceTiming> Means(IEnumerable<StrokeOffset> offsets, Func<Voice, double>? doubt = null)
    {
        var voices = offsets.GroupBy(o => o.Voice).OrderBy(g => g.Key).ToList();
        var keeper = voices.MaxBy(g => g.Count())?.Key;
        return [.. voices.Select(g => Mean([.. g.Select(o => o.Milliseconds)], g.Key == keeper ? 0 : doubt?.Invoke(g.Key) ?? 0)
            is var (mean, interval) ? new VoiceTiming(g.Key, mean, interval, g.Count()) : null!)];
    }

    private static (double Mean, (double Low, double High)? Interval) Mean(double[] offsets, double doubt = 0)
    {
        var (mean, spread) = offsets.MeanStandardDeviation();
        return (mean, offsets.Length < 2 ? null : Around(mean, spread / Math.Sqrt(offsets.Length), offsets.Length - 1, doubt));
    }

    private static (double Low, double High) Around(double mean, double error, double freedom, double doubt = 0)
    {
        const double Normal = 1.96;
        var half = StudentT.InvCDF(0, 1, freedom, 0.975) * error;
        half = Math.Sqrt(half * half + Normal * Normal * doubt * doubt);
        return (mean - half, mean + half);
    }

    /// <summary>Each voice against the one with the most strokes: by the differences where both are struck at once if there are enough,
    /// else by Welch's interval of two means.</summary>
    private static IReadOnlyList<TimingGap> GapsOf(List<StrokeOffset> own, Func<Voice, double>? doubt)
    {
        var byVoice = own.GroupBy(o => o.Voice).ToDictionary(g => g.Key, g => g.ToDictionary(o => o.At, o => o.Milliseconds));
        if (byVoice.Count < 2) return [];
        var (keeper, kept) = byVoice.OrderByDescending(v => v.Value.Count).ThenBy(v => v.Key).First();
        var gaps = new List<TimingGap>();
        foreach (var (voice, offsets) in byVoice.Where(v => v.Key != keeper).OrderBy(v => v.Key))
        {
            var read = doubt is null ? 0 : Math.Sqrt(doubt(voice) * doubt(voice) + doubt(keeper) * doubt(keeper));
            double[] apart = [.. offsets.Where(o => kept.ContainsKey(o.Key)).Select(o => o.Value - kept[o.Key])];
            var (mean, (low, high)) = apart.Length >= LeastShared
                ? apart.MeanStandardDeviation() is var (m, s)
                    ? (m, Around(m, s / Math.Sqrt(apart.Length), apart.Length - 1, read)) : default
                : Welch([.. offsets.Values], [.. kept.Values], read);
            if (!double.IsNaN(low)) gaps.Add(new(voice, keeper, mean, low, high));
        }
        return gaps;
    }

    /// <returns>No numbers where a side has fewer than two.</returns>
    private static (double Mean, (double Low, double High) Interval) Welch(double[] of, double[] against, double doubt)
    {
        if (of.Length < 2 || against.Length < 2) return (double.NaN, (double.NaN, double.NaN));
        var (a, b) = (of.Variance() / of.Length, against.Variance() / against.Length);
        var mean = of.Mean() - against.Mean();
        if (a + b == 0) return (mean, (mean, mean));
        var freedom = (a + b) * (a + b) / (a * a / (of.Length - 1) + b * b / (against.Length - 1));
        return (mean, Around(mean, Math.Sqrt(a + b), freedom, doubt));
    }
}
