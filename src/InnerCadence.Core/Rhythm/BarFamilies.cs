using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>Bars that are alike.</summary>
/// <param name="Exemplar">The commonest of them, by the caller's number.</param>
/// <param name="Members">All, the exemplar's own first; each with what it costs against the exemplar.</param>
public sealed record BarFamily(int Exemplar, ValueList<(int Bar, int Cost)> Members);

/// <summary>A player's stock of bars: all bars put to the nearest of a few exemplars.</summary>
public static class BarFamilies
{
    /// <summary>
    /// Different bars in the order of how often they come (then of the first time) are each put to the cheapest exemplar within the reach
    /// of a prime (rhythm.md,
    /// "Bar form"), the earlier of equals, or become an exemplar themselves. So every member is explained by its difference from one bar.
    /// </summary>
    /// <param name="bars">Each with its strokes counted from its start; silent bars are left out.</param>
    /// <param name="most">So many different bars are compared at most; the rarest beyond stay alone.</param>
    public static IReadOnlyList<BarFamily> Of(IReadOnlyList<(Meter Meter, IReadOnlyList<Stroke> Strokes)> bars, int most = 2000)
    {
        var kinds = new Dictionary<Kind, List<int>>();
        for (var i = 0; i < bars.Count; i++)
        {
            if (bars[i].Strokes.Count == 0) continue;
            var kind = new Kind(new(i, bars[i].Meter, [.. bars[i].Strokes]));
            if (!kinds.TryGetValue(kind, out var same)) kinds[kind] = same = [];
            same.Add(i);
        }
        var families = new List<(BarForm.OneBar Exemplar, List<(int Bar, int Cost)> Members)>();
        var rank = 0;
        foreach (var (kind, same) in kinds.OrderByDescending(k => k.Value.Count).ThenBy(k => k.Value[0]))
        {
            var near = rank++ < most ? families.Select(f => (f.Members, Cost: Reach(f.Exemplar, kind.Bar))).Where(f => f.Cost is not null)
                .OrderBy(f => f.Cost).FirstOrDefault() : default;
            if (near.Members is { } members) members.AddRange(same.Select(i => (i, near.Cost!.Value)));
            else families.Add((kind.Bar, [.. same.Select(i => (i, 0))]));
        }
        return [.. families.Select(f => new BarFamily(f.Members[0].Bar, f.Members)).OrderByDescending(f => f.Members.Count)
            .ThenBy(f => f.Exemplar)];
    }

    /// <summary>Counts alone often say that two bars are too far apart.</summary>
    private static int? Reach(BarForm.OneBar a, BarForm.OneBar b) =>
        Math.Abs(a.Strokes.Count - b.Strokes.Count) * Difference.Extra > Math.Max(a.Strokes.Count, b.Strokes.Count) ? null
            : BarForm.Cost(a, b);

    /// <summary>A bar, equal where all its strokes are.</summary>
    private sealed class Kind(BarForm.OneBar bar) : IEquatable<Kind>
    {
        public BarForm.OneBar Bar => bar;
        public bool Equals(Kind? other) => other is not null && bar.IsEqual(other.Bar);
        public override bool Equals(object? obj) => Equals(obj as Kind);
        public override int GetHashCode() => bar.Strokes.Aggregate(bar.Meter.GetHashCode(), (hash, s) =>
            HashCode.Combine(hash, s.At.Value, s.Voice.Order, s.Dynamic));
    }
}
