using System.Collections.Immutable;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>The strokes of an idea from its first one on, in 12ths of a tick, ready to be laid against a passage.</summary>
internal sealed class Pattern
{
    private Pattern(Laid[] strokes, Tick[] written, long span, Transform transform, Passage exemplar, Tick start)
    {
        (Strokes, Written, Span, Transform, Exemplar, Start) = (strokes, written, span, transform, exemplar, start);
        Optional = [.. strokes.Select(s => s.Stroke.Optional)];
        Required = Optional.Count(o => !o);
        Ending = strokes.Where((_, i) => !Optional[i]).Select(s => s.At).DefaultIfEmpty(-1).Last();
        var moments = new List<(long At, int First, int Count)>();
        for (var i = 0; i < strokes.Length; i++)
        {
            if (moments.Count > 0 && moments[^1].At == strokes[i].At) moments[^1] = moments[^1] with { Count = moments[^1].Count + 1 };
            else moments.Add((strokes[i].At, i, 1));
        }
        Moments = [.. moments];
    }

    /// <summary>By time, then in canonical voice order.</summary>
    public Laid[] Strokes { get; }
    /// <summary>Where each stroke stands in the exemplar.</summary>
    public Tick[] Written { get; }
    public bool[] Optional { get; }
    /// <summary>How many strokes are not optional.</summary>
    public int Required { get; }
    /// <summary>Where the last required stroke stands, in 12ths of a tick from the first stroke.</summary>
    public long Ending { get; }
    public (long At, int First, int Count)[] Moments { get; }
    /// <summary>In 12ths of a tick from the first stroke.</summary>
    public long Span { get; }
    public Transform Transform { get; }
    public Passage Exemplar { get; }
    /// <summary>Where the first stroke sounds in the exemplar.</summary>
    public Tick Start { get; }

    /// <summary>The idea as it is written; nothing when no stroke is left in its scope.</summary>
    public static Pattern? Of(Idea idea, ImmutableHashSet<Voice> scope)
    {
        var sounding = idea.Exemplar.Strokes
            .Where(s => scope.Contains(s.Voice) && idea.Rules.Sees(s))
            .Select(s => (Stroke: s, At: idea.Rules.Swing == SwingRule.AsSounding ? Swing.Sounding(s.At, idea.Exemplar) : s.At))
            .OrderBy(s => s.At.Value).ThenBy(s => s.Stroke.Voice.Order).ToList();
        if (sounding.Count == 0) return null;
        var start = sounding[0].At;
        var span = idea.Span ?? EndOfBeat(sounding[^1].At, idea.Exemplar) - start;
        var inside = sounding.Where(s => s.At - start < span).ToList();
        if (inside.Count == 0 || inside.All(s => s.Stroke.Optional)) return null;
        return new(
            [.. inside.Select(s => new Laid(s.Stroke, (long)(s.At - start).Value * Difference.Fine))], [.. inside.Select(s => s.Stroke.At)],
            (long)span.Value * Difference.Fine, Transform.None, idea.Exemplar, start);
    }

    public Pattern As(Transform transform) => transform switch
    {
        Transform.Mirrored => new([.. Strokes.Select(Mirror)], Written, Span, transform, Exemplar, Start),
        Transform.Reversed => Reverse(),
        Transform.Substituted => new(Strokes, Written, Span, transform, Exemplar, Start),
        _ => this,
    };

    private static Laid Mirror(Laid laid) => laid.Stroke.Side is not { } side ? laid
        : laid with { Stroke = laid.Stroke with { Side = side == Side.Right ? Side.Left : Side.Right } };

    private Pattern Reverse()
    {
        var last = Strokes[^1].At;
        var turned = Strokes.Select((s, i) => (Laid: s with { At = last - s.At }, Written: Written[i]))
            .OrderBy(s => s.Laid.At).ThenBy(s => s.Laid.Stroke.Voice.Order).ToList();
        return new([.. turned.Select(t => t.Laid)], [.. turned.Select(t => t.Written)], Span, Transform.Reversed, Exemplar, Start);
    }

    private static Tick EndOfBeat(Tick at, Passage exemplar)
    {
        var (bar, inBar) = exemplar.Meters.Locate(at);
        var beat = exemplar.Meters.MeterOf(bar).Beat;
        return exemplar.Meters.StartOf(bar) + new Tick((inBar.Value / beat.Value + 1) * beat.Value);
    }
}
