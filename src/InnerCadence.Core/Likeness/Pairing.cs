using InnerCadence.Core.Music;

namespace InnerCadence.Core.Likeness;

/// <summary>A stroke of a pattern or of a window on a passage: what it is and where, in 12ths of a pattern tick from the pattern's
/// start.</summary>
public readonly record struct Laid(Stroke Stroke, long At)
{
    public override string ToString() => $"{Stroke.Voice}@{At / Difference.Fine}";
}

/// <summary>A pattern laid against the strokes of a window: which stroke stands for which, each once, as cheaply as can be.</summary>
/// <remarks>
/// ideas.md, "Cost of a difference": ties go to fewer required differences, then fewer edits, then less movement; no stroke moves past one
/// of
/// its own voice that is in place.
/// </remarks>
public sealed class Pairing
{
    private Pairing(int[] partners, Difference[] differences, int extras)
    {
        (Partners, Differences, Extras) = (partners, differences, extras);
    }

    /// <summary>Index in the window of each pattern stroke's partner; -1 where it is missing.</summary>
    public int[] Partners { get; }
    /// <summary>By pattern stroke; empty where it is missing.</summary>
    public Difference[] Differences { get; }
    /// <summary>How many strokes of the window are nobody's partner.</summary>
    public int Extras { get; }

    /// <param name="free">By pattern stroke: missing it costs nothing, because it is optional or could not have been heard.</param>
    /// <param name="limit">No pairing whose required differences cost more than this is wanted.</param>
    /// <param name="elision">So many may be missing whatever the limit, where nothing else differs that is required.</param>
    /// <returns>Nothing when every pairing is over the limit.</returns>
    public static Pairing? Cheapest(
        Laid[] pattern, Laid[] window, bool[] free, Facets facets, bool kickStandsIn, int limit, int elision)
    {
        if (InPlace(pattern, window, facets, kickStandsIn) is { } plain) return plain;

        var size = pattern.Length + window.Length;
        var weights = new long[size * size];
        var given = new int[size];
        Array.Fill(given, -1);
        if (!Fill(weights, given, pattern, window, free, facets, kickStandsIn, limit, elision)) return null;
        return Solve(weights, given, pattern, window, facets, kickStandsIn, 0);
    }

    /// <summary>The pairing of a pattern without one stroke, with that stroke put back: it stands for the last of the window, at a
    /// difference that is given.</summary>
    public Pairing With(int stroke, int window, Difference difference) =>
        new([.. Partners[..stroke], window, .. Partners[stroke..]], [.. Differences[..stroke], difference, .. Differences[stroke..]],
        Extras);

    /// <summary>Where every moment has its strokes and none is dear, moving anything would cost as much or more.</summary>
    private static Pairing? InPlace(Laid[] pattern, Laid[] window, Facets facets, bool kickStandsIn)
    {
        if (pattern.Length != window.Length) return null;
        var partners = new int[pattern.Length];
        var differences = new Difference[pattern.Length];
        for (var i = 0; i < pattern.Length;)
        {
            var end = i + 1;
            while (end < pattern.Length && pattern[end].At == pattern[i].At) end++;
            // Voices of one moment trade partners for 2 at least unless two are of one family or the rules make other drums cheaper.
            var mayTrade = end - i > 1 && (kickStandsIn || facets.Voicing is VoicingRule.HandOrFoot or VoicingRule.Any
                || !FamiliesDiffer(pattern.AsSpan(i..end)));
            for (var j = i; j < end; j++)
            {
                if (window[j].At != pattern[i].At || (end - i > 1 && window[j].Stroke.Voice != pattern[j].Stroke.Voice)) return null;
                var difference = Difference.Between(pattern[j].Stroke, window[j].Stroke, 0, facets, kickStandsIn)!.Value;
                if (difference.Cost > (mayTrade ? 0 : 2)) return null;
                (partners[j], differences[j]) = (j, difference);
            }
            i = end;
        }
        return new(partners, differences, 0);
    }

    private static bool FamiliesDiffer(ReadOnlySpan<Laid> moment)
    {
        var seen = 0;
        foreach (var laid in moment)
        {
            var bit = 1 << (int)laid.Stroke.Voice.Family;
            if ((seen & bit) != 0) return false;
            seen |= bit;
        }
        return true;
    }

