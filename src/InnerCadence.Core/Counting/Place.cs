using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting;

/// <summary>The part of a beat that a spoken syllable names.</summary>
internal enum Sub { Beat, E, And, A, Trip, Let, Ti, Ta }

/// <summary>A place in a bar as it is counted: 3, 3&amp;, a bare &amp;, 3&amp;ti, 4a'.</summary>
/// <param name="Beat">From 1; nothing for a bare syllable, which belongs to the running beat.</param>
/// <param name="AfterAnd">ti and ta of the second half of the beat.</param>
/// <param name="Step">A step later: an eighth of the beat, never less than a 32nd note.</param>
internal readonly record struct Place(int? Beat, Sub Sub, bool AfterAnd, bool Step)
{
    public bool IsBare => Beat is null;
    /// <summary>Number and syllable in one: one stroke, and it may go back in the bar.</summary>
    public bool IsAddress => Beat is not null && (Sub != Sub.Beat || Step);

    /// <summary>Shortest note a step can be.</summary>
    private const int ThirtySecond = Tick.PerQuarter / 8;

    public static Tick StepOf(Meter meter) => new(Math.Max(meter.Beat.Value / 8, ThirtySecond));

    /// <summary>Distance from the beat's start, after count-lines.md "Counts".</summary>
    public Tick Offset(Meter meter, CountSchool school)
    {
        var beat = meter.Beat.Value;
        var offset = (Sub, school) switch
        {
            (Sub.And, CountSchool.Triplet) => beat / 3,
            (Sub.A, CountSchool.Triplet) => beat * 2 / 3,
            (Sub.E, _) => beat / 4,
            (Sub.And, _) => beat / 2,
            (Sub.A, _) => beat * 3 / 4,
            (Sub.Trip, _) => beat / 3,
            (Sub.Let, _) => beat * 2 / 3,
            (Sub.Ti, _) => beat / 6 + (AfterAnd ? beat / 2 : 0),
            (Sub.Ta, _) => beat / 3 + (AfterAnd ? beat / 2 : 0),
            _ => 0,
        };
        return new Tick(offset) + (Step ? StepOf(meter) : Tick.Zero);
    }

    /// <summary>How much later the second stroke of a doubled place comes.</summary>
    public Tick Doubling(Meter meter, CountSchool school) => (Sub, school) switch
    {
        (_, CountSchool.Triplet) or (Sub.Trip or Sub.Let, _) => new(meter.Beat.Value / 6),
        (Sub.Ti or Sub.Ta, _) => new(meter.Beat.Value / 12),
        _ => StepOf(meter),
    };

    /// <summary>Whether the school has this syllable at all.</summary>
    public bool IsSpokenIn(CountSchool school) => school == CountSchool.Standard || (Sub is Sub.Beat or Sub.And or Sub.A && !Step);

    /// <summary>Nothing where the bar has no such beat or the place is past the bar line.</summary>
    public Tick? In(Meter meter, CountSchool school) =>
        Beat is { } beat && beat >= 1 && beat <= meter.Counts && meter.Beat * (beat - 1) + Offset(meter, school) is var at
            && at < meter.Length
            ? at : null;
}

/// <summary>From a place to another, or to the end of the bar: an end that is a bare number takes its whole beat in.</summary>
internal readonly record struct PlaceRange(Place From, Place? To)
{
    /// <summary>Start and the tick before which the range ends; nothing where the bar lacks one of them.</summary>
    public (Tick Start, Tick End)? In(Meter meter, CountSchool school)
    {
        if (From.In(meter, school) is not { } start) return null;
        if (To is not { } to) return (start, meter.Length);
        if (to.In(meter, school) is not { } last) return null;
        var end = to.IsAddress ? last + new Tick(1) : last + meter.Beat;
        return end > start ? (start, end) : null;
    }
}
