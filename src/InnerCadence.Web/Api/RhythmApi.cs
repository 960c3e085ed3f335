using System.Text.Json.Nodes;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Web.Api;

/// <param name="Threshold">Least share of the bars for the skeleton, 0 to 1; 0.6 unless said.</param>
public sealed record DescribeRequest(string? Text, bool Looped = false, double? Threshold = null);

public sealed record RealignRequest(int CycleTicks, IReadOnlyList<string>? Meters);

/// <summary>Grouping, cross-rhythm, bar form, skeleton and re-alignment of a text; nothing is kept.</summary>
public static class RhythmApi
{
    private const int LongestCycle = 64 * 32 * Tick.PerQuarter;

    public static void MapRhythm(this IEndpointRouteBuilder routes)
    {
        routes.MapPost("/api/rhythm/describe", Describe).WithName("DescribeRhythm").WithTags("rhythm").WithSummary("Bar form, groupings, cross-rhythms, skeleton and hot spots of a text.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        routes.MapPost("/api/rhythm/realign", Realign).WithName("Realign").WithTags("rhythm").WithSummary("After how many bars a cycle and its meters start together again, and where each repetition starts.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
    }

    private static IResult Describe(DescribeRequest request)
    {
        if (request.Text is null) return Refuse("Send {\"text\": \"…\"}: the count lines to describe.");
        if (request.Threshold is { } asked && asked is not (>= 0 and <= 1)) return Refuse("threshold is a share from 0 to 1.");
        var passage = CountLines.Parse(request.Text).Passage with { Looped = request.Looped };
        var bars = BarForm.Of(passage);
        var pattern = Skeleton.OfPattern(passage, request.Threshold ?? Skeleton.UsualThreshold);
        Tick Start(int bar) => passage.Meters.StartOf(bar);
        return Results.Json(new JsonObject
        {
            ["barForm"] = new JsonArray([.. bars.Select(b => (JsonNode)b.Letter)]),
            ["barNotes"] = new JsonArray([.. bars.Select(b => (JsonNode)b.Note)]),
            ["groupings"] = new JsonArray([.. Grouping.Of(passage).Select(g => (JsonNode)new JsonObject
            {
                ["markers"] = g.Markers, ["groups"] = new JsonArray([.. g.Groups.Select(n => (JsonNode)n)]), ["unit"] = g.Unit, ["bars"] = g.Bars, ["crossesBarLine"] = g.CrossesBarLine,
            })]),
            ["crossRhythms"] = new JsonArray([.. CrossRhythm.Of(passage).Select(c => (JsonNode)new JsonObject { ["markers"] = c.Markers, ["ratio"] = c.Ratio })]),
            ["skeleton"] = new JsonArray([.. pattern.SelectMany((p, k) => p.Strokes.Select(s => (JsonNode)new JsonArray((s.At + Start(k)).Value, s.Voice.Code)))]),
            ["skeletonText"] = pattern is [var only] ? only.Text : CountWriter.Write(passage with { Bars = pattern.Count, Unheard = [], Pickup = Tick.Zero, Strokes = Passage.InOrder(pattern.SelectMany((p, k) => p.Strokes.Select(s => s with { At = s.At + Start(k) }))) }),
            ["patternBars"] = pattern.Count,
            ["hotSpots"] = new JsonArray([.. pattern.SelectMany((p, k) => p.HotSpots.Select(s => (JsonNode)new JsonObject { ["beat"] = s.Beat, ["bits"] = s.Bits, ["bar"] = k + 1 }))]),
        });
    }

    private static IResult Realign(RealignRequest request)
    {
        if (request.CycleTicks is < 1 or > LongestCycle) return Refuse($"cycleTicks is a length in ticks, 1 to {LongestCycle}.");
        var meters = (request.Meters ?? []).Select(m => m is null ? null : Meter.Parse(m)).ToList();
        if (meters.Count is < 1 or > CountLines.MostBars || meters.Contains(null)) return Refuse("meters are one or more such as 4/4 or 7/8.");
        return Realignment.Of(new(request.CycleTicks), new([.. meters.OfType<Meter>()])) is { } found
            ? Results.Json(new JsonObject
            {
                ["bars"] = found.Bars,
                ["repetitions"] = found.Starts.Count,
                ["starts"] = new JsonArray([.. found.Starts.Select(s => (JsonNode)new JsonObject { ["bar"] = s.Bar, ["beat"] = s.Beat, ["tick"] = s.Rest.Value })]),
            })
            : Refuse($"They come together only after more than {Realignment.Most} repetitions.");
    }

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);
}
