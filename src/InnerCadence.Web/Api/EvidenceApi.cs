using System.Text.Json.Nodes;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Web.Api;

/// <summary>So many recordings with an idea, of so many searched.</summary>
public sealed record PresenceRequest(int K, int N);

/// <summary>So many events in so many searched bars.</summary>
public sealed record RateRequest(int Events, double Bars);

public sealed record TableRequest(int A, int B, int C, int D);

/// <summary>Rows of player with, player without, others with, others without.</summary>
public sealed record ContrastRequest(IReadOnlyList<TableRequest>? Rows);

public sealed record AdjustRequest(IReadOnlyList<double>? P);

public sealed record TempoRow(double Tempo, int With, int Without);

public sealed record ThresholdRequest(IReadOnlyList<TempoRow>? Rows);

/// <summary>The formulas of evidence on bare counts; with nothing searched there is no number.</summary>
public static class EvidenceApi
{
    public static void MapEvidence(this IEndpointRouteBuilder routes)
    {
        var evidence = routes.MapGroup("/api/evidence").WithTags("evidence");
        evidence.MapPost("/presence", Presence).WithName("Presence").WithSummary("Share of recordings with the Wilson interval.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/rate", Rate).WithName("Rate").WithSummary("Events per 100 bars with the exact Poisson interval.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/contrast", Contrast).WithName("Contrast").WithSummary("Log-odds ratios with intervals, Fisher's exact p, and p corrected over all rows.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/adjust", Adjust).WithName("Adjust").WithSummary("Benjamini and Hochberg's correction.").Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/threshold", Threshold).WithName("Threshold").WithSummary("The split between tempos with the smallest Fisher p.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
    }

    private const int MostRows = 10_000, MostCount = 10_000_000;

    private static IResult Contrast(ContrastRequest request)
    {
        if (request.Rows is not { Count: > 0 and <= MostRows } rows) return Refuse($"rows are 1 to {MostRows} of a, b, c, d.");
        if (rows.Any(r => r is null || new[] { r.A, r.B, r.C, r.D }.Any(n => n is < 0 or > MostCount))) return Refuse($"a, b, c and d are counts from 0 to {MostCount}.");
        var contrasts = Contrasts.Of([.. rows.Select(r => new Table(r.A, r.B, r.C, r.D))]);
        return Results.Json(new JsonObject
        {
            ["rows"] = new JsonArray([.. contrasts.Select(c => (JsonNode)(c is null ? new JsonObject { ["status"] = "not searched" } : new JsonObject
            {
                ["logOdds"] = c.LogOdds, ["se"] = c.StandardError, ["low"] = c.Low, ["high"] = c.High, ["p"] = c.P, ["q"] = c.Q,
            }))]),
        });
    }

    private static IResult Adjust(AdjustRequest request) =>
        request.P is { Count: <= MostRows } p && p.All(x => x is >= 0 and <= 1)
            ? Results.Json(new JsonObject { ["q"] = new JsonArray([.. Contrasts.Adjust(p).Select(q => (JsonNode)q)]) })
            : Refuse($"p are at most {MostRows} numbers from 0 to 1.");

    private static IResult Threshold(ThresholdRequest request)
    {
        if (request.Rows is not { Count: <= 2000 } rows || rows.Any(r => r is null || !double.IsFinite(r.Tempo) || r.Tempo <= 0 || r.With is < 0 or > MostCount || r.Without is < 0 or > MostCount))
            return Refuse("rows are at most 2000 of a tempo above 0 and counts with and without.");
        var searched = rows.Where(r => r.With + r.Without > 0).ToList();
        if (searched.Count == 0) return Results.Json(new JsonObject { ["status"] = "not searched" });
        return Contrasts.Threshold(searched.Select(r => (r.Tempo, r.With, r.Without))) is { } found
            ? Results.Json(new JsonObject { ["below"] = found.Below, ["above"] = found.Above, ["p"] = found.P, ["corrected"] = found.Corrected })
            : Refuse("All were searched at one tempo: there is nothing to split.");
    }

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);

    private static IResult Presence(PresenceRequest request) =>
        request.K < 0 || request.K > request.N
            ? Results.Problem("k is from 0 to n: no more recordings can have it than were searched.", statusCode: StatusCodes.Status400BadRequest)
            : Answer(Estimates.Presence(request.K, request.N), "share");

    private static IResult Rate(RateRequest request) =>
        request.Events < 0 || request.Bars < 0 || !double.IsFinite(request.Bars) || (request.Bars == 0 && request.Events > 0)
            ? Results.Problem("events and bars are not negative, and nothing can be found in no bars.", statusCode: StatusCodes.Status400BadRequest)
            : Answer(Estimates.Rate(request.Events, request.Bars), "per100");

    private static IResult Answer(Interval? interval, string name) => Results.Json(interval is { } found
        ? new JsonObject { [name] = found.Value, ["low"] = found.Low, ["high"] = found.High }
        : new JsonObject { ["status"] = "not searched" });
}
