using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>One way in which a beat is played.</summary>
/// <param name="Words">Its strokes in counts: SN 2a, BD 2&amp;; silent where there are none.</param>
/// <param name="Bars">Which bars, as numbered by the caller.</param>
public sealed record Alternative(string Words, ValueList<int> Bars);

/// <summary>A beat that is played in more than one way.</summary>
/// <param name="Beat">Count of the lower figure, from 1.</param>
/// <param name="Bits">Entropy of its whole content over the bars.</param>
/// <param name="Alternatives">Most common first.</param>
public sealed record HotSpot(int Beat, double Bits, ValueList<Alternative> Alternatives);

/// <summary>What stays in a groove that varies: places struck in most bars, and the beats that vary most (rhythm.md, "Skeleton").</summary>
/// <param name="Meter">The commonest meter, the earliest of equals; nothing where there is no bar.</param>
/// <param name="Bars">How many bars are of that meter.</param>
/// <param name="Strokes">One bar, each with its most common marks; by voice, then in time.</param>
/// <param name="Shares">Share of the bars with a stroke there, for every place that has one in any bar.</param>
public sealed record Skeleton(Meter? Meter, int Bars, ValueList<Stroke> Strokes, IReadOnlyDictionary<(Tick At, Voice Voice),
    double> Shares, ValueList<HotSpot> HotSpots)
{
    public const double UsualThreshold = 0.6;

    /// <param name="threshold">0 to 1: least share of the bars.</param>
    public static Skeleton Of(Passage passage, double threshold = UsualThreshold) =>
        Of(Enumerable.Range(0, passage.Bars).Select(i => (passage.Meters.MeterOf(i), BarOf(passage, i))).ToList(), threshold);

    /// <summary>Of what varies from bar to bar so little may be left within the bars of a pattern, for it to be one.</summary>
    private const double LeftInPattern = 0.2;

    /// <summary>
    /// After how many bars a groove starts over: 2 or 4 where nearly all that varies from bar to bar comes round in turn, at least twice;
    /// else 1. Laid over each other such bars
    /// would make one that nobody plays.
    /// </summary>
    public static int PatternOf(Passage passage)
    {
        double Bits(int length) => Enumerable.Range(0, length)
            .Average(k => InTurn(passage, length, k, UsualThreshold).HotSpots.Sum(s => s.Bits));
        var single = Bits(1);
        foreach (var length in (int[])[2, 4])
            if (single > 0 && passage.Bars >= 2 * length && passage.Bars % length == 0
                && Bits(length) <= LeftInPattern * single) return length;
        return 1;
    }

    private static Skeleton InTurn(Passage passage, int length, int which, double threshold) =>
        Of([.. Enumerable.Range(0, passage.Bars).Where(i => i % length == which)
            .Select(i => (passage.Meters.MeterOf(i), BarOf(passage, i)))], threshold);

    /// <summary>One for each bar of the pattern.</summary>
    public static IReadOnlyList<Skeleton> OfPattern(Passage passage, double threshold = UsualThreshold)
    {
        var length = PatternOf(passage);
        return [.. Enumerable.Range(0, length).Select(k => InTurn(passage, length, k, threshold))];
    }

    /// <summary>Over bars from anywhere: a recording, a study.</summary>
    /// <param name="bars">Each with its strokes counted from its start.</param>
    public static Skeleton Of(IReadOnlyList<(Meter Meter, IReadOnlyList<Stroke> Strokes)> bars, double threshold = UsualThreshold)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(threshold, 0);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(threshold, 1);
        if (bars.Count == 0) return new(null, 0, [], new Dictionary<(Tick, Voice), double>(), []);
        var meter = bars.GroupBy(b => b.Meter).MaxBy(g => g.Count())!.Key;
        var of = bars.Select((b, i) => (b.Meter, b.Strokes, Index: i)).Where(b => b.Meter.Equals(meter)).ToList();
        var places = of.SelectMany(b => b.Strokes).GroupBy(s => (s.At, s.Voice)).ToList();
        var shares = places.ToDictionary(g => g.Key, g => g.Count() / (double)of.Count);
        // A share of exactly the threshold counts: 3 of 5 at 0.6.
        var kept = places.Where(g => g.Count() >= threshold * of.Count - 1e-9)
            .Select(g => g.GroupBy(s => s).MaxBy(marks => marks.Count())!.Key)
            .OrderBy(s => s.Voice).ThenBy(s => s.At).ToList();
        var spots = Enumerable.Range(0, meter.Counts).Select(beat => Spot(beat, meter, of.Select(b => (b.Strokes, b.Index)).ToList()))
            .Where(s => s.Bits > 0).OrderByDescending(s => Math.Round(s.Bits, 9)).ThenBy(s => s.Beat).ToList();
        return new(meter, of.Count, kept, shares, spots);
    }

    /// <summary>One bar as count lines.</summary>
    public string Text => Meter is null ? "" : CountWriter.Write(new(new([Meter]), 1, Passage.InOrder(Strokes)));

    /// <summary>The strokes of one bar, counted from its start.</summary>
    public static IReadOnlyList<Stroke> BarOf(Passage passage, int bar)
    {
        var (start, end) = (passage.Meters.StartOf(bar), passage.Meters.StartOf(bar + 1));
        return [.. passage.Strokes.Where(s => s.At >= start && s.At < end).Select(s => s with { At = s.At - start })];
    }

    private static HotSpot Spot(int beat, Meter meter, List<(IReadOnlyList<Stroke> Strokes, int Index)> bars)
    {
        var (from, to) = (meter.Beat * beat, meter.Beat * (beat + 1));
        var contents = bars.Select(b => (Content: new Content([.. b.Strokes.Where(s => s.At >= from && s.At < to)]), b.Index))
            .GroupBy(b => b.Content)
            .Select(g => (g.Key, Bars: g.Select(b => b.Index).ToList())).OrderByDescending(g => g.Bars.Count).ThenBy(g => g.Bars[0])
                .ToList();
        var bits = contents.Sum(c => -(c.Bars.Count / (double)bars.Count) * Math.Log2(c.Bars.Count / (double)bars.Count));
        return new(beat + 1, contents.Count == 1 ? 0 : bits, [.. contents.Select(c => new Alternative(Words(c.Key, meter), c.Bars))]);
    }

    private static string Words(Content content, Meter meter) => content.Strokes.Count == 0 ? "silent"
        : string.Join(", ", content.Strokes.GroupBy(s => s.Voice).OrderBy(g => g.Key)
            .Select(g => $"{g.Key.Name} {string.Join(" and ", g.Select(s => How(s) + CountNames.Spoken(s.At, meter)))}"));

    private static string How(Stroke stroke) => stroke.Dynamic switch
    {
        Dynamic.Ghost => "ghosted ",
        Dynamic.Accent => "accented ",
        _ => "",
    };

    /// <summary>The strokes of a beat, equal where voices, places and marks are.</summary>
    private sealed class Content(IReadOnlyList<Stroke> strokes) : IEquatable<Content>
    {
        public IReadOnlyList<Stroke> Strokes => strokes;
        public bool Equals(Content? other) => other is not null && strokes.SequenceEqual(other.Strokes);
        public override bool Equals(object? obj) => Equals(obj as Content);
        public override int GetHashCode() => strokes.Aggregate(17, (hash, s) =>
            HashCode.Combine(hash, s.At.Value, s.Voice.Order, s.Dynamic));
    }
}
