using System.Text.Json.Nodes;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Web.Api;

/// <summary>So many recordings with an idea, of so many searched.</summary>
public sealed record PresenceRequest(int K, int N);

/// <summary>So many events in so many searched bars.</summary>
public sealed record RateRequest(int Events, double Bars);

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
    }

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
