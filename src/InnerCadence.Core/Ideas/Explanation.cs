using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>Says in words why a window is a sighting and how it differs from the exemplar (ideas.md, "Explanation").</summary>
internal sealed class Explanation
{
    private readonly Candidate found;
    private readonly Field field;
    private readonly Tick writtenStart;
    private readonly List<Edit> edits = [];

    private Explanation(Candidate found, Field field)
    {
        (this.found, this.field) = (found, field);
        var moment = field.MomentAt(found.Start);
        writtenStart = moment < field.MomentTicks.Length && field.MomentTicks[moment] == found.Start
            ? field.Strokes[field.MomentFirsts[moment]].At : new(found.Start);
    }

    public static Sighting Of(Candidate found, Field field)
    {
        var explanation = new Explanation(found, field);
        explanation.Tell();
        return new(
            explanation.writtenStart, explanation.writtenStart + new Tick(found.Factor.ScaleUp(found.Pattern.Span)), found.Factor,
                found.Verdict, found.Cost,
            found.Taken.Count(i => field.Strokes[i].Unsure), explanation.Transforms,
                [.. explanation.edits.DistinctBy(e => (e.Kind, e.Text))],
            explanation.Summary());
    }

    private ValueList<string> Transforms
    {
        get
        {
            var names = new List<string>();
            if (found.Pattern.Transform != Transform.None) names.Add(found.Pattern.Transform.ToString().ToLowerInvariant());
            if (found.Elided) names.Add("elided");
            if (found.Extended) names.Add("extended");
            return names.ToValueList();
        }
    }

    private void Tell()
    {
        for (var p = 0; p < found.Pattern.Strokes.Length; p++)
        {
            if (found.Pairing.Partners[p] >= 0) TellPair(p, field.Strokes[found.IndexOf(found.Pairing.Partners[p])]);
            else if (found.NotHeard[p]) Add("not-heard", p, null, $"{VoiceOf(p).Name} not heard in bar {BarOf(PlaceOf(p)) + 1}");
            else if (!found.Pattern.Optional[p] && !IsKickUnderACrash(p)) Add("missing", p, null, Missing(p));
        }
        for (var q = 0; q < found.Pairing.Extras + found.Pairing.Partners.Count(q => q >= 0); q++)
        {
            if (found.Pairing.Partners.Contains(q)) continue;
            var stroke = field.Strokes[found.IndexOf(q)];
            edits.Add(new("extra", null, stroke.At, stroke.Voice,
                Unsure(stroke, $"one {stroke.Voice.Name} stroke more, on {Spoken(stroke.At)}")));
        }
        if (found.LevelsDiffer is not { } levels) return;
        var last = Array.FindLastIndex(found.Pairing.Partners, q => q >= 0);
        Add("levels", last, field.Strokes[found.IndexOf(found.Pairing.Partners[last])], levels);
    }

    private bool IsKickUnderACrash(int p) =>
        found.Pattern.Strokes[p].Stroke.Voice == Voice.Kick && found.Pattern.Strokes[p].At == found.Pattern.Ending
        && found.Pairing.Partners.Where((q, i) => q >= 0 && found.Pairing.Differences[i].Voicing == VoicingDifference.EndsOnCrash).Any();

    private void TellPair(int p, Stroke there)
    {
        var difference = found.Pairing.Differences[p];
        var own = found.Pattern.Strokes[p].Stroke;
        var place = Spoken(there.At);
        if (difference.Moved)
        {
            var by = found.Factor.Unscale(field.At[found.IndexOf(found.Pairing.Partners[p])] - found.Start) - found.Pattern.Strokes[p].At;
            var length = CountNames.Length(new((int)Math.Abs(by / Difference.Fine)));
            Add("moved", p, there, $"{Which(p)} comes {length} {(by < 0 ? "early" : "late")} ({place}, exemplar: {OwnPlace(p)})");
        }
        if (difference.Voicing == VoicingDifference.NotKnown)
            Add("not-known", p, there, $"which {(there.Voice.Family == Family.Tom ? "tom" : "cymbal")} is not known, on {place}");
        else if (difference.Voicing == VoicingDifference.EndsOnCrash)
            Add("ending", p, there, "ends on the crash");
        else if (difference.Voicing != VoicingDifference.None)
            Add("voicing", p, there, $"{there.Voice.Name} for {own.Voice.Name} on {place}");
        if (found.ContourBreaks.Contains(p)) Add("contour", p, there, $"the toms turn another way at the {there.Voice.Name} on {place}");
        if (difference.Sticking) Add("sticking", p, there, $"{Hand(there)} for {Hand(own)} on {place}");
        if (difference.Dynamics) Add("dynamics", p, there, $"{there.Voice.Name} on {place} {Loudness(there)}, exemplar {Loudness(own)}");
        if (difference.Openness) Add("openness", p, there, $"hat on {place} {Word(there.Openness)}, exemplar {Word(own.Openness)}");
        if (difference.Ornaments) Add("ornaments", p, there, $"{there.Voice.Name} on {place} {Ornament(there)}, exemplar {Ornament(own)}");
    }

