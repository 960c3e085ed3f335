using System.Buffers;
using System.Collections.Immutable;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>Finds every place where an idea appears, or almost appears, in passages. One instance serves one idea over many
/// passages.</summary>
public sealed class Matcher
{
    private readonly Idea idea;
    private readonly ImmutableHashSet<Voice> scope;
    private readonly Probe[] probes;
    private readonly Judge judge;
    private readonly int longestWindow;

    public Matcher(Idea idea)
    {
        this.idea = idea;
        scope = idea.Scope ?? Scope.Of(idea.Exemplar, idea.Rules);
        judge = new Judge(idea.Rules);
        if (Pattern.Of(idea, scope) is not { } plain)
        {
            probes = [];
            return;
        }
        IEnumerable<Factor> factors = idea.Rules.Rate == RateRule.Proportional ? Factor.All : [Factor.One];
        Transform[] transforms = [Transform.None, .. idea.Rules.Transforms.Where(t => t != Transform.None).Distinct()];
        probes = [.. from factor in factors from transform in transforms select new Probe(plain.As(transform), factor, idea.Rules)];
        longestWindow = probes.Max(p => p.Length);
    }

    /// <summary>The voices that the idea sees.</summary>
    public ImmutableHashSet<Voice> Voices => scope;

    /// <summary>False when no stroke that must be there is left in the idea's scope and span, so that nothing can be found.</summary>
    public bool CanFind => probes.Length > 0;

    /// <summary>Sightings in order of their start; windows that share strokes are settled by ideas.md, "Overlaps".</summary>
    public IReadOnlyList<Sighting> FindIn(Passage passage)
    {
        if (probes.Length == 0) return [];
        var field = Field.Of(passage, scope, idea.Rules, longestWindow);
        if (field.LoopStrokes == 0) return [];
        var candidates = new List<Candidate>();
        foreach (var probe in probes) probe.Find(field, judge, candidates);
        return [.. Overlaps.Resolve(field, candidates).Select(c => Explanation.Of(c, field))];
    }

    /// <summary>One form of the pattern at one rate, with what a window must have at the least.</summary>
    private sealed class Probe
    {
        private readonly Pattern pattern;
        private readonly Factor factor;
        private readonly int?[] momentAt;
        private readonly int[] needs;
        private readonly int leastInPlace;
        private readonly int leastPresent;
        private readonly int mostExtra;
        private readonly int leastStrokes;
        /// <summary>Nothing in the window may be moved or too much, so that all that sounds sounds at a moment of the pattern.</summary>
        private readonly bool everyMomentIsPlayed;
        private readonly int leading;

        public Probe(Pattern pattern, Factor factor, Rules rules)
        {
            (this.pattern, this.factor) = (pattern, factor);
            momentAt = [.. pattern.Moments.Select(m => factor.Scale(m.At))];
            needs = [.. pattern.Strokes.Select(s => Needed(s.Stroke.Voice, rules, pattern.Transform) | (rules.Ending == EndingRule.CrashToo
                && s.At == pattern.Ending ? Field.CrashBit : 0))];
            var half = rules.Elision > 0 || pattern.Transform == Transform.Substituted;
            // Where it may end on a crash, a kick under it need not be there.
            var required = pattern.Required - (rules.Ending == EndingRule.CrashToo ? 1 : 0);
            leastInPlace = half ? (required + 1) / 2 : (required * 2 + 2) / 3;
            // At another rate nothing may be missing, extra or moved, but for the first strokes that may be left out.
            leastPresent = factor == Factor.One ? 0 : required - rules.Elision;
            mostExtra = factor == Factor.One ? Judge.Limit(pattern.Required) / Difference.Extra : 0;
            // With so many strokes missing it is neither close nor shortened as far as the rules allow.
            leastStrokes = pattern.Required - Math.Max(rules.Elision, factor == Factor.One
                ? Judge.Limit(pattern.Required) / Difference.Missing : 0);
            // A kick under the crash that ends it is not too much, and need not be there.
            if (rules.Ending == EndingRule.CrashToo) (mostExtra, leastStrokes) = (mostExtra + 1, leastStrokes - 1);
            everyMomentIsPlayed = factor != Factor.One && rules.Ending == EndingRule.AsWritten;
            leading = Math.Min(pattern.Moments.Length, rules.Elision > 2 ? rules.Elision + 1 : 3);
            Length = factor.ScaleUp(pattern.Span);
        }

        /// <summary>Length of the window in ticks of the passage.</summary>
        public int Length { get; }

        /// <summary>Any of these bits at a moment makes it possible that a stroke is in its place.</summary>
        private static int Needed(Voice voice, Rules rules, Transform transform)
        {
            var limbs = Field.BitsOf(voice) & (Field.HandBit | Field.FootBit);
            var bits = 1 << (int)voice.Family;
            if (rules.Facets.Voicing == VoicingRule.HandOrFoot) bits |= limbs;
            if (rules.Facets.Voicing == VoicingRule.Any) bits = Field.AnyBit;
            if (transform == Transform.Substituted) bits |= voice == Voice.Kick ? Field.HandBit : Field.KickBit;
            return bits;
        }

