using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Ideas;

/// <summary>What holds for every idea and every passage.</summary>
public class PropertiesOfMatching
{
    private static readonly Gen<Passage> Passages = Gen.Select(
        Gen.OneOf("SN", "FT", "T1", "BD"), Gen.OneOf("1", "1e", "1&", "1a", "2", "2e", "2&", "3>", "(3&)", "3aR", "4L", "4e",
            "4&f").List[1, 8]).List[1, 3]
        .Select(lines => CountLines.Parse(string.Join('\n',
            lines.Select(l => $"{l.Item1}: {string.Join(' ', l.Item2.Distinct())}"))).Passage)
        .Where(p => p.Strokes.Count > 2);

    private static readonly Gen<Rules> AnyRules = Gen.Select(
        Gen.Enum<VoicingRule>(), Gen.Enum<FacetRule>(), Gen.Enum<RateRule>(), Gen.Enum<GhostRule>(), Gen.Int[0, 2],
        (voicing, facet, rate, ghosts, elision) => new Rules
        {
            Facets = new() { Voicing = voicing, Dynamics = facet, Sticking = facet },
            Rate = rate,
            Ghosts = ghosts,
            Elision = elision
        });

    [Fact]
    public void A_passage_contains_itself_exactly() => Gen.Select(Passages, AnyRules).Sample((passage, rules) =>
    {
        var idea = Idea(passage, rules);
        if (!new Matcher(idea).CanFind) return;
        var found = idea.FindIn(passage);
        found.ShouldContain(s => s.Verdict == Verdict.Exact && s.Cost == 0, CountWriter.Write(passage));
    });

    [Fact]
    public void Later_by_so_many_bars_everything_is_found_later_by_so_many_bars() => Gen.Select(Passages, Passages, AnyRules, Gen.Int[1, 3])
        .Sample((exemplar, passage, rules, bars) =>
    {
        var (idea, shift) = (Idea(exemplar, rules), new Tick(Tick.PerWhole * bars));
        // Four silent bars before both, since no window starts more than a bar before its passage.
        var early = Later(passage, new(Tick.PerWhole * 4));
        idea.FindIn(Later(early, shift)).Select(s => (s.Start - shift, s.Verdict, s.Cost, s.Factor)).ShouldBe(
            idea.FindIn(early).Select(s => (s.Start, s.Verdict, s.Cost, s.Factor)),
                CountWriter.Write(exemplar) + "--\n" + CountWriter.Write(passage));
    }, iter: 2000);

    [Fact]
    public void Strokes_out_of_scope_change_nothing() => Gen.Select(Passages, Passages).Sample((exemplar, passage) =>
    {
        var idea = Idea(exemplar, new()) with { Scope = [Voice.Snare, Voice.FloorTom] };
        var riding = passage with
        {
            Strokes = Passage.InOrder(passage.Strokes.Concat(Enumerable.Range(0, 8)
            .Select(i => new Stroke(new(i * 5040), Voice.Ride))))
        };
        idea.FindIn(riding).Select(s => (s.Start, s.Verdict, s.Cost))
            .ShouldBe(idea.FindIn(passage).Select(s => (s.Start, s.Verdict, s.Cost)));
    });

    [Fact]
    public void Mirrored_twice_is_as_it_was() => Passages.Sample(passage =>
    {
        var scope = Scope.Of(passage, new());
        var pattern = Pattern.Of(Idea(passage, new()), scope)!;
        pattern.As(Transform.Mirrored).As(Transform.Mirrored).Strokes.ShouldBe(pattern.Strokes);
        pattern.As(Transform.Reversed).As(Transform.Reversed).Strokes.ShouldBe(pattern.Strokes);
    });

    [Fact]
    public void Sightings_share_no_stroke_and_come_in_order() =>
        Gen.Select(Passages, Passages, AnyRules).Sample((exemplar, passage, rules) =>
    {
        var found = Idea(exemplar, rules).FindIn(passage);
        found.Select(s => s.Start.Value).ShouldBeInOrder();
        foreach (var sighting in found)
        {
            sighting.Summary.ShouldNotBeEmpty();
            if (sighting.Verdict == Verdict.Exact) sighting.Edits.ShouldBeEmpty();
            if (sighting.Cost > 0) sighting.Edits.ShouldNotBeEmpty();
        }
    });

    [Fact]
    public void Looking_twice_finds_the_same() => Gen.Select(Passages, Passages, AnyRules, Gen.Bool)
        .Sample((exemplar, passage, rules, looped) =>
    {
        var idea = Idea(exemplar, rules);
        var there = passage with { Looped = looped };
        idea.FindIn(there).Select(s => s.Summary).ShouldBe(idea.FindIn(there).Select(s => s.Summary));
    });

    [Fact]
    public void Where_a_loop_begins_does_not_matter() => Gen.Select(Passages, Passages, Gen.Int[1, 3]).Sample((exemplar, passage, beats) =>
    {
        var idea = Idea(exemplar, new());
        var turn = new Tick(Tick.PerQuarter * beats);
        var turned = passage with
        {
            Looped = true,
            Strokes = Passage.InOrder(passage.Strokes.Select(s => s with { At = new((s.At + turn).Value % Tick.PerWhole) })),
        };
        idea.FindIn(turned).Where(s => s.Verdict != Verdict.NearMiss).Select(s => (s.Verdict, s.Cost)).Order().ShouldBe(
            idea.FindIn(passage with { Looped = true }).Where(s => s.Verdict != Verdict.NearMiss).Select(s => (s.Verdict, s.Cost)).Order());
    });

    private static Passage Later(Passage passage, Tick by) =>
        passage with
        {
            Bars = passage.Bars + by.Value / Tick.PerWhole,
            Strokes = [.. passage.Strokes.Select(s => s with { At = s.At + by })]
        };

    private static Idea Idea(Passage exemplar, Rules rules) => new(exemplar, null, null, rules);
}