    private static bool Fill(
        long[] weights, int[] given, Laid[] pattern, Laid[] window, bool[] free,
        Facets facets, bool kickStandsIn, int limit, int elision)
    {
        var size = pattern.Length + window.Length;
        Array.Fill(weights, Assignment.Forbidden);
        var columnLeast = new int[window.Length];
        Array.Fill(columnLeast, Difference.Extra);
        var (rowSum, withoutPartner) = (0, 0);
        for (var p = 0; p < pattern.Length; p++)
        {
            var least = free[p] ? 0 : Difference.Missing;
            for (var q = 0; q < window.Length; q++)
            {
                var moved = Math.Abs(window[q].At - pattern[p].At);
                if (moved > Difference.FurthestMove) continue;
                if (Difference.Between(pattern[p].Stroke, window[q].Stroke, moved, facets, kickStandsIn) is not { } difference) continue;
                var weight = Weigh(difference.Cost, difference.Required, difference.Edits, moved / Difference.Fine);
                weights[p * size + q] = weight;
                least = Math.Min(least, difference.RequiredCost);
                columnLeast[q] = Math.Min(columnLeast[q], difference.RequiredCost);
                if (weight == 0 && given[p] < 0 && Array.IndexOf(given, q, 0, p) < 0) given[p] = q;
            }
            rowSum += least;
            if (least > 0) withoutPartner++;
            var missing = free[p] ? Weigh(0, 0, 1, 0) : Weigh(Difference.Missing, 1, 1, 0);
            for (var q = window.Length; q < size; q++) weights[p * size + q] = missing;
        }
        var columnSum = columnLeast.Sum();
        if (Math.Max(rowSum, columnSum) > limit && (withoutPartner > elision || columnSum > 0)) return false;

        var extra = Weigh(Difference.Extra, 1, 1, 0);
        for (var p = pattern.Length; p < size; p++)
        {
            for (var q = 0; q < window.Length; q++) weights[p * size + q] = extra;
            for (var q = window.Length; q < size; q++) weights[p * size + q] = 0;
        }
        // Each pair that weighs nothing leaves one spare row and one spare column, which go together for nothing.
        var spare = 0;
        for (var p = 0; p < pattern.Length; p++)
        {
            if (given[p] < 0) continue;
            given[pattern.Length + spare] = window.Length + spare;
            spare++;
        }
        return true;
    }

    /// <summary>Cost first, then required differences, then edits, then movement in ticks, in one number that can be added up.</summary>
    private static long Weigh(int cost, int required, int edits, long movement) =>
        ((((long)cost << 10) + required << 10) + edits << 26) + movement;

    private static Pairing Solve(long[] weights, int[] given, Laid[] pattern, Laid[] window, Facets facets, bool kickStandsIn, int depth)
    {
        var size = pattern.Length + window.Length;
        var columns = Assignment.Solve(size, weights, given);
        if (depth == MostCorrections || Overtaking(columns, pattern, window) is not { } bad)
            return Of(columns, pattern, window, facets, kickStandsIn);

        // One of the two pairs must go: the cheaper way out is taken.
        var (withoutMove, withoutStill) = (Without(bad.Moved), Without(bad.Still));
        return withoutStill.Weight < withoutMove.Weight ? withoutStill.Pairing : withoutMove.Pairing;

        (Pairing Pairing, long Weight) Without(int row)
        {
            var fewer = (long[])weights.Clone();
            fewer[row * size + columns[row]] = Assignment.Forbidden;
            var start = (int[])given.Clone();
            if (start[row] == columns[row]) start[row] = -1;
            var pairing = Solve(fewer, start, pattern, window, facets, kickStandsIn, depth + 1);
            return (pairing, pairing.Weight(weights, size));
        }
    }

    private const int MostCorrections = 6;

    /// <summary>A moved stroke and a stroke of its own voice, in place, that it moves past; from either side, so that the cost is the same
    /// from both.</summary>
    private static (int Moved, int Still)? Overtaking(int[] columns, Laid[] pattern, Laid[] window)
    {
        for (var p = 0; p < pattern.Length; p++)
        {
            if (columns[p] >= window.Length) continue;
            var (from, to) = (pattern[p].At, window[columns[p]].At);
            if (from == to) continue;
            for (var still = 0; still < pattern.Length; still++)
            {
                var own = pattern[still].Stroke.Voice;
                if (columns[still] >= window.Length || (own != pattern[p].Stroke.Voice && own != window[columns[p]].Stroke.Voice)) continue;
                var at = pattern[still].At;
                var partner = window[columns[still]];
                if (partner.At == at && partner.Stroke.Voice == pattern[still].Stroke.Voice && at > Math.Min(from, to)
                    && at < Math.Max(from, to))
                    return (p, still);
            }
        }
        return null;
    }

    private static Pairing Of(int[] columns, Laid[] pattern, Laid[] window, Facets facets, bool kickStandsIn)
    {
        var partners = new int[pattern.Length];
        var differences = new Difference[pattern.Length];
        var paired = 0;
        for (var p = 0; p < pattern.Length; p++)
        {
            partners[p] = columns[p] < window.Length ? columns[p] : -1;
            if (partners[p] < 0) continue;
            var other = window[partners[p]];
            differences[p] = Difference.Between(pattern[p].Stroke, other.Stroke, Math.Abs(other.At - pattern[p].At), facets,
                kickStandsIn)!.Value;
            paired++;
        }
        return new(partners, differences, window.Length - paired);
    }

    private long Weight(long[] weights, int size)
    {
        var window = size - Partners.Length;
        var total = Weigh(Difference.Extra * Extras, Extras, Extras, 0);
        for (var p = 0; p < Partners.Length; p++) total += weights[p * size + (Partners[p] >= 0 ? Partners[p] : window)];
        return total;
    }
}
