namespace InnerCadence.Core.Ideas;

/// <summary>One sighting as the order of judging sees it.</summary>
/// <param name="Difference">How it differs, in words: alike differences teach the same.</param>
/// <param name="Recording">Which recording it is in.</param>
public sealed record ToJudge(long Id, Verdict Verdict, int Cost, string Difference, long Recording, bool Judged);

/// <summary>Which waiting sighting to judge next: the one from which most is learned.</summary>
public static class JudgingOrder
{
    /// <summary>
    /// First differences of a kind judged least often so far, then recordings with least judged, then variants and near misses before exact
    /// ones (which rarely surprise), dearer before cheaper; the order of the study decides ties. Each place taken counts as judged for the
    /// next.
    /// </summary>
    /// <param name="most">How many of the order are wanted.</param>
    public static IReadOnlyList<long> Of(IReadOnlyList<ToJudge> all, int most = int.MaxValue)
    {
        var kinds = all.GroupBy(s => s.Difference).ToDictionary(g => g.Key, g => g.Count(s => s.Judged));
        var recordings = all.GroupBy(s => s.Recording).ToDictionary(g => g.Key, g => g.Count(s => s.Judged));
        // One waiting line a kind and recording: its members differ only in place, so only the head of each line is ever compared.
        var lines = all.Select((s, i) => (Sighting: s, Index: i)).Where(s => !s.Sighting.Judged)
            .GroupBy(s => (s.Sighting.Difference, s.Sighting.Recording, s.Sighting.Verdict, s.Sighting.Cost))
                .Select(g => new Queue<(ToJudge Sighting, int Index)>(g)).ToList();
        var order = new List<long>();
        while (lines.Count > 0 && order.Count < most)
        {
            var best = lines.MinBy(line =>
            {
                var (s, index) = line.Peek();
                return (kinds[s.Difference], recordings[s.Recording], s.Verdict == Verdict.Exact ? 1 : 0, -s.Cost, index);
            })!;
            var (taken, _) = best.Dequeue();
            if (best.Count == 0) lines.Remove(best);
            kinds[taken.Difference]++;
            recordings[taken.Recording]++;
            order.Add(taken.Id);
        }
        return order;
    }
}
