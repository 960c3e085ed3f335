using System.Globalization;
using System.Text.Json;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Web.Api;

/// <param name="Tick">Of the exemplar.</param>
/// <param name="Strength">How surely it is there, 0 to 1.</param>
public sealed record FoundStrokeAnswer(int Tick, string Voice, double Strength);

/// <param name="At">Seconds of the idea's first stroke, where it falls or would fall.</param>
/// <param name="Bar">Of that, from 1; null where no bars were told.</param>
public sealed record FoundPlaceAnswer(double At, int? Bar, double Score, IReadOnlyList<FoundStrokeAnswer> Strokes);

/// <param name="Places">The best first, 200 at most.</param>
public sealed record FindAnswer(IReadOnlyList<FoundPlaceAnswer> Places);

/// <param name="Bar">From 1.</param>
/// <param name="At">Seconds of its bar line.</param>
public sealed record MarkRequest(int Bar, double At);

/// <summary>Looks for an idea in a sound that is sent.</summary>
public static class LookingApi
{
    private const long MostBytes = 512L * 1024 * 1024;
    private static readonly JsonSerializerOptions Web = new(JsonSerializerDefaults.Web);

    public static void MapLooking(this IEndpointRouteBuilder routes) =>
        routes.MapPost("/api/sound/find", FindAsync).WithName("FindInSound").WithTags("sound").DisableAntiforgery()
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(MostBytes))
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestFormLimitsAttribute { MultipartBodyLengthLimit = MostBytes })
            .WithSummary("Places of a sound where an idea may be, ranked: `idea`, JSON as in /api/ideas/match; `sound`, a WAV file; where "
                + "bars are "
                + "known, `tempo`, `meter` and `marks`, JSON `[{bar, at}]`.").Accepts<IFormFile>("multipart/form-data")
                .Produces<FindAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);

    private static async Task<IResult> FindAsync(HttpRequest request, CancellationToken stop)
    {
        if (!request.HasFormContentType) return Refuse("Send a multipart form with idea and sound.");
        var form = await request.ReadFormAsync(stop);
        var problems = new List<string>();
        var idea = IdeasApi.Read(Json<MatchIdea>(form["idea"], "idea", problems), [], problems);
        var marks = Json<List<MarkRequest>>(form["marks"], "marks", problems);
        if (marks is not null && (marks.Any(m => m.Bar is < 1 or > UploadLimits.Bars || m.At is not (>= 0 and < 86_400))
            || marks.Zip(marks.Skip(1)).Any(p => p.Second.Bar <= p.First.Bar || p.Second.At <= p.First.At)))
            problems.Add("marks are bars from 1 and their seconds, each later than the one before.");
        var tempo = Tempo(form["tempo"], problems);
        var meters = Meters(form["meter"], problems);
        if (form.Files["sound"] is null) problems.Add("sound is a WAV file.");
        if (problems.Count > 0) return Refuse(string.Join(' ', problems));
        var (sent, problem) = await SentSound.HearAsync(form.Files["sound"], samples: false, stop);
        if (sent is null) return Refuse(problem!);
        var strokes = HeardStrokes.In(sent.Heard, sent.Ear, SoundSearch.Eager);
        var bars = SoundBars.Of([.. (marks ?? []).Select(m => (m.Bar, new Seconds(m.At)))], meters, tempo, sent.Head.Seconds, sent.Heard,
            sent.Ear);
        return Results.Ok(new FindAnswer(bars is null ? [] : [.. SoundSearch.Of(idea!, bars, strokes).Select(p => new FoundPlaceAnswer(
            Math.Round(p.At, 4), p.Bar, Math.Round(p.Score, 4),
            [.. p.Strokes.Select(s => new FoundStrokeAnswer(s.Tick.Value, s.Voice.Code, Math.Round(s.Strength, 3)))]))]));
    }

    private static Bpm? Tempo(string? text, List<string> problems)
    {
        if (string.IsNullOrWhiteSpace(text)) return null;
        var tempo = double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var bpm) ? Bpm.Of(bpm) : null;
        if (tempo is null) problems.Add("tempo is 20 to 400 quarters a minute.");
        return tempo;
    }

    private static MeterCycle Meters(string? text, List<string> problems)
    {
        Meter?[] meters = [.. (text ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(Meter.Parse)];
        if (meters.Any(m => m is null)) problems.Add("meter is one or more meters in turn, such as 4/4 7/8.");
        return new(meters.Length == 0 || meters.Any(m => m is null) ? [Meter.CommonTime] : [.. meters.Select(m => m!)]);
    }

    private static T? Json<T>(string? text, string field, List<string> problems) where T : class
    {
        if (string.IsNullOrWhiteSpace(text)) return null;
        try
        {
            return JsonSerializer.Deserialize<T>(text, Web);
        }
        catch (JsonException)
        {
            problems.Add($"{field} is no JSON that can be read.");
            return null;
        }
    }

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);
}
