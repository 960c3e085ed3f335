using System.Text.Json.Nodes;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
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

    /// <param name="picture">strands, ring or staff, for what the scripts draw.</param>
    /// <param name="bar">Number of the first bar in the recording.</param>
    /// <param name="edit">Strands on which strokes can be chosen; the answer also tells where each stroke is written and how the text is coloured.</param>
    /// <param name="hide">Codes of voices that are left out of a staff, with commas.</param>
    private static IResult Parse(ParseRequest request, string? picture = null, int bar = 1, bool edit = false, string? hide = null)
    {
        if (request.Text is null) return Results.Problem("Send {\"text\": \"…\"}: the count lines to read.", statusCode: StatusCodes.Status400BadRequest);
        if (picture is not (null or "strands" or "ring" or "staff")) return Results.Problem($"There is no picture ‘{picture}’: ask for strands, ring or staff.", statusCode: StatusCodes.Status400BadRequest);
        var read = CountLines.Parse(request.Text);
        var answer = Answer(read, lean: edit);
        var first = Math.Clamp(bar, 1, UploadLimits.Bars);
        if (picture is not null)
        {
            answer["picture"] = picture switch
            {
                "ring" => Ring.Draw(read.Passage).AsJson(),
                "staff" => Staff.Draw(read.Passage, first, (hide ?? "").Split(',').Select(Voice.Find).OfType<Voice>().ToHashSet()),
                _ => Strands.Draw(read.Passage, new() { FirstBar = first, Pickable = edit, Also = read.Voices }).AsJson(),
            };
        }
        if (edit)
        {
            answer["places"] = new JsonArray([.. read.Places.Select(p => (JsonNode)new JsonArray(p.At.Value, p.Voice.Code, p.Words.Line, p.Words.Column, p.Words.Length))]);
            answer["colours"] = new JsonArray([.. Colouring.Of(request.Text).Select(c => (JsonNode)new JsonArray(c.At.Line, c.At.Column, c.At.Length, c.Look.ToString().ToLowerInvariant()))]);
        }
        return Results.Json(answer);
    }

    /// <summary>What a text says: strokes, problems, words and canonical form.</summary>
    /// <param name="lean">Without strokes and canonical form, which no picture needs: asked at every key.</param>
    internal static JsonObject Answer(CountText read, bool lean = false)
    {
        var answer = new JsonObject
        {
            ["meters"] = new JsonArray([.. read.Passage.Meters.Meters.Select(m => (JsonNode)m.ToString())]),
            ["bars"] = read.Passage.Bars,
            ["tempo"] = read.Passage.Tempo?.Value,
            ["tempos"] = new JsonArray([.. read.Passage.Tempos.Select(t => (JsonNode)new JsonObject { ["tick"] = t.At.Value, ["bpm"] = t.Tempo.Value })]),
            ["levels"] = new JsonArray([.. read.Passage.Levels.Marks.Select(m => (JsonNode)new JsonObject
            {
                ["tick"] = m.At.Value,
                ["voices"] = m.Voices.IsEmpty ? null : new JsonArray([.. m.Voices.Select(v => (JsonNode)v.Code)]),
                ["level"] = m.Level.Written(),
                ["hairpin"] = m.Hairpin,
            })]),
            ["unheard"] = new JsonArray([.. read.Passage.Unheard.OrderBy(u => u.Bar).ThenBy(u => u.Voice).Select(u => (JsonNode)new JsonObject { ["bar"] = u.Bar + 1, ["voice"] = u.Voice.Code })]),
            ["problems"] = new JsonArray([.. read.Problems.Select(ProblemOf)]),
            ["readBack"] = new JsonArray([.. ReadBack.Of(read.Passage).Select(s => (JsonNode)s)]),
        };
        if (lean) return answer;
        answer["strokes"] = new JsonArray([.. read.Passage.Strokes.Select(s => StrokeOf(s, read.Passage))]);
        answer["canonical"] = CountWriter.Write(read.Passage, read.Title);
        return answer;
    }

    private static JsonNode StrokeOf(Stroke stroke, Passage passage) => new JsonObject
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
        ["echo"] = stroke.Echo,
        ["grace"] = stroke.Grace?.Code,
        ["ornamentUnsure"] = stroke.OrnamentUnsure,
        ["level"] = Math.Round(passage.LevelOf(stroke), 4),
    };

    private static JsonNode ProblemOf(Problem problem) => new JsonObject
    {
        ["severity"] = problem.Severity.ToString().ToLowerInvariant(),
        ["line"] = problem.At.Line,
        ["column"] = problem.At.Column,
        ["length"] = problem.At.Length,
        ["message"] = problem.Message,
        ["fixes"] = new JsonArray([.. problem.Fixes.Select(fix => (JsonNode)new JsonObject
        {
            ["says"] = fix.Says,
            ["edits"] = new JsonArray([.. fix.Edits.Select(e => (JsonNode)new JsonObject { ["line"] = e.At.Line, ["column"] = e.At.Column, ["length"] = e.At.Length, ["text"] = e.Text })]),
        })]),
    };
}
