using System.Text.Json;
using System.Text.Json.Nodes;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Sightings;

namespace InnerCadence.Web.Api;

/// <summary>An idea and a passage to look for it in.</summary>
public sealed record MatchRequest(MatchIdea? Idea, MatchPassage? Passage);

/// <param name="SpanTicks">From the idea's first stroke; without it the idea ends with the beat of its last stroke.</param>
/// <param name="Scope">Codes of its voices; without it they follow from the exemplar and the rules.</param>
/// <param name="Rules">Settings in the words of the design pages, with - for spaces.</param>
public sealed record MatchIdea(string? Text, int? SpanTicks, string[]? Scope, JsonElement? Rules);

public sealed record MatchPassage(string? Text, bool Looped);

/// <summary>Looks for an idea in a passage without keeping anything.</summary>
public static class IdeasApi
{
    public static void MapIdeas(this IEndpointRouteBuilder routes) =>
        routes.MapPost("/api/ideas/match", Match).WithName("MatchIdea").WithTags("ideas")
            .WithSummary("Every place of a passage where an idea appears or almost appears, with its verdict and the differences in words.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);

    private static IResult Match(MatchRequest request)
    {
        var problems = new List<string>();
        if (request.Idea?.Text is null) problems.Add("idea.text is missing: the exemplar as count lines.");
        if (request.Passage?.Text is null) problems.Add("passage.text is missing: count lines to look in.");
        if (request.Idea?.SpanTicks is <= 0) problems.Add("idea.spanTicks is above zero.");
        var (rules, badRules) = RulesJson.Read(request.Idea?.Rules);
        problems.AddRange(badRules);
        if (problems.Count > 0) return Refuse(problems);

        var exemplar = CountLines.Parse(request.Idea!.Text!);
        var passage = CountLines.Parse(request.Passage!.Text!);
        problems.AddRange(Errors("idea.text", exemplar));
        problems.AddRange(Errors("passage.text", passage));
        foreach (var code in request.Idea.Scope?.Where(code => VoiceOf(exemplar, passage, code) is null) ?? [])
            problems.Add($"‘{code}’ in idea.scope is no voice.");
        if (problems.Count > 0) return Refuse(problems);

        var idea = new Idea(
            exemplar.Passage, request.Idea.SpanTicks is { } span ? new Tick(span) : null,
            request.Idea.Scope is null ? null : [.. request.Idea.Scope.Select(code => VoiceOf(exemplar, passage, code)!)], rules);
        var sightings = idea.FindIn(passage.Passage with { Looped = request.Passage.Looped });
        return Results.Json(new JsonObject { ["sightings"] = new JsonArray([.. sightings.Select(Answer)]) });
    }

    private static JsonNode Answer(Sighting sighting) => new JsonObject
    {
        ["startTick"] = sighting.Start.Value,
        ["factor"] = sighting.Factor.ToString(),
        ["verdict"] = sighting.Verdict.Word(),
        ["cost"] = sighting.Cost,
        ["unsure"] = sighting.Unsure,
        ["transforms"] = new JsonArray([.. sighting.Transforms.Select(t => (JsonNode)t)]),
        ["edits"] = SightingJson.Array(sighting.Edits),
        ["summary"] = sighting.Summary,
    };

    private static Voice? VoiceOf(CountText exemplar, CountText passage, string code) =>
        exemplar.Passage.Voices.Concat(passage.Passage.Voices).FirstOrDefault(v => v.Code == code) ?? Voice.Find(code);

    private static IEnumerable<string> Errors(string where, CountText read) =>
        read.Problems.Where(p => p.Severity == Severity.Error).Select(p => $"{where}, line {p.At.Line}, column {p.At.Column}: {p.Message}");

    private static IResult Refuse(IReadOnlyList<string> problems) =>
        Results.Problem(string.Join(' ', problems), statusCode: StatusCodes.Status400BadRequest, extensions: new Dictionary<string, object?> { ["problems"] = problems });
}
