using System.Text.Json.Nodes;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Music;
using InnerCadence.Web.Drawing;

namespace InnerCadence.Web.Api;

/// <summary>A text of count lines.</summary>
public sealed record ParseRequest(string? Text);

/// <summary>Reads count lines without keeping anything.</summary>
public static class CountLinesApi
{
    public static void MapCountLines(this IEndpointRouteBuilder routes) =>
        routes.MapPost("/api/count-lines/parse", Parse).WithName("ParseCountLines").WithTags("count lines")
            .WithSummary("What a text of count lines says: strokes, problems with their places, the text in words and in canonical form.")
            .Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);

    /// <param name="picture">strands, for what the scripts draw.</param>
    /// <param name="bar">Number of the first bar in the recording.</param>
    private static IResult Parse(ParseRequest request, string? picture = null, int bar = 1, bool pick = false)
    {
        if (request.Text is null) return Results.Problem("Send {\"text\": \"…\"}: the count lines to read.", statusCode: StatusCodes.Status400BadRequest);
        if (picture is not (null or "strands" or "ring")) return Results.Problem($"There is no picture ‘{picture}’ yet: ask for strands or ring.", statusCode: StatusCodes.Status400BadRequest);
        var read = CountLines.Parse(request.Text);
        var answer = Answer(read);
        if (picture is not null)
            answer["picture"] = picture == "ring" ? Ring.Draw(read.Passage).AsJson() : Strands.Draw(read.Passage, new() { FirstBar = Math.Clamp(bar, 1, Limits.Bars), Pickable = pick }).AsJson();
        return Results.Json(answer);
    }

    /// <summary>What a text says: strokes, problems, words and canonical form.</summary>
    internal static JsonObject Answer(CountText read) => new()
    {
        ["meters"] = new JsonArray([.. read.Passage.Meters.Meters.Select(m => (JsonNode)m.ToString())]),
        ["bars"] = read.Passage.Bars,
        ["tempo"] = read.Passage.Tempo?.Value,
        ["strokes"] = new JsonArray([.. read.Passage.Strokes.Select(StrokeOf)]),
        ["unheard"] = new JsonArray([.. read.Passage.Unheard.OrderBy(u => u.Bar).ThenBy(u => u.Voice).Select(u => (JsonNode)new JsonObject { ["bar"] = u.Bar + 1, ["voice"] = u.Voice.Code })]),
        ["problems"] = new JsonArray([.. read.Problems.Select(ProblemOf)]),
        ["readBack"] = new JsonArray([.. ReadBack.Of(read.Passage).Select(s => (JsonNode)s)]),
        ["canonical"] = CountWriter.Write(read.Passage, read.Title),
    };

    private static JsonNode StrokeOf(Stroke stroke) => new JsonObject
    {
        ["tick"] = stroke.At.Value,
        ["voice"] = stroke.Voice.Code,
        ["dynamic"] = stroke.Dynamic.ToString().ToLowerInvariant(),
        ["limb"] = stroke.Limb,
        ["openness"] = stroke.Openness?.ToString().ToLowerInvariant(),
        ["ornaments"] = new JsonArray([.. Enum.GetValues<Ornaments>().Where(o => o != Ornaments.None && stroke.Ornaments.HasFlag(o)).Select(o => (JsonNode)o.ToString().ToLowerInvariant())]),
        ["unsure"] = stroke.Unsure,
        ["optional"] = stroke.Optional,
        ["notes"] = new JsonArray([.. stroke.Notes.Select(n => (JsonNode)n)]),
        ["length"] = stroke.Length?.Value,
        ["limbUnsure"] = stroke.SideUnsure,
    };

    private static JsonNode ProblemOf(Problem problem) => new JsonObject
    {
        ["severity"] = problem.Severity.ToString().ToLowerInvariant(),
        ["line"] = problem.At.Line,
        ["column"] = problem.At.Column,
        ["length"] = problem.At.Length,
        ["message"] = problem.Message,
        ["fix"] = problem.Fix,
    };
}
