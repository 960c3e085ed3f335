using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>One bar by its letter.</summary>
/// <param name="Letter">A, B, A', A''.</param>
/// <param name="Like">The earlier bar it is most like, from 0; nothing where none is close.</param>
/// <param name="Note">As bar 2, without the kick on the &amp; of 1; empty for the first bar and for new ones.</param>
public sealed record FormedBar(string Letter, int? Like, string Note);

/// <summary>Bars that are equal get one letter, bars that are close its prime (rhythm.md, "Bar form").</summary>
public static class BarForm
{
    /// <summary>Everything is looked at.</summary>
    private static readonly Facets All = new()
    {
        Sticking = FacetRule.Must,
        Dynamics = FacetRule.Must,
        Openness = FacetRule.Must,
        Ornaments = FacetRule.Must
    };

    /// <param name="firstBar">Number of the first bar, for the notes.</param>
    public static IReadOnlyList<FormedBar> Of(Passage passage, int firstBar = 1)
    {
        var byBar = passage.Strokes.ToLookup(s => passage.Meters.Locate(s.At).Bar);
        return Of([.. Enumerable.Range(0, passage.Bars)
            .Select(i => (passage.Meters.MeterOf(i), (IReadOnlyList<Stroke>)[.. byBar[i]
            .Select(s => s with { At = s.At - passage.Meters.StartOf(i) })]))], i => firstBar + i);
    }

    /// <summary>Over bars from several passages, such as all that is written down of a recording.</summary>
    /// <param name="written">Each with its strokes counted from its start.</param>
    /// <param name="numberOf">The number a bar has in the notes, by its place in the list.</param>
    public static IReadOnlyList<FormedBar> Of(IReadOnlyList<(Meter Meter, IReadOnlyList<Stroke> Strokes)> written, Func<int, int> numberOf)
    {
        var bars = written.Select((b, i) => new OneBar(i, b.Meter, [.. b.Strokes])).ToList();
        var letters = new List<(OneBar First, string Letter)>();
        var primes = new List<(OneBar Bar, string Letter)>();
        var formed = new List<FormedBar>();
        foreach (var bar in bars)
        {
            var letter = letters.Concat(primes).FirstOrDefault(l => l.Item1.IsEqual(bar)).Item2;
            if (letter is null)
            {
                var near = letters.Select(l => (l.Letter, Cost: Cost(l.First, bar))).Where(l => l.Cost is not null).OrderBy(l => l.Cost)
                    .FirstOrDefault();
                if (near.Letter is { } of)
                {
                    letter = of + new string('\'', primes.Count(p => p.Letter.TrimEnd('\'') == of) + 1);
                    primes.Add((bar, letter));
                }
                else
                {
                    letter = Name(letters.Count);
                    letters.Add((bar, letter));
                }
            }
            var like = bars.Take(bar.Index).Select(b => (Bar: b, Cost: b.IsEqual(bar) ? 0 : Cost(b, bar))).Where(b => b.Cost is not null)
                .OrderBy(b => b.Cost).ThenBy(b => b.Bar.Index).FirstOrDefault().Bar;
            formed.Add(new(letter, like?.Index, like is null ? "" : Note(like, bar, numberOf(like.Index))));
        }
        return formed;
    }

    /// <summary>What one bar costs against another with every facet on; nothing over the number of strokes of the fuller one, or in another
    /// meter.</summary>
    internal static int? Cost(OneBar a, OneBar b)
    {
        if (!a.Meter.Equals(b.Meter)) return null;
        var limit = Math.Max(a.Strokes.Count, b.Strokes.Count);
        if (a.Strokes.Count == 0 || b.Strokes.Count == 0) return a.Strokes.Count == b.Strokes.Count ? 0 : null;
        var (pattern, window) = (a.Laid, b.Laid);
        if (Pairing.Cheapest(pattern, window, new bool[pattern.Length], All, false, limit, 0) is not { } pairing) return null;
        var cost = pairing.Extras * Difference.Extra + Enumerable.Range(0, pattern.Length)
            .Sum(i => pairing.Partners[i] < 0 ? Difference.Missing : pairing.Differences[i].Cost);
        return cost <= limit ? cost : null;
    }

    /// <summary>A to Z, then AA.</summary>
    private static string Name(int index) => index < 26 ? ((char)('A' + index)).ToString() : Name(index / 26 - 1) + Name(index % 26);

    private static string Note(OneBar like, OneBar bar, int number)
    {
        var as_ = $"as bar {number}";
        if (like.IsEqual(bar)) return as_;
        string Place(Stroke s) => CountNames.Spoken(s.At, bar.Meter);
        var there = bar.Strokes.ToDictionary(s => (s.At, s.Voice));
        var parts = new List<string>();
        foreach (var stroke in like.Strokes)
        {
            if (!there.Remove((stroke.At, stroke.Voice), out var same)) parts.Add($"without the {stroke.Voice.Name} on {Place(stroke)}");
            else if (!same.Equals(stroke)) parts.Add(
                $"the {stroke.Voice.Name} on {Place(stroke)} {string.Join(" and ", ReadingDifference.Changes(stroke, same))}");
        }
        parts.AddRange(there.Values.Select(s => $"with the {s.Voice.Name} on {Place(s)}"));
        return $"{as_}, {string.Join(", ", parts)}";
    }

    /// <summary>A bar alone, its strokes counted from its start.</summary>
    internal sealed record OneBar(int Index, Meter Meter, ValueList<Stroke> Strokes)
    {
        public Laid[] Laid { get; } = [.. Strokes.Select(s => new Laid(s, (long)s.At.Value * Difference.Fine))];

        public bool IsEqual(OneBar other) => Meter.Equals(other.Meter) && Strokes.SequenceEqual(other.Strokes);
    }
}
