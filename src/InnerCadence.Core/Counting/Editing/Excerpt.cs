using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Editing;

/// <summary>Cuts a span out of a passage, with its bars and places kept.</summary>
public static class Excerpt
{
    /// <summary>
    /// The bars that the span touches with only its strokes in them. The first stroke keeps its place in the bar, so that an idea still
    /// knows it.
    /// A stroke of a looped passage is cut as written; the cut does not loop.
    /// </summary>
    /// <exception cref="ArgumentException">The span is empty or not inside the passage.</exception>
    public static Passage Cut(Passage passage, Tick from, Tick to)
    {
        if (from < Tick.Zero || to <= from || to > passage.Length) throw new ArgumentException(
            $"{from} to {to} is no span of a passage of {passage.Length} ticks.");
        var first = passage.Meters.Locate(from).Bar;
        var last = passage.Meters.Locate(to - new Tick(1)).Bar;
        var (start, end) = (passage.Meters.StartOf(first), passage.Meters.StartOf(last + 1));
        var meters = Enumerable.Range(first, last - first + 1).Select(passage.Meters.MeterOf).ToArray();
        return new Passage(
            new([.. meters.Distinct().Count() == 1 ? meters[..1] : meters]), last - first + 1,
            [.. passage.Strokes.Where(s => s.At >= from && s.At < to).Select(s => s with { At = s.At - start })])
        {
            Tempo = passage.Tempos.Where(t => t.At <= start).Select(t => (Bpm?)t.Tempo).LastOrDefault(),
            TempoChanges = [.. passage.TempoChanges.Where(t => t.At > start && t.At < end).Select(t => t with { At = t.At - start })],
            Levels = passage.Levels.Cut(start, end),
            Feel = passage.Feel,
            Hands = passage.Hands,
            Unheard = [.. passage.Unheard.Where(u => u.Bar >= first && u.Bar <= last).Select(u => (u.Bar - first, u.Voice))],
        };
    }

    /// <summary>A place told as bar and count, 2.3&amp;; without a bar it is in the first. Nothing where the passage has no such
    /// place.</summary>
    public static Tick? Place(Passage passage, string text)
    {
        var parts = text.Trim().Split('.', 2);
        var bar = 1;
        if (parts.Length == 2 && !int.TryParse(parts[0], out bar)) return null;
        if (bar < 1 || bar > Math.Max(1, passage.Bars)) return null;
        return TokenReader.WholePlace(parts[^1].Trim())?.In(passage.Meters.MeterOf(bar - 1), CountSchool.Standard) is { } at
            ? passage.Meters.StartOf(bar - 1) + at : null;
    }
}
