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
        var notHeard = NotHeard(field, pattern, factor, start);
        var laid = new Laying(field, pattern, factor, start, first, notHeard);
        int[]? indices = field.SeesAll ? null : [.. Enumerable.Range(first, end - first)
            .Where(i => Sees(field, pattern, factor, start, i))];
        var window = new Laid[indices?.Length ?? end - first];
        for (var i = 0; i < window.Length; i++) window[i] = laid.At(indices?[i] ?? first + i);

        var plain = Lay(laid, pattern.Strokes, window, pattern.Optional) is { } pairing
            ? Weigh(laid, window, indices, pairing, pattern.Optional, pattern.Required, -1) : null;
        if (rules.Ending == EndingRule.AsWritten) return plain;
        return Endings(laid, window, indices ?? [.. Enumerable.Range(first, end - first)], end).Append(plain).OfType<Candidate>()
            .OrderBy(c => c.Verdict).ThenBy(c => c.Cost).ThenBy(c => c.Edits).ThenBy(c => c == plain ? 0 : 1).FirstOrDefault();
    }

    private Pairing? Lay(Laying laid, Laid[] strokes, Laid[] window, bool[] optional)
    {
        var free = laid.NotHeard.Contains(true) ? [.. optional.Zip(laid.NotHeard, (may, unheard) => may || unheard)] : optional;
        return Pairing.Cheapest(strokes, window, free, rules.Facets, laid.Pattern.Transform == Transform.Substituted,
            Limit(laid.Pattern.Required), rules.Elision);
    }

    /// <summary>In the scope, and in a bed only where the idea has a stroke of the same voice.</summary>
    private bool Sees(Field field, Pattern pattern, Factor factor, int start, int index)
    {
        if (!field.InScope(index)) return false;
        var voice = field.Strokes[index].Voice;
        return !rules.Bed.Contains(voice) || pattern.Strokes.Any(s => s.Stroke.Voice == voice
            && s.At == factor.Unscale(field.At[index] - start));
    }

    /// <summary>
    /// The last required stroke on each crash that sounds at its moment; of several there the hand's. A kick under the crash may be there
    /// or not, whether the
    /// idea has one or not (ideas.md, "ending").
    /// </summary>
    private IEnumerable<Candidate> Endings(Laying laid, Laid[] window, int[] indices, int end)
    {
        var (field, pattern) = (laid.Field, laid.Pattern);
        if (laid.Factor.Scale(pattern.Ending) is not { } offset) yield break;
        var crashes = Enumerable.Range(laid.First, end - laid.First)
            .Where(i => field.At[i] == laid.Start + offset && field.Strokes[i].Voice.Family == Family.Crash).ToList();
        if (crashes.Count == 0) yield break;
        var last = Enumerable.Range(0, pattern.Strokes.Length).Where(p => !pattern.Optional[p] && pattern.Strokes[p].At == pattern.Ending)
            .ToList();
        var ofTheHand = last.Where(p => pattern.Strokes[p].Stroke.Voice.Limbs == LimbClass.Hand).ToList();
        var kicks = last.Where(p => pattern.Strokes[p].Stroke.Voice == Voice.Kick).ToList();
        foreach (var target in ofTheHand.Count > 0 ? ofTheHand : last)
        {
            var others = kicks.Where(p => p != target).ToList();
            var optional = (bool[])pattern.Optional.Clone();
            foreach (var kick in others) optional[kick] = true;
            foreach (var crash in crashes)
            {
                int[] kept = [.. indices.Where(i => i != crash
                    && (others.Count > 0 || field.At[i] != laid.Start + offset || field.Strokes[i].Voice != Voice.Kick))];
                var without = laid.Without(target);
                if (Lay(without, [.. pattern.Strokes[..target], .. pattern.Strokes[(target + 1)..]], [.. kept.Select(laid.At)],
                    [.. optional[..target], .. optional[(target + 1)..]]) is not { } pairing) continue;
                int[] all = [.. kept, crash];
                if (Weigh(laid, [.. all.Select(laid.At)], all, pairing.With(target, kept.Length, Difference.OnCrash), optional,
                    pattern.Required - others.Count, target) is { } candidate) yield return candidate;
            }
        }
    }

    /// <summary>A pattern laid at a place.</summary>
    private sealed record Laying(Field Field, Pattern Pattern, Factor Factor, int Start, int First, bool[] NotHeard)
    {
        public Laid At(int index) => new(Field.Strokes[index], Factor.Unscale(Field.At[index] - Start));

        public Laying Without(int stroke) => this with { NotHeard = [.. NotHeard[..stroke], .. NotHeard[(stroke + 1)..]] };
    }

    /// <param name="optional">By pattern stroke: it may be missing.</param>
    /// <param name="count">How many are required.</param>
    /// <param name="onCrash">The pattern stroke that falls on a crash; -1 for none. Nothing of it is looked at.</param>
    private Candidate? Weigh(Laying laid, Laid[] window, int[]? indices, Pairing pairing, bool[] optional, int count, int onCrash)
    {
        var (field, pattern, factor, start, first, notHeard) = laid;
        var limit = Limit(count);
        var (cost, required, edits, missing, unheard, substituted, inPlace, moved) = (0, 0, 0, 0, 0, 0, 0, 0);
        var (allowedDifference, handsNotKnown) = (false, false);
        for (var p = 0; p < pattern.Strokes.Length; p++)
        {
            if (pairing.Partners[p] < 0)
            {
                if (optional[p]) continue;
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
            if (!pattern.Optional[p] && StandsInItsPlace(pattern.Strokes[p].Stroke, window[pairing.Partners[p]].Stroke,
                difference)) inPlace++;
            handsNotKnown |= p != onCrash && rules.Facets.Sticking == FacetRule.Must && pattern.Strokes[p].Stroke.Side is not null
                && window[pairing.Partners[p]].Stroke.Side is null;
        }
        if (pattern.Transform == Transform.Substituted && (substituted == 0 || substituted * 2 > count)) return null;
        if (unheard * 2 > count) return null;
        var breaks = rules.Facets.Voicing == VoicingRule.Contour ? Contour.Breaks(pattern.Strokes, window, pairing.Partners) : [];
        cost += breaks.Count + pairing.Extras * Difference.Extra;
        required += breaks.Count + pairing.Extras;
        edits += breaks.Count + pairing.Extras;

        var elided = missing > 0 && required == 0 && IsElided(pattern, pairing, notHeard, optional) && count - missing >= (count + 1) / 2;
        var elisionAllowed = elided && missing <= rules.Elision;
        var extended = pairing.Extras > 0 && pairing.Extras == required && missing == 0 && IsExtended(pattern, window, pairing);
        var levels = LevelsOf(laid, pairing, window);
        if (levels is not null)
        {
            edits++;
            allowedDifference = true;
            if (rules.Levels == LevelRule.Must) required++;
        }
        var failing = required + (elisionAllowed ? 0 : missing);
        var (placement, pulse) = PlacementOf(field.Passage, pattern, start);

        Verdict verdict;
        if (failing == 0 && placement)
        {
            var plain = !allowedDifference && cost == 0 && unheard == 0 && !handsNotKnown && factor == Factor.One
                && pattern.Transform == Transform.None;
            verdict = plain ? Verdict.Exact : Verdict.Variant;
        }
        else
        {
            if (!placement && failing > 0) return null;
            if (cost > limit) return null;
            if (count <= 4 && missing > 0 && !elisionAllowed) return null;
            if ((inPlace + unheard) * 3 < count * 2) return null;
            if (factor != Factor.One && missing + pairing.Extras + moved > 0) return null;
            if (!MarksAgree(pattern, window, pairing, onCrash)) return null;
            verdict = Verdict.NearMiss;
        }
        return new(pattern, factor, start, pairing)
        {
            First = first,
            Indices = indices,
            LevelsDiffer = levels,
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

    /// <summary>Not moved, not substituted, and of its own family or another that the rules allow; a hand against a foot can be
    /// either.</summary>
    private static bool StandsInItsPlace(Stroke own, Stroke other, Difference difference) =>
        !difference.Moved && difference.Voicing != VoicingDifference.Substituted
        && (difference.Voicing is VoicingDifference.Allowed or VoicingDifference.EndsOnCrash || own.Voice.Family == other.Voice.Family);

    private static bool[] NotHeard(Field field, Pattern pattern, Factor factor, int start)
    {
        var notHeard = new bool[pattern.Strokes.Length];
        if (field.Passage.Unheard.Count == 0) return notHeard;
        for (var p = 0; p < notHeard.Length; p++)
            notHeard[p] = !pattern.Optional[p] && field.IsUnheard(start + factor.ScaleUp(pattern.Strokes[p].At),
                pattern.Strokes[p].Stroke.Voice);
        return notHeard;
    }

    /// <summary>All that is missing comes before all that is there.</summary>
    private static bool IsElided(Pattern pattern, Pairing pairing, bool[] notHeard, bool[] optional)
    {
        var firstThere = long.MaxValue;
        for (var p = 0; p < pattern.Strokes.Length; p++)
        {
            if (pairing.Partners[p] >= 0) firstThere = Math.Min(firstThere, pattern.Strokes[p].At);
            else if (!optional[p] && !notHeard[p] && pattern.Strokes[p].At >= firstThere) return false;
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
        var samePulse = inBar - passage.Meters.MeterOf(bar).PulseStart(inBar) == ownInBar - pattern.Exemplar.Meters.MeterOf(ownBar)
            .PulseStart(ownInBar);
        return (rules.Placement switch
        {
            PlacementRule.SamePlaceInTheBeat => samePulse,
            PlacementRule.SamePlaceInTheBar => inBar == ownInBar,
            _ => true,
        }, samePulse);
    }

    /// <summary>What the level does from the first to the last stroke, where it goes another way than in the exemplar; nothing where it
    /// agrees or is not looked at.</summary>
    private string? LevelsOf(Laying laid, Pairing pairing, Laid[] window)
    {
        if (rules.Levels == LevelRule.Ignore) return null;
        var paired = Enumerable.Range(0, pairing.Partners.Length).Where(p => pairing.Partners[p] >= 0).ToList();
        if (paired.Count == 0) return null;
        var (first, last, pattern) = (paired[0], paired[^1], laid.Pattern);
        var own = Way(pattern.Exemplar.LevelOf(pattern.Strokes[last].Stroke) - pattern.Exemplar.LevelOf(pattern.Strokes[first].Stroke));
        var here = Way(laid.Field.Passage.LevelOf(window[pairing.Partners[last]].Stroke) - laid.Field.Passage.LevelOf(
            window[pairing.Partners[first]].Stroke));
        return own == here ? null : $"{here} here, {own} in the exemplar";

        static string Way(double steps) => steps > 1e-9 ? "growing" : steps < -1e-9 ? "fading" : "level";
    }

    /// <summary>Of the strokes marked in a facet that must agree, at least half do; for openness and ornaments it is enough that they are
    /// marked.</summary>
    private bool MarksAgree(Pattern pattern, Laid[] window, Pairing pairing, int onCrash)
    {
        return Half(rules.Facets.Dynamics, s => s.Dynamic != Dynamic.Normal, (own, other) => own.Dynamic == other.Dynamic)
            && Half(rules.Facets.Openness, s => s.Openness is Openness.Loose or Openness.Open, (_, other) =>
                other.Openness is Openness.Loose or Openness.Open)
            && Half(rules.Facets.Ornaments, s => s.Ornaments != Ornaments.None, (_, other) => other.Ornaments != Ornaments.None)
            && Half(rules.Facets.Sticking, s => s.Side is not null, (own, other) => other.Side is null || own.Side == other.Side);

        bool Half(FacetRule rule, Func<Stroke, bool> isMarked, Func<Stroke, Stroke, bool> agrees)
        {
            if (rule != FacetRule.Must) return true;
            var (marked, agreeing) = (0, 0);
            for (var p = 0; p < pattern.Strokes.Length; p++)
            {
                var own = pattern.Strokes[p].Stroke;
                if (pattern.Optional[p] || p == onCrash || !isMarked(own)) continue;
                marked++;
                if (pairing.Partners[p] >= 0 && agrees(own, window[pairing.Partners[p]].Stroke)) agreeing++;
            }
            return agreeing * 2 >= marked;
        }
    }
}
