using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>The same figure of the hands in other passages (hands.md, "The same figure elsewhere"): its rhythm, and where it changes the
/// drum, whichever drums these are.</summary>
public sealed class SameFigure
{
    private readonly List<Stroke> figure;
    private readonly Matcher? matcher;

    public SameFigure(Passage passage)
    {
        figure = HandsOf(passage);
        if (figure.Count < 2) return;
        matcher = new(new Idea(passage with { Strokes = [.. figure] }, null, null,
            new()
            {
                Facets = new()
                {
                    Voicing = VoicingRule.Any,
                    Sticking = FacetRule.Ignore,
                    Dynamics = FacetRule.May,
                    Ornaments = FacetRule.May
                }
            }));
    }

    /// <summary>Its strokes at each place where it is, with whatever hands are written there.</summary>
    public IEnumerable<IReadOnlyList<Stroke>> In(Passage other)
    {
        if (matcher is null) yield break;
        var hands = HandsOf(other);
        foreach (var sighting in matcher.FindIn(other).Where(s => s.Verdict != Verdict.NearMiss))
        {
            var there = hands.Where(s => s.At >= sighting.Start && s.At <= sighting.Start + (figure[^1].At - figure[0].At)).ToList();
            if (there.Count == figure.Count && Enumerable.Range(1, figure.Count - 1)
                .All(i => there[i].At - there[i - 1].At == figure[i].At - figure[i - 1].At
                && Changes(there, i) == Changes(figure, i))) yield return there;
        }
    }

    private static bool Changes(List<Stroke> strokes, int i) => strokes[i].Voice != strokes[i - 1].Voice;

    private static List<Stroke> HandsOf(Passage passage) => [.. passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand && !s.Echo)];
}
