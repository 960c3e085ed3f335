using InnerCadence.Core.Music;

namespace InnerCadence.Web.Pages.Practice;

/// <summary>A figure written out twice as slow, so that it can be heard against itself at one tempo.</summary>
public static class HalfSpeed
{
    public static Passage Of(Passage figure) => figure with
    {
        Bars = figure.Bars * 2,
        Strokes = [.. figure.Strokes.Where(s => s.At.Value * 2 < figure.Meters.StartOf(figure.Bars * 2).Value).Select(s => s with { At = new(s.At.Value * 2), Length = s.Length is { } l ? new Tick(l.Value * 2) : null })],
        Unheard = [],
    };
}