    private void Add(string kind, int p, Stroke? there, string text) =>
        edits.Add(new(kind, found.Pattern.Written[p], there?.At, there?.Voice ?? VoiceOf(p), there is null ? text : Unsure(there, text)));

    private static string Unsure(Stroke stroke, string text) => stroke.Unsure ? text + ", unsure" : text;

    private string Summary()
    {
        var parts = new List<string>();
        var (bar, inBar) = field.Passage.Meters.Locate(writtenStart);
        var (_, ownInBar) = found.Pattern.Exemplar.Meters.Locate(found.Pattern.Written.Min() is var first ? first : Tick.Zero);
        if (inBar != ownInBar)
        {
            var by = inBar - ownInBar;
            var start = CountNames.Spoken(inBar, field.Passage.Meters.MeterOf(bar));
            var length = CountNames.Length(new(Math.Abs(by.Value)));
            parts.Add(found.PlacementHolds
                ? $"starts on {start}, {length} {(by > Tick.Zero ? "later" : "earlier")} than the exemplar"
                : $"starts on {start}, but its place is {OwnStart()}");
        }
        if (found.Factor != Factor.One) parts.Add($"gaps {found.Factor} as long");
        parts.AddRange(found.Pattern.Transform switch
        {
            Transform.Mirrored => ["sticking mirrored"],
            Transform.Reversed => ["strokes in opposite order"],
            _ => Array.Empty<string>(),
        });
        if (found.NotHeard.Contains(true)) parts.Add("partly not heard");
        if (found.HandsNotKnown) parts.Add("hands not known");
        var texts = edits.Where(e => e.Kind != "not-heard").Select(e => e.Text).Distinct().ToList();
        parts.AddRange(texts.Take(3));
        if (texts.Count > 3) parts.Add(
            $"and {CountNames.Number(texts.Count - 3)} more {(texts.Count == 4 ? "difference" : "differences")}");
        return parts.Count == 0 ? "no difference" : string.Join("; ", parts);
    }

    private string OwnStart()
    {
        var (bar, inBar) = found.Pattern.Exemplar.Meters.Locate(found.Pattern.Start);
        return CountNames.Spoken(inBar, found.Pattern.Exemplar.Meters.MeterOf(bar));
    }

    private Voice VoiceOf(int p) => found.Pattern.Strokes[p].Stroke.Voice;

    private string Which(int p)
    {
        var strokes = found.Pattern.Strokes;
        if (p == 0 && (strokes.Length == 1 || strokes[1].At > 0)) return "first stroke";
        if (p == strokes.Length - 1 && strokes[p - 1].At < strokes[p].At) return "last stroke";
        return $"{VoiceOf(p).Name} stroke";
    }

    private string Missing(int p) => Which(p) is "first stroke" or "last stroke"
        ? $"{Which(p)} missing ({VoiceOf(p).Name} on {Spoken(PlaceOf(p))})"
        : $"{VoiceOf(p).Name} missing on {Spoken(PlaceOf(p))}";

    /// <summary>Where a stroke of the pattern would fall in the passage.</summary>
    private Tick PlaceOf(int p)
    {
        var at = found.Start + found.Factor.ScaleUp(found.Pattern.Strokes[p].At);
        return new(field.LoopLength > 0 ? at % field.LoopLength : at);
    }

    private int BarOf(Tick at) => field.Passage.Meters.Locate(at).Bar;

    private string Spoken(Tick at)
    {
        var (bar, inBar) = field.Passage.Meters.Locate(at);
        return CountNames.Spoken(inBar, field.Passage.Meters.MeterOf(bar));
    }

    private string OwnPlace(int p)
    {
        var (bar, inBar) = found.Pattern.Exemplar.Meters.Locate(found.Pattern.Written[p]);
        return CountNames.Spoken(inBar, found.Pattern.Exemplar.Meters.MeterOf(bar));
    }

    private static string Hand(Stroke stroke) => (stroke.Side == Side.Right ? "right " : "left ") + (stroke.Voice.IsFoot ? "foot" : "hand");

    private static string Loudness(Stroke stroke) =>
        stroke.Dynamic switch { Dynamic.Ghost => "ghosted", Dynamic.Accent => "accented", _ => "plain" };

    private static string Word(Openness? openness) => (openness ?? Openness.Closed).ToString().ToLowerInvariant();

    private static string Ornament(Stroke stroke) => stroke.Ornaments == Ornaments.None ? "plain" : "with " + stroke.Ornaments.ToString()
        .ToLowerInvariant();
}
