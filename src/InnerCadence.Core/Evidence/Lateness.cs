using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Statistics;

namespace InnerCadence.Core.Evidence;

/// <summary>A reading whose strokes were measured, and what it is a reading of.</summary>
public sealed record MeasuredReading(long Recording, string Name, string Title, long Player, int? Year, double? Tempo, long Passage,
    Passage Read,
    ValueList<StrokeOffset> Offsets);

/// <summary>A voice against the one that keeps time, over all that was measured of one recording.</summary>
/// <param name="Mean">Milliseconds, behind it positive.</param>
/// <param name="Strokes">Of the voice.</param>
/// <param name="Passage">The one with most of them.</param>
public sealed record RecordedGap(long Recording, string Name, string Title, long Player, int? Year, double? Tempo, Voice Voice,
    Voice Against,
    double Mean, int Strokes, long Passage)
{
    /// <summary>With fewer strokes a recording says nothing of a voice.</summary>
    private const int Least = 4;

    /// <summary>Passages weigh by their strokes of the voice.</summary>
    public static IReadOnlyList<RecordedGap> Of(IEnumerable<MeasuredReading> readings) =>
    [
        .. readings.SelectMany(r => MicroTiming.Of(r.Read, r.Offsets) is { } timing
                ? timing.Gaps.Select(g => (Reading: r, Gap: g, Strokes: timing.Voices.First(v => v.Voice == g.Voice).Strokes)) : [])
            .GroupBy(x => (x.Reading.Recording, x.Gap.Voice, x.Gap.Timekeeper)).Where(g => g.Sum(x => x.Strokes) >= Least)
            .Select(g => (g.Key, Of: g.OrderByDescending(x => x.Strokes).First().Reading, Strokes: g.Sum(x => x.Strokes), All: g.ToList()))
            .Select(g => new RecordedGap(g.Key.Recording, g.Of.Name, g.Of.Title, g.Of.Player, g.Of.Year, g.Of.Tempo, g.Key.Voice,
                g.Key.Timekeeper,
                g.All.Sum(x => x.Gap.Mean * x.Strokes) / g.Strokes, g.Strokes, g.Of.Passage)),
    ];
}

/// <summary>How early or late a voice lies over many recordings.</summary>
/// <param name="Mean">Of the titles, in milliseconds, behind the other voice positive.</param>
/// <param name="Interval">Student's t of 95 % over titles; nothing with fewer than three.</param>
/// <param name="SameSide">Recordings on which it lies on that side.</param>
/// <remarks>sound.md, "Measured against the sound": recordings of one title are one way to play it.</remarks>
public sealed record Lateness(Voice Voice, Voice Against, double Mean, (double Low, double High)? Interval, int Titles, int SameSide,
    ValueList<RecordedGap> Recordings)
{
    private const int LeastTitles = 3;

    /// <summary>Voices of most recordings first.</summary>
    public static IReadOnlyList<Lateness> Of(IEnumerable<RecordedGap> gaps) =>
        [.. gaps.GroupBy(g => (g.Voice, g.Against)).Select(g => Over([.. g])).OrderByDescending(f => f.Recordings.Count)
            .ThenBy(f => f.Voice)];

    private static Lateness Over(List<RecordedGap> gaps)
    {
        var titles = gaps.GroupBy(g => g.Title).Select(t => t.Average(g => g.Mean)).ToArray();
        var (mean, spread) = titles.MeanStandardDeviation();
        var half = titles.Length < LeastTitles ? 0 : StudentT.InvCDF(0, 1, titles.Length - 1, 0.975) * spread / Math.Sqrt(titles.Length);
        return new(gaps[0].Voice, gaps[0].Against, mean, titles.Length < LeastTitles ? null : (mean - half, mean + half), titles.Length,
            gaps.Count(g => g.Mean >= 0 == mean >= 0), [.. gaps.OrderBy(g => g.Year ?? int.MaxValue)
                .ThenBy(g => g.Name, StringComparer.Ordinal)]);
    }

    /// <summary>The interval leaves no doubt on which side it lies.</summary>
    public bool IsCertain => Interval is { } i && (i.Low > 0 || i.High < 0);

    /// <summary>the snare is 9 ms (4 to 14) behind the hat on 12 of 15 recordings</summary>
    public override string ToString()
    {
        var (low, high) = Interval is { } i ? Mean >= 0 ? (i.Low, i.High) : (-i.High, -i.Low) : (0, 0);
        var interval = Interval is null ? "" : FormattableString.Invariant($" ({low:0} to {high:0})");
        return FormattableString.Invariant($"the {Voice.Name} is {Math.Abs(Mean):0} ms{interval} ")
            + $"{(Mean >= 0 ? "behind" : "ahead of")} the {Against.Name} on {SameSide} of {Recordings.Count} "
            + $"{(Recordings.Count == 1 ? "recording" : "recordings")}";
    }
}
