using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>What sounds in a passage and is not written.</summary>
/// <remarks>sound.md, "Measured against the sound".</remarks>
internal static class ExtraStrokes
{
    /// <summary>Confidence from which a stroke counts that is alone, and strength that one needs beside another.</summary>
    private const double Sure = 0.8, Certain = 0.9;

    private static readonly Seconds OneMoment = Seconds.OfMilliseconds(35);

    /// <summary>A family that sounds with at least this many other strokes of a voice, and with a third of them, is that voice's own
    /// sound.</summary>
    private const int Often = 2, Share = 3;

    /// <param name="here">Heard about the passage, in order of time.</param>
    /// <param name="used">Those that were matched.</param>
    /// <param name="matched">The written strokes that were found.</param>
    /// <returns>In order of time.</returns>
    public static IEnumerable<HeardStroke> Of(IReadOnlyList<HeardStroke> here, IReadOnlySet<int> used,
        IReadOnlyList<MeasuredStroke> matched, Seconds from, Seconds to)
    {
        var left = here.Where((_, i) => !used.Contains(i)).ToList();
        var taken = here.Where((_, i) => used.Contains(i)).ToList();
        var byFamily = left.ToLookup(h => h.Family);
        return left.Where(h => h.At > from && h.At < to && h.Confidence >= Sure && IsAlone(h, taken) && !IsItsSound(h));

        bool IsItsSound(HeardStroke extra) => matched.Where(m => IsOneMoment(m.At, extra.At)).Any(beside =>
        {
            var others = matched.Where(m => m.Stroke.Voice == beside.Stroke.Voice && m != beside).ToList();
            var alike = others.Count(m => byFamily[extra.Family].Any(h => IsOneMoment(h.At, m.At)));
            return alike >= Often && Share * alike >= others.Count;
        });
    }

    /// <summary>Beside a stroke that is matched only what is as good as certain and is no drum that is taken for it: one stroke is easily
    /// heard as two.</summary>
    private static bool IsAlone(HeardStroke stroke, List<HeardStroke> taken)
    {
        var beside = taken.Where(h => IsOneMoment(h.At, stroke.At)).ToList();
        return beside.Count == 0
            || (stroke.Strength >= Certain && beside.All(b => StrokeMatch.Alike(b.Family) != StrokeMatch.Alike(stroke.Family)));
    }

    private static bool IsOneMoment(Seconds one, Seconds other) => Math.Abs(one - other) < OneMoment;
}
