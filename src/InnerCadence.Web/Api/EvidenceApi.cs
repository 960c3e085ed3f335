using System.Text.Json.Nodes;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Web.Api;

/// <summary>Recordings of one title: so many with an idea, of so many searched.</summary>
public sealed record SearchedTitle(int With, int Searched);

/// <summary>One title: so many events in so many searched bars.</summary>
public sealed record PlayedTitle(int Events, double Bars);

/// <summary>So many recordings with an idea, of so many searched: in all, or title by title.</summary>
public sealed record PresenceRequest(int K, int N, IReadOnlyList<SearchedTitle>? Titles);

/// <summary>So many events in so many searched bars: in all, or title by title.</summary>
public sealed record RateRequest(int Events, double Bars, IReadOnlyList<PlayedTitle>? Titles);

public sealed record TimesSide(IReadOnlyList<PlayedTitle>? Titles);

/// <summary>One side beside another, each title by title.</summary>
public sealed record TimesRequest(TimesSide? One, TimesSide? Two);

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
        evidence.MapPost("/presence", Presence).WithName("Presence").WithSummary("Share of recordings with the Wilson interval; by titles where they are given.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/rate", Rate).WithName("Rate").WithSummary("Events per 100 bars with the exact Poisson interval; by titles where they are given.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/times", Times).WithName("Times").WithSummary("How many times as often one side has it, by titles; null without an end.").Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/contrast", Contrast).WithName("Contrast").WithSummary("Log-odds ratios with intervals, Fisher's exact p, and p corrected over all rows.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/adjust", Adjust).WithName("Adjust").WithSummary("Benjamini and Hochberg's correction.").Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/threshold", Threshold).WithName("Threshold").WithSummary("The split between tempos with the smallest Fisher p.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
    }

    private const int MostRows = 10_000, MostCount = 10_000_000;

    private static IResult Contrast(ContrastRequest request, CancellationToken stop)
    {
        if (request.Rows is not { Count: > 0 and <= MostRows } rows) return Refuse($"rows are 1 to {MostRows} of a, b, c, d.");
        if (rows.Any(r => r is null || new[] { r.A, r.B, r.C, r.D }.Any(n => n is < 0 or > MostCount))) return Refuse($"a, b, c and d are counts from 0 to {MostCount}.");
        var contrasts = Contrasts.Of([.. rows.Select(r => new Table(r.A, r.B, r.C, r.D))], stop);
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
            : Results.Json(new JsonObject { ["status"] = "no split" });
    }

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);

    private static IResult Presence(PresenceRequest request)
    {
        if (request.Titles is { } titles)
            return titles.Count > MostRows || titles.Any(t => t is null || t.With < 0 || t.With > t.Searched || t.Searched > MostCount) ? Refuse($"titles are at most {MostRows} of with and searched, with from 0 to searched.")
                : Answer(Estimate.Share(titles.Select(t => new TitleAmount(t.With, t.Searched))), "share");
        return request.K < 0 || request.K > request.N ? Refuse("k is from 0 to n: no more recordings can have it than were searched.") : Answer(Estimates.Presence(request.K, request.N), "share");
    }

    private static IResult Rate(RateRequest request)
    {
        if (request.Titles is { } titles) return Unreadable(titles) is { } why ? Refuse(why) : Answer(Estimate.Rate(Amounts(titles)), "per100");
        return Unreadable([new(request.Events, request.Bars)]) is not null ? Refuse("events and bars are not negative, and nothing can be found in no bars.") : Answer(Estimates.Rate(request.Events, request.Bars), "per100");
    }

    private static IResult Times(TimesRequest request)
    {
        if (request is not { One.Titles: { } one, Two.Titles: { } two }) return Refuse("one and two are sides with titles of events and bars.");
        if ((Unreadable(one) ?? Unreadable(two)) is { } why) return Refuse(why);
        if (one.Sum(t => t.Bars) == 0 || two.Sum(t => t.Bars) == 0) return Results.Json(new JsonObject { ["status"] = "not searched" });
        var times = TimesAsOften.Of(Amounts(one), Amounts(two));
        static JsonNode? Number(double value) => double.IsFinite(value) ? value : null;
        return Results.Json(times is null
            ? new JsonObject { ["ratio"] = null, ["low"] = 0, ["high"] = null }
            : new JsonObject { ["ratio"] = Number(times.Interval.Value), ["low"] = Number(times.Interval.Low), ["high"] = Number(times.Interval.High) });
    }

    private static IEnumerable<TitleAmount> Amounts(IEnumerable<PlayedTitle> titles) => titles.Select(t => new TitleAmount(t.Events, t.Bars));

    private static string? Unreadable(IReadOnlyList<PlayedTitle> titles) =>
        titles.Count > MostRows || titles.Any(t => t is null || t.Events is < 0 or > MostCount || t.Bars is < 0 or > MostCount || !double.IsFinite(t.Bars) || (t.Bars == 0 && t.Events > 0))
            ? $"titles are at most {MostRows} of events and bars: neither is negative, and nothing can be found in no bars." : null;

    private static IResult Answer(Estimate? estimate, string name) => Results.Json(estimate is { Interval: var found }
        ? new JsonObject { [name] = found.Value, ["low"] = found.Low, ["high"] = found.High, ["designEffect"] = estimate.DesignEffect, ["titles"] = estimate.Titles }
        : new JsonObject { ["status"] = "not searched" });

    private static IResult Answer(Interval? interval, string name) => Results.Json(interval is { } found
        ? new JsonObject { [name] = found.Value, ["low"] = found.Low, ["high"] = found.High }
        : new JsonObject { ["status"] = "not searched" });
}
