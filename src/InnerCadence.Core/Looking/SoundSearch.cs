using InnerCadence.Core.Hearing;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <summary>Looks for an idea in what the ear heard of a sound that nobody wrote down.</summary>
/// <remarks>sound.md, "Looking in the sound": edit distance over strokes weighted by strength, at a low threshold, at every place that the
/// rules allow on the sound's bars.</remarks>
public static class SoundSearch
{
    /// <summary>Thresholds are lowered by so much: what is hardly heard still counts for what it is.</summary>
    public const double Eager = 0.25;

    /// <summary>Ranked places are told up to so many.</summary>
    public const int Most = 200;

    private const double Width = 0.024, Reach = 0.06, Extra = 0.7, Worst = 0.2, Elided = 0.35;

    /// <summary>Starts within a quarter, in 12ths of it: sixteenths and triplets.</summary>
    private static readonly int[] Starts = [0, 3, 4, 6, 8, 9];

    /// <param name="heard">In order of time, of an eager ear.</param>
    /// <returns>The best first; of places that overlap by more than half the best.</returns>
    public static IReadOnlyList<FoundPlace> Of(Idea idea, SoundBars bars, IReadOnlyList<HeardStroke> heard)
    {
        var scope = idea.Scope ?? Scope.Of(idea.Exemplar, idea.Rules);
        if (Pattern.Of(idea, scope) is not { } plain) return [];
        var figures = idea.Rules.Transforms.Where(t => t is Transform.Reversed or Transform.Substituted).Select(plain.As).Prepend(plain)
            .SelectMany(pattern => (idea.Rules.Rate == RateRule.Proportional ? Factor.All : [Factor.One])
                .Select(factor => Figure.Of(pattern, factor, idea.Rules)))
            .OfType<Figure>().ToList();
        var times = heard.Select(h => h.At.Value).ToArray();
        var silent = scope.Except(idea.Rules.Bed).Select(v => v.Family).ToHashSet();
        var found = new List<FoundPlace>();
        foreach (var figure in figures)
            for (var bar = 0; bar < bars.Count; bar++)
                foreach (var start in StartsIn(bars, bar, idea, plain))
                    if (Weigh(figure, bars, start, bar, heard, times, silent, idea.Rules) is { } place) found.Add(place);
        return Best(found);
    }

    private static IEnumerable<Tick> StartsIn(SoundBars bars, int bar, Idea idea, Pattern plain)
    {
        var (from, length) = (bars.StartOf(bar), bars.MeterOf(bar).Length);
        var own = idea.Exemplar.Meters.Locate(plain.Start).InBar;
        if (idea.Rules.Placement == PlacementRule.SamePlaceInTheBar) return own < length ? [from + own] : [];
        var inBeat = own.Value % Tick.PerQuarter;
        return Enumerable.Range(0, (length.Value + Tick.PerQuarter - 1) / Tick.PerQuarter).SelectMany(quarter =>
                (idea.Rules.Placement == PlacementRule.SamePlaceInTheBeat ? [inBeat] : Starts.Select(s => s * Tick.PerQuarter / 12)
                    .Append(inBeat).Distinct()).Select(part => new Tick(quarter * Tick.PerQuarter + part)))
            .Where(at => at < length).Select(at => from + at);
    }

    private static FoundPlace? Weigh(Figure figure, SoundBars bars, Tick start, int bar, IReadOnlyList<HeardStroke> heard, double[] times,
        HashSet<Family> silent, Rules rules)
    {
        var (at, until) = (bars.At(start), bars.At(start + figure.Span));
        if (until > bars.End + 0.01) return null;
        var (first, last) = (Lower(times, at - Reach), Lower(times, until - 0.04));
        Span<bool> used = stackalloc bool[Math.Min(512, Math.Max(0, last - first))];
        var (sum, counted, elided) = (0.0, 0.0, 0);
        var strokes = new FoundStroke[figure.Strokes.Length];
        for (var i = 0; i < figure.Strokes.Length; i++)
        {
            var wanted = figure.Strokes[i];
            var place = bars.At(start + wanted.At);
            var (best, which) = (0.0, -1);
            for (var h = Lower(times, place - Reach); h < heard.Count && times[h] <= place + Reach; h++)
            {
                if (h - first >= 0 && h - first < used.Length && used[h - first]) continue;
                var likeness = wanted.Likeness(heard[h], rules);
                if (likeness == 0) continue;
                var off = (times[h] - place) / Width;
                var value = likeness * heard[h].Strength * Math.Exp(-0.5 * off * off);
                if (value > best) (best, which) = (value, h);
            }
            if (which >= first && which - first < used.Length) used[which - first] = true;
            strokes[i] = new(wanted.Written, wanted.Voice, place, best);
            var weight = wanted.Optional ? 0.3 : 1;
            // First strokes may be left out where the rules say so.
            if (best < 0.3 && i == elided && elided < rules.Elision) (elided, sum, counted) =
                (elided + 1, sum + weight * Elided, counted + weight);
            else (sum, counted) = (sum + weight * best, counted + weight);
        }
        var over = 0.0;
        for (var h = first; h < last && h - first < used.Length; h++)
        {
            if (used[h - first] || times[h] < at - 0.03 || !silent.Contains(heard[h].Family)) continue;
            if (rules.Ghosts == GhostRule.Ignore && heard[h].Dynamic == Dynamic.Ghost) continue;
            over += heard[h].Strength * (heard[h].Dynamic == Dynamic.Ghost ? 0.5 : 1);
        }
        var score = (sum - Extra * over) / Math.Max(1, counted);
        return score < Worst ? null : new(at, until, bars.AreKnown ? bar + 1 : null, score, strokes);
    }

    private static int Lower(double[] ascending, double at)
    {
        var found = Array.BinarySearch(ascending, at);
        return found < 0 ? ~found : found;
    }

    private static List<FoundPlace> Best(List<FoundPlace> found)
    {
        var kept = new List<FoundPlace>();
        foreach (var place in found.OrderByDescending(f => f.Score).ThenBy(f => f.At.Value))
        {
            if (kept.Exists(k => Overlap(k, place) > 0.5)) continue;
            kept.Add(place);
            if (kept.Count == Most) break;
        }
        return kept;
    }

    /// <summary>The share of the shorter that both have.</summary>
    private static double Overlap(FoundPlace a, FoundPlace b) =>
        (Math.Min(a.Until, b.Until) - Math.Max(a.At, b.At)) / Math.Max(1e-6, Math.Min(a.Until - a.At, b.Until - b.At));
}
