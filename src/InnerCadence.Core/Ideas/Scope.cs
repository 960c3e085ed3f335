using System.Collections.Immutable;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>The voices that belong to an idea; strokes of all others are invisible to it.</summary>
public static class Scope
{
    /// <summary>The scope of an idea that names none (ideas.md, "Scope").</summary>
    public static ImmutableHashSet<Voice> Of(Passage exemplar, Rules rules)
    {
        var own = exemplar.Strokes.Where(s => rules.Echoes == EchoRule.Count || !s.Echo).Select(s => s.Voice).ToImmutableHashSet();
        bool Joins(Voice voice) =>
            own.Contains(voice)
            || (voice.Family == Family.Tom && own.Any(v => v.Family == Family.Tom))
            || (voice == Voice.Cymbal && own.Any(v => v.Family == Family.Crash))
            || (voice.Family == Family.Crash && own.Contains(Voice.Cymbal))
            || (voice == Voice.Kick && rules.Allows(Transform.Substituted))
            || rules.Facets.Voicing switch
            {
                VoicingRule.Family or VoicingRule.Contour => own.Any(v => v.Family == voice.Family && v.Limbs == voice.Limbs),
                VoicingRule.HandOrFoot or VoicingRule.Any => true,
                _ => false,
            };
        bool KeepsTime(Voice voice) => (voice == Voice.HatFoot || voice == Voice.Ensemble) && !own.Contains(voice);
        var ownInstruments = Enumerable.Range(1, 8).Select(n => Voice.Own(n, "", Family.Tom, false))
            .Where(v => rules.Facets.Voicing == VoicingRule.Any);
        return [.. Voice.All.Concat(own).Concat(ownInstruments).Where(v => Joins(v) && !KeepsTime(v))];
    }
}
