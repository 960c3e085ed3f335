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

    /// <summary>The tempo that is heard, where nobody told one; nothing where none is.</summary>
    public Bpm? Likeliest { get; init; }

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

    /// <summary>Where a passage's bar lines fall: as its bars are marked; where it has only a clock time, from there on as the marks or the
    /// heard beats go, where they go at its tempo; else at that tempo.</summary>
    /// <param name="told">Tempo of a passage that names none.</param>
    /// <returns>Nothing where the passage has no bar yet, or nothing says where or how fast they go.</returns>
    public PassageClock? ClockOf(Passage passage, int? bar, ClockTime? start, Bpm? told)
    {
        var clock = PassageClock.Of(Map, passage, bar, start, told ?? Likeliest);
        if (clock is not { By: LinesBy.Tempo } || passage.TempoChanges.Count > 0
            || Bpm.Of(clock.TempoOver(passage.Length)) is not { } tempo) return clock;
        double[] quarters = [.. Enumerable.Range(0, passage.Bars + 1).Select(b => Quarters(passage.Meters.StartOf(b)))];
        if (ByMarks(start!.Value, tempo) is { } marked) return clock.Along([.. quarters.Select(marked)], LinesBy.Marks);
        return ByBeats(clock.Start, tempo, quarters[^1]) is { } heard ? clock.Along([.. quarters.Select(heard)], LinesBy.Beats) : clock;
    }

    private static double Quarters(Tick at) => (double)at.Value / Tick.PerQuarter;

    /// <summary>When so many quarters from a start on are over, by the marks; nothing where they go at another tempo.</summary>
    private Func<double, Seconds>? ByMarks(ClockTime start, Bpm tempo)
    {
        if (Map is not { } map) return null;
        var place = map.PlaceOf(start);
        var off = Seconds.OfMilliseconds(start.Milliseconds) - map.SecondsOf(place);
        return HeardPace.Goes(map.TempoAt(place.Bar) / tempo.Value)
            ? quarters => map.SecondsOf(place with { InBar = place.InBar + quarters }) + off : null;
    }

    /// <summary>The same by the beats that are heard.</summary>
    private Func<double, Seconds>? ByBeats(Seconds start, Bpm tempo, double quarters)
    {
        var (earliest, latest) = (start - tempo.SecondsPerQuarter * Around, start + tempo.SecondsPerQuarter * (quarters + Around));
        Seconds[] near = [.. Beats.Select(b => b.At).Where(at => at >= earliest && at <= latest)];
        if (HeardPace.Of(near, tempo) is not { } pace) return null;
        var first = pace.QuartersAt(start);
        return from => pace.At(first + from);
    }

    private LaidBars? Marked(HeardStretch stretch, int bars)
    {
        if (Map is null) return null;
        var first = Map.PlaceOf(stretch.Start);
        return LaidAt(stretch, bars, b => Map.SecondsOf(first with { Bar = first.Bar + b }));
    }

    private LaidBars? Heard(HeardStretch stretch, int bars)
    {
        var quarters = Quarters(stretch.Meters.StartOf(bars));
        return ByBeats(Seconds.OfMilliseconds(stretch.Start.Milliseconds), stretch.Tempo, quarters) is { } heard
            ? LaidAt(stretch, bars, b => heard(Quarters(stretch.Meters.StartOf(b)))) : null;
    }

    private static LaidBars LaidAt(HeardStretch stretch, int bars, Func<int, Seconds> line) =>
        new([.. Enumerable.Range(0, bars + 1).Select(line)], new Passage(stretch.Meters, bars, []));
}
