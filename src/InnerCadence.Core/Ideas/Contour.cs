using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>Up, down and level moves between successive toms.</summary>
internal static class Contour
{
    /// <summary>Pattern strokes at which the move from the tom before does not agree; an unknown tom agrees with every move.</summary>
    public static List<int> Breaks(Laid[] pattern, Laid[] window, int[] partners)
    {
        var breaks = new List<int>();
        int? before = null;
        for (var p = 0; p < pattern.Length; p++)
        {
            if (partners[p] < 0 || pattern[p].Stroke.Voice.Family != Family.Tom
                || window[partners[p]].Stroke.Voice.Family != Family.Tom) continue;
            if (before is { } b && Move(pattern[b], pattern[p]) is { } own && Move(window[partners[b]], window[partners[p]]) is { } other
                && own != other)
                breaks.Add(p);
            before = p;
        }
        return breaks;
    }

    /// <summary>-1 up, 0 level, 1 down; the voice order runs from the highest tom to the lowest.</summary>
    private static int? Move(Laid from, Laid to) =>
        from.Stroke.Voice.IsUnknownKind || to.Stroke.Voice.IsUnknownKind ? null
            : Math.Sign(to.Stroke.Voice.Order.CompareTo(from.Stroke.Voice.Order));
}
