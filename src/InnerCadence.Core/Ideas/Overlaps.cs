namespace InnerCadence.Core.Ideas;

/// <summary>Chooses among windows that share strokes (ideas.md, "Overlaps").</summary>
internal static class Overlaps
{
    public static List<Candidate> Resolve(Field field, IReadOnlyList<Candidate> candidates)
    {
        var strokes = field.LoopStrokes;
        var matches = candidates.Where(c => c.Verdict != Verdict.NearMiss).ToList();
        var chosen = field.SeesAll ? Best(field, matches)
            : [.. SharedStrokes.Groups(matches, strokes).SelectMany(group => BestAcross(field, group))];

        var taken = new bool[strokes];
        foreach (var index in chosen.SelectMany(c => c.Taken)) taken[index % strokes] = true;
        var near = candidates.Where(c => c.Verdict == Verdict.NearMiss)
            .OrderBy(c => c.Rank).ThenBy(c => c.TransformCount).ThenBy(c => c.Edits).ThenBy(c => c.Start);
        foreach (var candidate in near)
        {
            if (candidate.Taken.Any(i => taken[i % strokes])) continue;
            foreach (var index in candidate.Taken) taken[index % strokes] = true;
            chosen.Add(candidate);
        }
        return [.. chosen.OrderBy(c => c.Start).ThenBy(c => c.Rank)];
    }

    private static List<Candidate> Best(Field field, IReadOnlyList<Candidate> matches)
    {
        var intervals = matches.Select(c => Interval.Of(c, field.LoopStrokes)).ToList();
        return field.LoopLength > 0 ? BestOnCircle(intervals, field.LoopStrokes) : BestOnLine(intervals);
    }

    /// <summary>Every set of a small group is tried; a larger one is taken as if its matches were runs of strokes.</summary>
    private static List<Candidate> BestAcross(Field field, IReadOnlyList<Candidate> group)
    {
        if (group.Count == 1) return [group[0]];
        if (group.Count > MostTried) return Best(field, group);
        List<Candidate> best = [];
        foreach (var set in SharedStrokes.Sets(group, field.LoopStrokes))
            if (Score.Of(set).IsBetterThan(Score.Of(best))) best = set;
        return best;
    }

    private const int MostTried = 12;

    /// <summary>A match holds a contiguous run of strokes, so the best set is one pass over intervals.</summary>
    private static List<Candidate> BestOnLine(IReadOnlyList<Interval> intervals)
    {
        var ordered = intervals.OrderBy(i => i.Last).ThenBy(i => i.First).ToList();
        var best = new (Score Score, int Chosen, int Before)[ordered.Count + 1];
        best[0].Chosen = -1;
        var lasts = ordered.Select(i => i.Last).ToArray();
        for (var i = 0; i < ordered.Count; i++)
        {
            var before = FirstNotBefore(lasts, i, ordered[i].First);
            var with = best[before].Score.With(ordered[i].Candidate);
            best[i + 1] = with.IsBetterThan(best[i].Score) ? (with, i, before) : (best[i].Score, -1, i);
        }
        var chosen = new List<Candidate>();
        for (var i = ordered.Count; i > 0;)
        {
            if (best[i].Chosen >= 0) chosen.Add(ordered[best[i].Chosen].Candidate);
            i = best[i].Before;
        }
        return chosen;
    }

    /// <summary>How many intervals, all before <paramref name="count"/>, end before a stroke.</summary>
    private static int FirstNotBefore(int[] lasts, int count, int stroke)
    {
        var (low, high) = (0, count);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (lasts[middle] < stroke) low = middle + 1;
            else high = middle;
        }
        return low;
    }

    /// <summary>Cuts the circle where fewest intervals cross: at most one of those can be chosen, and the rest lies on a line.</summary>
    private static List<Candidate> BestOnCircle(IReadOnlyList<Interval> intervals, int strokes)
    {
        if (strokes == 0 || intervals.Count == 0) return [];
        var crossing = new int[strokes];
        foreach (var interval in intervals)
            for (var i = interval.First + 1; i <= Math.Min(interval.Last, interval.First + strokes); i++) crossing[i % strokes]++;
        var cut = Array.IndexOf(crossing, crossing.Min());

        var turned = intervals.Select(i => i.Turned(cut, strokes)).ToList();
        var inside = turned.Where(i => i.Last < strokes).ToList();
        var best = BestOnLine(inside);
        var bestScore = Score.Of(best);
        foreach (var across in turned.Where(i => i.Last >= strokes))
        {
            if (across.Last - across.First >= strokes)
            {
                if (Score.Of([across.Candidate]).IsBetterThan(bestScore)) (best, bestScore) = ([across.Candidate],
                    Score.Of([across.Candidate]));
                continue;
            }
            var others = BestOnLine([.. inside.Where(i => i.First > across.Last - strokes && i.Last < across.First)]);
            others.Add(across.Candidate);
            if (Score.Of(others) is var score && score.IsBetterThan(bestScore)) (best, bestScore) = (others, score);
        }
        return best;
    }

    private readonly record struct Interval(Candidate Candidate, int First, int Last)
    {
        public static Interval Of(Candidate candidate, int strokes)
        {
            var (first, last) = (candidate.Taken.Min(), candidate.Taken.Max());
            return new(candidate, first % strokes, first % strokes + last - first);
        }

        public Interval Turned(int cut, int strokes)
        {
            var first = (First - cut + strokes) % strokes;
            return this with { First = first, Last = first + Last - First };
        }
    }

    /// <summary>Most exact, then most variants, then least cost, fewest transforms, fewest edits, earliest.</summary>
    private readonly record struct Score(int Exact, int Variants, int Rank, int Transforms, int Edits, long Starts)
    {
        public static Score Of(IEnumerable<Candidate> candidates) => candidates.Aggregate(default(Score), (score, c) => score.With(c));

        public Score With(Candidate c) => new(
            Exact + (c.Verdict == Verdict.Exact ? 1 : 0), Variants + (c.Verdict == Verdict.Variant ? 1 : 0),
            Rank + c.Rank, Transforms + c.TransformCount, Edits + c.Edits, Starts + c.Start);

        public bool IsBetterThan(Score other) =>
            (Exact, Variants, -Rank, -Transforms, -Edits, -Starts)
                .CompareTo((other.Exact, other.Variants, -other.Rank, -other.Transforms, -other.Edits, -other.Starts)) > 0;
    }
}
