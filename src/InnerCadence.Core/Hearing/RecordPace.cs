using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Hearing;

/// <summary>How a record's time goes: by the bars that are marked, and by the beats that the ear hears.</summary>
/// <param name="Map">Nothing where no bars are marked.</param>
/// <param name="Beats">In order; none where nothing was heard yet.</param>
/// <remarks>sound.md, "A proposal".</remarks>
public sealed record RecordPace(TempoMap? Map, ValueList<HeardBeat> Beats)
{
    public static RecordPace Unknown { get; } = new(null, []);

    /// <summary>How much better one way to lay the bars fits what is struck than another before it stands.</summary>
    internal const double Clearly = 1.3;

    /// <summary>Heard beats before and after the bars that say how they go, in quarters.</summary>
    private const double Around = 4;

    /// <summary>The bars of a stretch on the record's clock: as the heard beats go, where they go at its tempo; as they are marked, unless
    /// the heard beats fit what is struck clearly better; else at an even pace.</summary>
    public LaidBars Laid(HeardStretch stretch, IReadOnlyList<HeardStroke> strokes, int bars)
    {
        var (marked, heard) = (Marked(stretch, bars), Heard(stretch, bars));
        if (marked is not null && heard is not null)
            return Phase.Fit(strokes, heard) > Clearly * Phase.Fit(strokes, marked) ? heard : marked;
        return heard ?? marked
            ?? LaidBars.AtEvenPace(Seconds.OfMilliseconds(stretch.Start.Milliseconds), stretch.Tempo, stretch.Meters, bars);
    }

    private LaidBars? Marked(HeardStretch stretch, int bars)
    {
        if (Map is null) return null;
        var first = Map.PlaceOf(stretch.Start);
        return LaidAt(stretch, bars, b => Map.SecondsOf(first with { Bar = first.Bar + b }));
    }

    private LaidBars? Heard(HeardStretch stretch, int bars)
    {
        var (from, quarter) = (Seconds.OfMilliseconds(stretch.Start.Milliseconds), stretch.Tempo.SecondsPerQuarter);
        var (earliest, latest) = (from - quarter * Around, from + stretch.Tempo.SecondsOf(stretch.Meters.StartOf(bars)) + quarter * Around);
        Seconds[] near = [.. Beats.Select(b => b.At).Where(at => at >= earliest && at <= latest)];
        if (HeardPace.Of(near, stretch.Tempo) is not { } pace) return null;
        var first = pace.QuartersAt(from);
        return LaidAt(stretch, bars, b => pace.At(first + (double)stretch.Meters.StartOf(b).Value / Tick.PerQuarter));
    }

    private static LaidBars LaidAt(HeardStretch stretch, int bars, Func<int, Seconds> line) =>
        new([.. Enumerable.Range(0, bars + 1).Select(line)], new Passage(stretch.Meters, bars, []));
}
