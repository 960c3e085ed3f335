using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>Which heard stroke a written one is.</summary>
/// <remarks>sound.md, "Measured against the sound": in each family the cheapest way, in order, to take written strokes for heard ones or
/// to leave either out, by dynamic programming; then so, among families that are taken for each other, with what is left.</remarks>
internal static class StrokeMatch
{
    /// <summary>A written stroke, the heard one it is, and its grace; -1 for none.</summary>
    internal readonly record struct Pair(int Written, int Heard, int Grace);

    /// <summary>Seconds that a stroke may lie from its place, which is what leaving it out costs; and what another family costs.</summary>
    private const double Beyond = 0.07, WrongFamily = 0.03, OtherVoice = 0.004, Weak = 0.01;

    /// <summary>Seconds that a grace lies from its stroke at most.</summary>
    private const double WidestFlam = 0.06;

    /// <summary>Families of which one is now and then heard for the other.</summary>
    internal static int Alike(Family family) => family switch
    {
        Family.Kick => 0,
        Family.Snare or Family.Tom => 1,
        Family.Hat or Family.Ride or Family.Crash or Family.Bell => 2,
        _ => 3,
    };

    /// <param name="places">Seconds at which the written strokes are due.</param>
    /// <param name="heard">In order of time.</param>
    public static List<Pair> Of(IReadOnlyList<Stroke> written, IReadOnlyList<double> places, IReadOnlyList<HeardStroke> heard)
    {
        var (takenW, takenH, pairs) = (new HashSet<int>(), new HashSet<int>(), new List<Pair>());
        Take(w => (int)written[w].Voice.Family, h => (int)heard[h].Family);
        Take(w => Alike(written[w].Voice.Family), h => Alike(heard[h].Family));
        for (var i = 0; i < pairs.Count; i++)
            if (written[pairs[i].Written].Ornaments.HasFlag(Ornaments.Flam)) pairs[i] = WithGrace(pairs[i], heard, takenH);
        return pairs;

        void Take(Func<int, int> groupOfWritten, Func<int, int> groupOfHeard)
        {
            var left = Enumerable.Range(0, heard.Count).Where(h => !takenH.Contains(h)).ToLookup(groupOfHeard);
            foreach (var group in Enumerable.Range(0, written.Count).Where(w => !takenW.Contains(w)).GroupBy(groupOfWritten).ToList())
                foreach (var (w, h) in InOrder([.. group.OrderBy(w => places[w])], [.. left[group.Key]], Cost))
                {
                    takenW.Add(w);
                    takenH.Add(h);
                    pairs.Add(new(w, h, -1));
                }
        }

        double Cost(int w, int h) => Math.Abs(heard[h].At - places[w]) + (heard[h].Family == written[w].Voice.Family ? 0 : WrongFamily)
            + (heard[h].Voice == written[w].Voice ? 0 : OtherVoice) + Weak * (1 - heard[h].Strength);
    }

    private static List<(int Written, int Heard)> InOrder(int[] written, int[] heard, Func<int, int, double> cost)
    {
        // least[w, h]: of the first w written and h heard ones; one that is left out costs Beyond, a heard one nothing.
        var least = new double[written.Length + 1, heard.Length + 1];
        for (var w = 1; w <= written.Length; w++) least[w, 0] = w * Beyond;
        for (var w = 1; w <= written.Length; w++)
            for (var h = 1; h <= heard.Length; h++)
                least[w, h] = Math.Min(Math.Min(least[w - 1, h] + Beyond, least[w, h - 1]),
                    least[w - 1, h - 1] + cost(written[w - 1], heard[h - 1]));
        var pairs = new List<(int, int)>();
        for (var (w, h) = (written.Length, heard.Length); w > 0 && h > 0;)
            if (least[w, h] == least[w, h - 1]) h--;
            else if (least[w, h] == least[w - 1, h] + Beyond) w--;
            else pairs.Add((written[--w], heard[--h]));
        pairs.Reverse();
        return pairs;
    }

    /// <summary>Of a flam the main stroke is the later of two of its drum.</summary>
    private static Pair WithGrace(Pair pair, IReadOnlyList<HeardStroke> heard, HashSet<int> taken)
    {
        var own = heard[pair.Heard];
        var other = Enumerable.Range(0, heard.Count).Where(h => h != pair.Heard && !taken.Contains(h) && heard[h].Family == own.Family
            && Math.Abs(heard[h].At - own.At) < WidestFlam).Select(h => (int?)h).MinBy(h => Math.Abs(heard[h!.Value].At - own.At));
        if (other is not { } found) return pair;
        taken.Add(found);
        return heard[found].At < own.At ? pair with { Grace = found } : pair with { Heard = found, Grace = pair.Heard };
    }
}
