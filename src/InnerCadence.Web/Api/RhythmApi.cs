using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Web.Api;

/// <param name="Threshold">Least share of the bars for the skeleton, 0 to 1; 0.6 unless said.</param>
public sealed record DescribeRequest(string? Text, bool Looped = false, double? Threshold = null);

public sealed record RealignRequest(int CycleTicks, IReadOnlyList<string>? Meters);

/// <param name="Markers">By what it is grouped: accents, a voice, a limb.</param>
public sealed record GroupingAnswer(string Markers, IReadOnlyList<int> Groups, string Unit, int Bars, bool CrossesBarLine);

public sealed record CrossRhythmAnswer(string Markers, string Ratio);

/// <param name="Bar">Of the pattern, from 1.</param>
public sealed record HotSpotAnswer(int Beat, double Bits, int Bar);

/// <param name="Skeleton">Pairs of tick and voice.</param>
public sealed record DescribeAnswer(
    IReadOnlyList<string> BarForm, IReadOnlyList<string> BarNotes, IReadOnlyList<GroupingAnswer> Groupings,
        IReadOnlyList<CrossRhythmAnswer> CrossRhythms,
    IReadOnlyList<object[]> Skeleton, string SkeletonText, int PatternBars, IReadOnlyList<HotSpotAnswer> HotSpots);

/// <param name="Tick">The rest inside the beat.</param>
public sealed record CycleStartAnswer(int Bar, int Beat, int Tick);

public sealed record RealignAnswer(long Bars, int Repetitions, IReadOnlyList<CycleStartAnswer> Starts);

/// <summary>Grouping, cross-rhythm, bar form, skeleton and re-alignment of a text; nothing is kept.</summary>
public static class RhythmApi
{
    private const int LongestCycle = 64 * 32 * Tick.PerQuarter;

    public static void MapRhythm(this IEndpointRouteBuilder routes)
    {
        routes.MapPost("/api/rhythm/describe", Describe).WithName("DescribeRhythm").WithTags("rhythm")
            .WithSummary("Bar form, groupings, cross-rhythms, skeleton and hot spots of a text.")
            .Produces<DescribeAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
        routes.MapPost("/api/rhythm/realign", Realign).WithName("Realign").WithTags("rhythm")
            .WithSummary("After how many bars a cycle and its meters start together again, and where each repetition starts.")
            .Produces<RealignAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
    }

    private static IResult Describe(DescribeRequest request)
    {
        if (request.Text is null) return Refuse("Send {\"text\": \"…\"}: the count lines to describe.");
        if (request.Threshold is { } asked && asked is not (>= 0 and <= 1)) return Refuse("threshold is a share from 0 to 1.");
        var passage = CountLines.Parse(request.Text).Passage with { Looped = request.Looped };
        var bars = BarForm.Of(passage);
        var pattern = Skeleton.OfPattern(passage, request.Threshold ?? Skeleton.UsualThreshold);
        Tick Start(int bar) => passage.Meters.StartOf(bar);
        var skeleton = pattern is [var only] ? only.Text
            : CountWriter.Write(passage with
            {
                Bars = pattern.Count,
                Unheard = [],
                Pickup = Tick.Zero,
                Strokes = Passage.InOrder(pattern.SelectMany((p, k) => p.Strokes.Select(s => s with { At = s.At + Start(k) })))
            });
        return Results.Ok(new DescribeAnswer(
            [.. bars.Select(b => b.Letter)], [.. bars.Select(b => b.Note)],
            [.. Grouping.Of(passage).Select(g => new GroupingAnswer(g.Markers, [.. g.Groups], g.Unit, g.Bars, g.CrossesBarLine))],
            [.. CrossRhythm.Of(passage).Select(c => new CrossRhythmAnswer(c.Markers, c.Ratio))],
            [.. pattern.SelectMany((p, k) => p.Strokes.Select(s => new object[] { (s.At + Start(k)).Value, s.Voice.Code }))], skeleton,
                pattern.Count,
            [.. pattern.SelectMany((p, k) => p.HotSpots.Select(s => new HotSpotAnswer(s.Beat, s.Bits, k + 1)))]));
    }

    private static IResult Realign(RealignRequest request)
    {
        if (request.CycleTicks is < 1 or > LongestCycle) return Refuse($"cycleTicks is a length in ticks, 1 to {LongestCycle}.");
        var meters = (request.Meters ?? []).Select(m => m is null ? null : Meter.Parse(m)).ToList();
        if (meters.Count is < 1 or > CountLines.MostBars
            || meters.Contains(null)) return Refuse("meters are one or more such as 4/4 or 7/8.");
        return Realignment.Of(new(request.CycleTicks), new([.. meters.OfType<Meter>()])) is { } found
            ? Results.Ok(new RealignAnswer(found.Bars, found.Starts.Count,
                [.. found.Starts.Select(s => new CycleStartAnswer(s.Bar, s.Beat, s.Rest.Value))]))
            : Refuse($"They come together only after more than {Realignment.Most} repetitions.");
    }

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);
}
