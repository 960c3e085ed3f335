using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>Says whether a pattern laid against a window is the idea, a variant, a near miss or nothing (ideas.md, "Verdict").</summary>
internal sealed class Judge(Rules rules)
{
    /// <summary>Dearest near miss of an idea with so many required strokes.</summary>
    public static int Limit(int required) => required <= 8 ? required : Math.Max(8, required / 2);

    /// <summary>Nothing when the window is neither the idea nor close to it.</summary>
    public Candidate? Try(Field field, Pattern pattern, Factor factor, int start, int first, int end)
    {
        var window = new Laid[end - first];
        for (var i = 0; i < window.Length; i++) window[i] = new(field.Strokes[first + i], factor.Unscale(field.At[first + i] - start));
        var notHeard = NotHeard(field, pattern, factor, start);
        var free = pattern.Optional;
        if (notHeard.Contains(true)) free = [.. free.Zip(notHeard, (optional, unheard) => optional || unheard)];

        var limit = Limit(pattern.Required);
        if (Pairing.Cheapest(pattern.Strokes, window, free, rules.Facets, pattern.Transform == Transform.Substituted, limit, rules.Elision == 0) is not { } pairing)
            return null;
        return Weigh(field, pattern, factor, start, first, window, pairing, notHeard, limit);
    }

    private Candidate? Weigh(
        Field field, Pattern pattern, Factor factor, int start, int first, Laid[] window, Pairing pairing, bool[] notHeard, int limit)
    {
        var (cost, required, edits, missing, unheard, substituted, inPlace, moved) = (0, 0, 0, 0, 0, 0, 0, 0);
        var (allowedDifference, handsNotKnown) = (false, false);
        for (var p = 0; p < pattern.Strokes.Length; p++)
        {
            if (pairing.Partners[p] < 0)
            {
                if (pattern.Optional[p]) continue;
                edits++;
                if (notHeard[p]) unheard++;
                else
                {
                    missing++;
                    cost += Difference.Missing;
                }
                continue;
            }
            var difference = pairing.Differences[p];
            cost += difference.Cost;
            required += difference.Required;
            edits += difference.Edits;
            allowedDifference |= difference.Edits > difference.Required;
            if (difference.Voicing == VoicingDifference.Substituted) substituted++;
            if (difference.Moved) moved++;
            if (!pattern.Optional[p] && StandsInItsPlace(pattern.Strokes[p].Stroke, window[pairing.Partners[p]].Stroke, difference)) inPlace++;
            handsNotKnown |= rules.Facets.Sticking == FacetRule.Must && pattern.Strokes[p].Stroke.Side is not null
                && window[pairing.Partners[p]].Stroke.Side is null;
        }
        if (pattern.Transform == Transform.Substituted && (substituted == 0 || substituted * 2 > pattern.Required)) return null;
        if (unheard * 2 > pattern.Required) return null;
        var breaks = rules.Facets.Voicing == VoicingRule.Contour ? Contour.Breaks(pattern.Strokes, window, pairing.Partners) : [];
        cost += breaks.Count + pairing.Extras * Difference.Extra;
        required += breaks.Count + pairing.Extras;
        edits += breaks.Count + pairing.Extras;

        var elided = missing > 0 && required == 0 && IsElided(pattern, pairing, notHeard) && pattern.Required - missing >= (pattern.Required + 1) / 2;
        var elisionAllowed = elided && missing <= rules.Elision;
        var extended = pairing.Extras > 0 && pairing.Extras == required && missing == 0 && IsExtended(pattern, window, pairing);
        var failing = required + (elisionAllowed ? 0 : missing);
        var (placement, pulse) = PlacementOf(field.Passage, pattern, start);

        Verdict verdict;
        if (failing == 0 && placement)
        {
            var plain = !allowedDifference && cost == 0 && unheard == 0 && !handsNotKnown && factor == Factor.One && pattern.Transform == Transform.None;
            verdict = plain ? Verdict.Exact : Verdict.Variant;
        }
        else
        {
            if (!placement && failing > 0) return null;
            if (cost > limit) return null;
            if (pattern.Required <= 4 && missing > 0 && !elisionAllowed) return null;
            if ((inPlace + unheard) * 3 < pattern.Required * 2) return null;
            if (factor != Factor.One && missing + pairing.Extras + moved > 0) return null;
            if (!MarksAgree(pattern, window, pairing)) return null;
            verdict = Verdict.NearMiss;
        }
        return new(pattern, factor, start, pairing)
        {
            First = first,
            Verdict = verdict,
            Cost = cost,
            Edits = edits,
            PlacementHolds = placement,
            ElsewhereInPulse = !pulse,
            Elided = elided,
            Extended = extended,
            NotHeard = notHeard,
            ContourBreaks = breaks,
            HandsNotKnown = handsNotKnown,
        };
    }

