using InnerCadence.Core.Hearing;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <summary>The strokes of an idea at one rate, as they are looked for in a sound.</summary>
internal sealed record Figure(Figure.Wanted[] Strokes, Tick Span)
{
    /// <param name="At">From the first stroke, at the rate.</param>
    /// <param name="Written">Where it stands in the exemplar.</param>
    internal readonly record struct Wanted(Tick At, Tick Written, Stroke Stroke, bool Optional, bool MayBeCrash)
    {
        public Voice Voice => Stroke.Voice;

        /// <summary>1 for what it is, less for what the rules or the ear may take for it, 0 for anything else.</summary>
        public double Likeness(HeardStroke heard, Rules rules)
        {
            const double OtherOfFamily = 0.7;
            if (MayBeCrash && heard.Family == Family.Crash) return 1;
            return rules.Facets.Voicing switch
            {
                VoicingRule.Any => 1,
                VoicingRule.HandOrFoot => heard.Voice.IsFoot == Voice.IsFoot ? 1 : 0,
                VoicingRule.Family or VoicingRule.Contour => heard.Family == Voice.Family ? 1 : 0,
                _ => heard.Family != Voice.Family ? 0 : heard.Voice == Voice || Voice.Family is Family.Tom or Family.Crash ? 1
                    : OtherOfFamily,
            };
        }
    }

    /// <summary>Nothing where the rate puts a stroke on no tick.</summary>
    public static Figure? Of(Pattern pattern, Factor factor, Rules rules)
    {
        var strokes = new List<Wanted>();
        for (var i = 0; i < pattern.Strokes.Length; i++)
        {
            var laid = pattern.Strokes[i];
            if (factor.Scale(laid.At) is not { } at) return null;
            strokes.Add(new(new(at), pattern.Written[i], laid.Stroke, pattern.Optional[i],
                rules.Ending == EndingRule.CrashToo && laid.At == pattern.Ending));
        }
        return new([.. strokes], new(factor.ScaleUp(pattern.Span)));
    }
}
