using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <summary>All that the ear hears of a sound, laid on the grid of its bars: not what was played, but enough to see what comes
/// back.</summary>
public static class HeardPassage
{
    /// <param name="heard">In order of time.</param>
    /// <returns>Every bar of the sound; toms are any tom, hats neither open nor closed.</returns>
    public static Passage Of(SoundBars bars, IReadOnlyList<HeardStroke> heard)
    {
        var grid = HeardGrid.Of(bars, heard, [.. Enumerable.Range(0, bars.Count)]);
        return new(bars.Meters, bars.Count, Passage.InOrder([.. Enumerable.Range(0, bars.Count).SelectMany(bar => grid.StruckIn(bar)
            .Select(s => new Stroke(bars.StartOf(bar) + new Tick(s.Tick), s.Voice)))]));
    }
}
