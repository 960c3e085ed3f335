using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Hearing;

/// <param name="Found">Of the written strokes, how many the ear hears too.</param>
public readonly record struct AgreedVoice(Voice Voice, int Found, int Written);

/// <summary>A stroke that is only written, or only heard.</summary>
/// <param name="IsHeard">Heard and not written: a ridge without a bead. Else a bead without a ridge.</param>
/// <param name="At">On the record.</param>
/// <param name="Strength">How sure the ear is that it is there, 0 to 1; 0 for what it does not hear.</param>
public sealed record UnmatchedStroke(bool IsHeard, Stroke Stroke, Seconds At, double Strength)
{
    /// <summary>Below that it may as well be another drum's sound.</summary>
    private const double Clearly = 0.8;

    public bool IsClear => Strength >= Clearly;
}

/// <summary>What is written of a place against what the ear hears there: how far it can be trusted on this record.</summary>
/// <param name="Ghosts">The softest strokes on their own, since they are missed most.</param>
/// <param name="Extra">Heard and not written.</param>
public sealed record EarAgreement(ValueList<AgreedVoice> Voices, (int Found, int Written) Ghosts, int Extra,
    ValueList<UnmatchedStroke> Differences)
{
    /// <summary>Strokes that are farther apart are two.</summary>
    private static readonly Seconds Same = Seconds.OfMilliseconds(50);

    /// <param name="laid">Where the passage's bars lie on the record.</param>
    /// <param name="heard">In order of time, with seconds of the record.</param>
    public static EarAgreement Of(Passage written, LaidBars laid, IReadOnlyList<HeardStroke> heard)
    {
        var here = heard.Where(h => h.At > laid.Start - Same && h.At < laid.End - Same).ToList();
        var left = here.ToHashSet();
        var (differences, found, played) = (new List<UnmatchedStroke>(), new HashSet<Stroke>(), written.Strokes.Where(s => !s.Echo)
            .ToList());
        foreach (var stroke in played)
        {
            var at = laid.At(Swing.Played(stroke.At, written));
            var near = left.Where(h => h.Family == stroke.Voice.Family && Math.Abs(h.At - at) < Same).MinBy(h => Math.Abs(h.At - at));
            if (near is null) differences.Add(new(false, stroke, at, 0));
            else
            {
                left.Remove(near);
                found.Add(stroke);
            }
            // Its grace strokes are no strokes of their own.
            if (stroke.Ornaments != Ornaments.None) left.RemoveWhere(h => h.Family == (stroke.Grace ?? stroke.Voice).Family && h.At < at
                + Same && at - h.At < 2 * Same.Value);
        }
        var extra = Placed(written, laid, [.. here.Where(left.Contains)]);
        differences.AddRange(extra);
        return new([.. played.GroupBy(s => s.Voice).OrderBy(g => g.Key)
            .Select(g => new AgreedVoice(g.Key, g.Count(found.Contains), g.Count()))],
            (played.Count(s => s.Dynamic == Dynamic.Ghost && found.Contains(s)), played.Count(s => s.Dynamic == Dynamic.Ghost)),
                extra.Count,
            [.. differences.OrderBy(d => d.At.Value).ThenBy(d => d.Stroke.Voice)]);
    }

    /// <summary>Each on the place that it would be written on: as if the record kept even time.</summary>
    private static List<UnmatchedStroke> Placed(Passage written, LaidBars laid, IReadOnlyList<HeardStroke> extra)
    {
        if (extra.Count == 0) return [];
        var proposed = Transcript.Propose(extra, laid, written);
        var there = written.Strokes.Select(s => (s.At, s.Voice)).ToHashSet();
        return [.. proposed.Strokes.Where(s => !there.Contains((s.At, s.Voice))).Select(s =>
        {
            var at = laid.At(Swing.Played(s.At, written));
            return new UnmatchedStroke(true, s, at, extra.Where(h => h.Family == s.Voice.Family)
                .MinBy(h => Math.Abs(h.At - at))?.Strength ?? 0.5);
        })];
    }
}
