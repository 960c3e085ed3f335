using InnerCadence.Core.Music;

namespace InnerCadence.Core.Practice;

/// <summary>A figure written out for practice, with what its text has besides the strokes left as it is.</summary>
public static class Rounds
{
    /// <summary>Twice as slow, so that it can be heard against itself at one tempo.</summary>
    public static Passage HalfSpeed(Passage figure) => figure with
    {
        Bars = figure.Bars * 2,
        Strokes = [.. figure.Strokes.Select(s => s with { At = s.At * 2, Length = s.Length * 2 })
            .Where(s => s.At < figure.Meters.StartOf(figure.Bars * 2))],
        Levels = figure.Levels.Stretched(2),
        Unheard = [],
    };

    /// <summary>Round after round, silent where it drops out.</summary>
    public static Passage Of(Passage figure, IReadOnlyList<DrillRound> rounds) => figure with
    {
        Bars = figure.Bars * rounds.Count,
        Strokes = [.. rounds.Where(r => r.Sounds).SelectMany(r =>
            figure.Strokes.Select(s => s with { At = s.At + figure.Length * (r.Number - 1) }))],
        Levels = Levels.Joined([.. rounds.Select(_ => (figure.Levels, figure.Length))]),
        Unheard = [],
    };
}
