using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Discovery;

/// <summary>One place of a cell, as it is told: its strokes, where it is counted, the span that holds it.</summary>
public sealed record ToldCell(Passage Passage, Occurrence At, CellFacets Facets)
{
    /// <summary>The count on which it starts, as it is spoken.</summary>
    public string Count
    {
        get
        {
            var (bar, inBar) = Passage.Meters.Locate(At.Start);
            return CountNames.Spoken(inBar, Passage.Meters.MeterOf(bar));
        }
    }

    /// <summary>Bar of the passage, from 0, in which it starts.</summary>
    public int Bar => Passage.Meters.Locate(At.Start).Bar;

    /// <summary>Its span as it is cut out of a passage, bar.count; it ends with the next sixteenth after its last moment, or with the
    /// passage.</summary>
    public (string From, string To) Span
    {
        get
        {
            var end = At.End + new Tick(Tick.PerQuarter / 4);
            return (Place(At.Start), end >= Passage.Length ? "end" : Place(end));
        }
    }

    /// <summary>As count lines. A cell over the join of a loop stands in one row: its bars, then those of the next time round.</summary>
    public string Text
    {
        get
        {
            var bars = Passage.Looped ? Passage.Bars * 2 : Passage.Bars;
            var alone = Passage with { Bars = bars, Strokes = Passage.InOrder(Strokes), Looped = false, Unheard = [] };
            return CountWriter.Write(Excerpt.Cut(alone, At.Start, At.End + new Tick(1)));
        }
    }

    /// <summary>The same for the same cell under the same facets, whenever and wherever it is found.</summary>
    public string Key
    {
        get
        {
            var strokes = Strokes.ToList();
            var unit = Facets.Proportional ? strokes.Select(s => (s.At - At.Start).Value).Where(t => t > 0).DefaultIfEmpty(1)
                .Aggregate(Common) : 1;
            return $"{Facets.Voicing} {(Facets.Proportional ? "ratio" : "ticks")}: "
                + string.Join(' ', strokes.Select(s => $"{(s.At - At.Start).Value / unit}{SignOf(s.Voice)}"));
        }
    }

    private IEnumerable<Stroke> Strokes =>
        Passage.Strokes.Concat(Passage.Looped ? Passage.Strokes.Select(s => s with { At = s.At + Passage.Length }) : [])
            .Where(s => s.At >= At.Start && s.At <= At.End && Facets.Families.Contains(s.Voice.Family));

    private string SignOf(Voice voice) => Facets.Voicing switch
    {
        VoicingRule.Drum => voice.Code,
        VoicingRule.Family => voice.Family.ToString(),
        VoicingRule.HandOrFoot => voice.IsFoot ? "f" : "h",
        _ => "",
    };

    private string Place(Tick at)
    {
        var (bar, inBar) = Passage.Meters.Locate(at);
        var meter = Passage.Meters.MeterOf(bar);
        return CountNames.Place(inBar, meter) is { } place ? $"{bar + 1}.{place}" : $"{bar + 1}.{inBar.Value / meter.Beat.Value + 1}";
    }

    private static int Common(int a, int b) => b == 0 ? a : Common(b, a % b);
}
