using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Ideas;

/// <summary>The fast search against a plain one that lays the pattern everywhere and leaves nothing out beforehand.</summary>
public class FastAndSlow
{
    private static readonly Gen<Passage> Grooves = Gen.Select(
        Among.These("SN", "FT", "T1", "BD", "HH", "CR"),
            Among.These("1", "1e", "1&", "1a", "2", "2e", "2&", "2t", "3>", "(3&)", "3a", "3l", "4", "4e", "4&f", "4?", "4a*",
            "3=").Array[1, 7], Among.These("", " | %", " | 1 3", " | ?")).Array[1, 3]
        .Select(Among.These("", "", "LV: 1 p < 3 f", "LV: 2 f > 4 mp"), (lines, levels) =>
            CountLines.Parse(string.Concat(lines.Select(l => $"{l.Item1}: {string.Join(' ', l.Item2.Distinct())}{l.Item3}\n"))
            + levels).Passage);

    private static readonly Gen<Rules> AnyRules = Gen.Select(PlainRules(), Gen.Enum<EndingRule>(), Gen.Enum<EchoRule>(),
        Gen.Enum<LevelRule>(), Among.These("", "", "BD", "HH BD", "SN"),
        (rules, ending, echoes, levels, bed) => rules with
        {
            Ending = ending,
            Echoes = echoes,
            Levels = levels,
            Bed = [.. bed.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(v => Voice.Find(v)!)]
        });

    private static Gen<Rules> PlainRules() => Gen.Select(
        Gen.Enum<VoicingRule>(), Gen.Enum<FacetRule>(), Gen.Enum<RateRule>(), Gen.Enum<GhostRule>(), Gen.Enum<PlacementRule>(),
            Gen.Int[0, 3], Among.These(Transform.None, Transform.Reversed, Transform.Mirrored, Transform.Substituted),
        (voicing, facet, rate, ghosts, placement, elision, transform) => new Rules
        {
            Facets = new() { Voicing = voicing, Dynamics = facet, Ornaments = facet },
            Rate = rate,
            Ghosts = ghosts,
            Placement = placement,
            Elision = elision,
            Transforms = [transform],
        });

    [Fact]
    public void Find_the_same_places_with_the_same_verdicts() => Gen.Select(Grooves, Grooves, AnyRules, Gen.Bool)
        .Sample((exemplar, passage, rules, looped) =>
    {
        var idea = new Idea(exemplar, null, null, rules);
        var there = passage with { Looped = looped };
        idea.FindIn(there).Select(Line).ShouldBe(Slowly(idea, there).Select(Line),
            $"{CountWriter.Write(exemplar)}--\n{CountWriter.Write(passage)}");
    }, iter: 3000);

    private static string Line(Sighting s) => $"{s.Start} {s.Factor} {s.Verdict} {s.Cost} {s.Summary}";

    /// <summary>Every window the page on ideas names: each stroke of the passage under each of the pattern's first moments, at each rate
    /// and in each form.</summary>
    private static IEnumerable<Sighting> Slowly(Idea idea, Passage passage)
    {
        var scope = idea.Scope ?? Scope.Of(idea.Exemplar, idea.Rules);
        if (Pattern.Of(idea, scope) is not { } plain) return [];
        Factor[] factors = idea.Rules.Rate == RateRule.Proportional ? [.. Factor.All] : [Factor.One];
        Transform[] forms = [Transform.None, .. idea.Rules.Transforms.Where(t => t != Transform.None)];
        var longest = factors.Max(f => forms.Max(t => f.ScaleUp(plain.As(t).Span)));
        var field = Field.Of(passage, scope, idea.Rules, longest);
        if (field.LoopStrokes == 0) return [];
        var judge = new Judge(idea.Rules);
        var candidates = new List<Candidate>();
        foreach (var (factor, pattern) in from f in factors from t in forms select (f, plain.As(t)))
        {
            var starts = new SortedSet<int>();
            foreach (var moment in pattern.Moments.Take(idea.Rules.Elision > 2 ? idea.Rules.Elision + 1 : 3))
            {
                if (factor.Scale(moment.At) is not { } offset) continue;
                foreach (var at in field.At.Take(field.LoopStrokes).Where((_, i) => field.InScope(i)))
                {
                    var start = at - offset;
                    if (passage.Looped) start = (start % passage.Length.Value + passage.Length.Value) % passage.Length.Value;
                    if (passage.Looped || start > -passage.Meters.MeterOf(0).Length.Value) starts.Add(start);
                }
            }
            foreach (var start in starts)
            {
                var inside = Enumerable.Range(0, field.At.Length)
                    .Where(i => field.At[i] >= start && field.At[i] < start + factor.ScaleUp(pattern.Span)).ToList();
                if (inside.Count == 0) continue;
                if (judge.Try(field, pattern, factor, start, inside[0], inside[^1] + 1) is { } candidate) candidates.Add(candidate);
            }
        }
        return Overlaps.Resolve(field, candidates).Select(c => Explanation.Of(c, field));
    }
}