        public void Find(Field field, Judge judge, List<Candidate> found)
        {
            var starts = ArrayPool<int>.Shared.Rent(field.LoopMoments * leading);
            var count = Starts(field, starts);
            var ticks = field.MomentTicks;
            var anyUnheard = field.Passage.Unheard.Count > 0;
            var (from, to) = (0, 0);
            foreach (var start in starts.AsSpan(0, count))
            {
                // Starts come in order, so the window only moves on.
                while (from < ticks.Length && ticks[from] < start) from++;
                to = Math.Max(to, from);
                while (to < ticks.Length && ticks[to] < start + Length) to++;
                var (first, end) = (field.MomentFirsts[from], field.MomentFirsts[to]);
                if (first == end || (field.SeesAll && end - first - pattern.Strokes.Length > mostExtra)) continue;
                if (!anyUnheard && end - first < leastStrokes) continue;
                if (!EnoughInPlace(field, start, from, to, anyUnheard)) continue;
                if (judge.Try(field, pattern, factor, start, first, end) is { } candidate) found.Add(candidate);
            }
            ArrayPool<int>.Shared.Return(starts);
        }

        /// <summary>Every stroke's moment aligned with each of the pattern's first moments, each once and in order; starts of a loop lie
        /// inside it.</summary>
        /// <returns>How many were put.</returns>
        private int Starts(Field field, int[] starts)
        {
            var earliest = field.LoopLength > 0 ? 0 : 1 - field.Passage.Meters.MeterOf(0).Length.Value;
            var merged = ArrayPool<int>.Shared.Rent(starts.Length);
            var count = 0;
            for (var lead = 0; lead < leading; lead++)
            {
                if (momentAt[lead] is not { } offset) continue;
                if (field.LoopLength > 0) offset %= field.LoopLength;
                // In a loop what lies before the offset starts a round earlier, and so comes last.
                var begin = field.LoopLength > 0 ? Math.Min(field.MomentAt(offset), field.LoopMoments) : 0;
                var end = count;
                for (var k = 0; k < field.LoopMoments; k++)
                {
                    var i = begin + k < field.LoopMoments ? begin + k : begin + k - field.LoopMoments;
                    if (!field.MomentInScope[i]) continue;
                    var start = field.MomentTicks[i] - offset + (i < begin ? field.LoopLength : 0);
                    if (start >= earliest) starts[end++] = start;
                }
                count = Merge(starts, count, end, merged);
            }
            ArrayPool<int>.Shared.Return(merged);
            return count;
        }

        /// <summary>Two runs in order, up to <paramref name="middle"/> and from there to <paramref name="end"/>, made one without what
        /// stands in both.</summary>
        private static int Merge(int[] runs, int middle, int end, int[] merged)
        {
            if (middle == 0) return end;
            var (one, two, count) = (0, middle, 0);
            while (one < middle || two < end)
            {
                var next = two == end || (one < middle && runs[one] <= runs[two]) ? runs[one++] : runs[two++];
                if (count == 0 || merged[count - 1] != next) merged[count++] = next;
            }
            Array.Copy(merged, runs, count);
            return count;
        }

        private bool EnoughInPlace(Field field, int start, int from, int to, bool anyUnheard)
        {
            var (inPlace, present, left, silent) = (0, 0, pattern.Required, to - from);
            var all = everyMomentIsPlayed && field.SeesAll;
            for (var m = 0; m < pattern.Moments.Length; m++)
            {
                var mask = 0;
                if (momentAt[m] is { } offset)
                {
                    while (from < to && field.MomentTicks[from] < start + offset) from++;
                    if (from < to && field.MomentTicks[from] == start + offset) (mask, silent) = (field.MomentMasks[from], silent - 1);
                }
                var (_, strokeFirst, count) = pattern.Moments[m];
                for (var p = strokeFirst; p < strokeFirst + count; p++)
                {
                    if (pattern.Optional[p]) continue;
                    left--;
                    var unheard = anyUnheard && momentAt[m] is { } at && field.IsUnheard(start + at, pattern.Strokes[p].Stroke.Voice);
                    if ((mask & needs[p]) != 0 || unheard) inPlace++;
                    if (mask != 0 || unheard) present++;
                }
                if (!all && inPlace >= leastInPlace && present >= leastPresent) return true;
                if (inPlace + left < leastInPlace || present + left < leastPresent) return false;
            }
            return inPlace >= leastInPlace && present >= leastPresent && (!all || silent == 0);
        }
    }
}

public static class IdeaMatching
{
    /// <summary>False when no stroke that must be there is left in the idea's scope and span.</summary>
    public static bool CanBeFound(this Idea idea) => new Matcher(idea).CanFind;

    /// <summary>The voices that the idea sees.</summary>
    public static ImmutableHashSet<Voice> VoicesSeen(this Idea idea) => new Matcher(idea).Voices;

    /// <summary>Every sighting of the idea in one passage.</summary>
    public static IReadOnlyList<Sighting> FindIn(this Idea idea, Passage passage) => new Matcher(idea).FindIn(passage);
}