    /// <summary>Not moved, not substituted, and of its own family or another that the rules allow; a hand against a foot can be either.</summary>
    private static bool StandsInItsPlace(Stroke own, Stroke other, Difference difference) =>
        !difference.Moved && difference.Voicing != VoicingDifference.Substituted
        && (difference.Voicing == VoicingDifference.Allowed || own.Voice.Family == other.Voice.Family);

    private static bool[] NotHeard(Field field, Pattern pattern, Factor factor, int start)
    {
        var notHeard = new bool[pattern.Strokes.Length];
        if (field.Passage.Unheard.Count == 0) return notHeard;
        for (var p = 0; p < notHeard.Length; p++)
            notHeard[p] = !pattern.Optional[p] && field.IsUnheard(start + factor.ScaleUp(pattern.Strokes[p].At), pattern.Strokes[p].Stroke.Voice);
        return notHeard;
    }

    /// <summary>All that is missing comes before all that is there.</summary>
    private static bool IsElided(Pattern pattern, Pairing pairing, bool[] notHeard)
    {
        var firstThere = long.MaxValue;
        for (var p = 0; p < pattern.Strokes.Length; p++)
        {
            if (pairing.Partners[p] >= 0) firstThere = Math.Min(firstThere, pattern.Strokes[p].At);
            else if (!pattern.Optional[p] && !notHeard[p] && pattern.Strokes[p].At >= firstThere) return false;
        }
        return firstThere < long.MaxValue;
    }

    /// <summary>All that is too much comes after the last stroke.</summary>
    private static bool IsExtended(Pattern pattern, Laid[] window, Pairing pairing)
    {
        var last = pattern.Strokes[^1].At;
        for (var q = 0; q < window.Length; q++)
            if (window[q].At <= last && !pairing.Partners.Contains(q)) return false;
        return true;
    }

    /// <summary>Whether the rule about the start holds, and whether the start is at the exemplar's place in the pulse.</summary>
    private (bool Rule, bool Pulse) PlacementOf(Passage passage, Pattern pattern, int start)
    {
        var (bar, inBar) = passage.Meters.Locate(new(start));
        var (ownBar, ownInBar) = pattern.Exemplar.Meters.Locate(pattern.Start);
        var samePulse = inBar - passage.Meters.MeterOf(bar).PulseStart(inBar) == ownInBar - pattern.Exemplar.Meters.MeterOf(ownBar).PulseStart(ownInBar);
        return (rules.Placement switch
        {
            PlacementRule.SamePlaceInTheBeat => samePulse,
            PlacementRule.SamePlaceInTheBar => inBar == ownInBar,
            _ => true,
        }, samePulse);
    }

    /// <summary>Of the strokes marked in a facet that must agree, at least half do; for openness and ornaments it is enough that they are marked.</summary>
    private bool MarksAgree(Pattern pattern, Laid[] window, Pairing pairing)
    {
        return Half(rules.Facets.Dynamics, s => s.Dynamic != Dynamic.Normal, (own, other) => own.Dynamic == other.Dynamic)
            && Half(rules.Facets.Openness, s => s.Openness is Openness.Loose or Openness.Open, (_, other) => other.Openness is Openness.Loose or Openness.Open)
            && Half(rules.Facets.Ornaments, s => s.Ornaments != Ornaments.None, (_, other) => other.Ornaments != Ornaments.None)
            && Half(rules.Facets.Sticking, s => s.Side is not null, (own, other) => other.Side is null || own.Side == other.Side);

        bool Half(FacetRule rule, Func<Stroke, bool> isMarked, Func<Stroke, Stroke, bool> agrees)
        {
            if (rule != FacetRule.Must) return true;
            var (marked, agreeing) = (0, 0);
            for (var p = 0; p < pattern.Strokes.Length; p++)
            {
                var own = pattern.Strokes[p].Stroke;
                if (pattern.Optional[p] || !isMarked(own)) continue;
                marked++;
                if (pairing.Partners[p] >= 0 && agrees(own, window[pairing.Partners[p]].Stroke)) agreeing++;
            }
            return agreeing * 2 >= marked;
        }
    }
}
