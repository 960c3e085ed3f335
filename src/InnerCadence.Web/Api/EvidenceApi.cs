using System.Text.Json.Serialization;
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

/// <summary>A share with its interval; where nothing was searched, a <see cref="NotSearchedAnswer"/> comes instead.</summary>
/// <param name="High">Null without an end.</param>
public sealed record PresenceAnswer(double Share, double Low, double? High)
{
    /// <summary>By titles only.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? DesignEffect { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public int? Titles { get; init; }
}

/// <summary>Events per 100 bars with its interval; where nothing was searched, a <see cref="NotSearchedAnswer"/> comes instead.</summary>
/// <param name="High">Null without an end.</param>
public sealed record RateAnswer(double Per100, double Low, double? High)
{
    /// <summary>By titles only.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? DesignEffect { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public int? Titles { get; init; }
}

/// <param name="Ratio">Null without an end.</param>
public sealed record TimesAnswer(double? Ratio, double? Low, double? High);

public sealed record NotSearchedAnswer(string Status);

/// <summary>One contrast, or that nothing was searched.</summary>
public sealed record ContrastRowAnswer
{
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? LogOdds { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? Se { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? Low { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? High { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? P { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? Q { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public string? Status { get; init; }
}

public sealed record ContrastAnswer(IReadOnlyList<ContrastRowAnswer> Rows);

public sealed record AdjustAnswer(IReadOnlyList<double> Q);

/// <summary>A split between tempos, or why there is none.</summary>
public sealed record ThresholdAnswer
{
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? Below { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? Above { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? P { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? Corrected { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public string? Status { get; init; }
}

/// <summary>The formulas of evidence on bare counts; with nothing searched there is no number.</summary>
public static class EvidenceApi
{
    public static void MapEvidence(this IEndpointRouteBuilder routes)
    {
        var evidence = routes.MapGroup("/api/evidence").WithTags("evidence");
        evidence.MapPost("/presence", Presence).WithName("Presence")
            .WithSummary("Share of recordings with the Wilson interval; by titles where they are given.")
            .Produces<PresenceAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/rate", Rate).WithName("Rate")
            .WithSummary("Events per 100 bars with the exact Poisson interval; by titles where they are given.")
            .Produces<RateAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/times", Times).WithName("Times")
            .WithSummary("How many times as often one side has it, by titles; null without an end.").Produces<TimesAnswer>()
            .ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/contrast", Contrast).WithName("Contrast")
            .WithSummary("Log-odds ratios with intervals, Fisher's exact p, and p corrected over all rows.")
            .Produces<ContrastAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/adjust", Adjust).WithName("Adjust").WithSummary("Benjamini and Hochberg's correction.").Produces<AdjustAnswer>()
            .ProducesProblem(StatusCodes.Status400BadRequest);
        evidence.MapPost("/threshold", Threshold).WithName("Threshold").WithSummary("The split between tempos with the smallest Fisher p.")
            .Produces<ThresholdAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
    }

    private const string NotSearched = "not searched";
    private const int MostRows = 10_000, MostCount = 10_000_000;

    private static IResult Contrast(ContrastRequest request, CancellationToken stop)
    {
        if (request.Rows is not { Count: > 0 and <= MostRows } rows) return Refuse($"rows are 1 to {MostRows} of a, b, c, d.");
        if (rows.Any(r => r is null || new[] { r.A, r.B, r.C, r.D }.Any(n => n is < 0 or > MostCount))) return Refuse(
            $"a, b, c and d are counts from 0 to {MostCount}.");
        var contrasts = Contrasts.Of([.. rows.Select(r => new Table(r.A, r.B, r.C, r.D))], stop);
        return Results.Ok(new ContrastAnswer([.. contrasts.Select(c => c is null ? new ContrastRowAnswer { Status = NotSearched }
            : new ContrastRowAnswer { LogOdds = c.LogOdds, Se = c.StandardError, Low = c.Low, High = c.High, P = c.P, Q = c.Q })]));
    }

    private static IResult Adjust(AdjustRequest request) =>
        request.P is { Count: <= MostRows } p && p.All(x => x is >= 0 and <= 1)
            ? Results.Ok(new AdjustAnswer([.. Contrasts.Adjust(p)]))
            : Refuse($"p are at most {MostRows} numbers from 0 to 1.");

    private static IResult Threshold(ThresholdRequest request)
    {
        if (request.Rows is not { Count: <= 2000 } rows
            || rows.Any(r => r is null || !double.IsFinite(r.Tempo) || r.Tempo <= 0 || r.With is < 0 or > MostCount
            || r.Without is < 0 or > MostCount))
            return Refuse("rows are at most 2000 of a tempo above 0 and counts with and without.");
        var searched = rows.Where(r => r.With + r.Without > 0).ToList();
        if (searched.Count == 0) return Results.Ok(new ThresholdAnswer { Status = NotSearched });
        return Contrasts.Threshold(searched.Select(r => (r.Tempo, r.With, r.Without))) is { } found
            ? Results.Ok(new ThresholdAnswer { Below = found.Below, Above = found.Above, P = found.P, Corrected = found.Corrected })
            : Results.Ok(new ThresholdAnswer { Status = "no split" });
    }

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);

    private static IResult Presence(PresenceRequest request)
    {
        if (request.Titles is { } titles)
            return titles.Count > MostRows || titles.Any(t => t is null || t.With < 0 || t.With > t.Searched || t.Searched > MostCount)
                ? Refuse($"titles are at most {MostRows} of with and searched, with from 0 to searched.")
                : Share(Estimate.Share(titles.Select(t => new TitleAmount(t.With, t.Searched))));
        return request.K < 0 || request.K > request.N ? Refuse("k is from 0 to n: no more recordings can have it than were searched.")
            : Share(Estimates.Presence(request.K, request.N));
    }

    private static IResult Rate(RateRequest request)
    {
        if (request.Titles is { } titles) return Unreadable(titles) is { } why ? Refuse(why) : Per100(Estimate.Rate(Amounts(titles)));
        return Unreadable([new(request.Events, request.Bars)]) is not null
            ? Refuse("events and bars are not negative, and nothing can be found in no bars.")
            : Per100(Estimates.Rate(request.Events, request.Bars));
    }

    private static IResult Times(TimesRequest request)
    {
        if (request is not { One.Titles: { } one, Two.Titles: { } two }) return Refuse(
            "one and two are sides with titles of events and bars.");
        if ((Unreadable(one) ?? Unreadable(two)) is { } why) return Refuse(why);
        if (one.Sum(t => t.Bars) == 0 || two.Sum(t => t.Bars) == 0) return Nothing;
        var times = TimesAsOften.Of(Amounts(one), Amounts(two));
        return Results.Ok(times is null ? new TimesAnswer(null, 0, null)
            : new TimesAnswer(End(times.Interval.Value), End(times.Interval.Low), End(times.Interval.High)));
    }

    private static IEnumerable<TitleAmount> Amounts(IEnumerable<PlayedTitle> titles) =>
        titles.Select(t => new TitleAmount(t.Events, t.Bars));

    private static string? Unreadable(IReadOnlyList<PlayedTitle> titles) =>
        titles.Count > MostRows || titles.Any(t => t is null || t.Events is < 0 or > MostCount || t.Bars is < 0 or > MostCount
            || !double.IsFinite(t.Bars) || (t.Bars == 0 && t.Events > 0))
            ? $"titles are at most {MostRows} of events and bars: neither is negative, and nothing can be found in no bars." : null;

    private static IResult Share(Estimate? estimate) => estimate is { Interval: var found }
        ? Results.Ok(new PresenceAnswer(found.Value, found.Low, End(found.High))
        {
            DesignEffect = estimate.DesignEffect,
            Titles = estimate.Titles
        }) : Nothing;

    private static IResult Share(Interval? interval) =>
        interval is { } found ? Results.Ok(new PresenceAnswer(found.Value, found.Low, End(found.High))) : Nothing;

    private static IResult Per100(Estimate? estimate) => estimate is { Interval: var found }
        ? Results.Ok(new RateAnswer(found.Value, found.Low, End(found.High))
        {
            DesignEffect = estimate.DesignEffect,
            Titles = estimate.Titles
        }) : Nothing;

    private static IResult Per100(Interval? interval) =>
        interval is { } found ? Results.Ok(new RateAnswer(found.Value, found.Low, End(found.High))) : Nothing;

    private static IResult Nothing => Results.Ok(new NotSearchedAnswer(NotSearched));

    private static double? End(double value) => double.IsFinite(value) ? value : null;
}
