using System.Text;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;
using InnerCadence.Core.Sound;
using InnerCadence.Storage;
using InnerCadence.Web.Drawing;

namespace InnerCadence.Web.Api;

/// <summary>From one open format into another; nothing is kept.</summary>
public static class ConvertApi
{
    private static readonly string[] Readable = ["counts", "tab"], Writable = ["counts", "tab", "json", "svg", "wav"];

    public static void MapConvert(this IEndpointRouteBuilder routes)
    {
        routes.MapPost("/api/convert", ConvertAsync).WithName("Convert").WithTags("convert").WithSummary("The body is the file: count lines or drum-tab text in; count lines, drum-tab text, JSON, SVG or WAV out.")
            .Produces<string>().ProducesProblem(StatusCodes.Status400BadRequest);
        routes.MapGet("/passages/{passage}/as/{format}", OfPassageAsync).ExcludeFromDescription();
    }

    private static async Task<IResult> ConvertAsync(HttpRequest request, string? from, string? to, CancellationToken stop)
    {
        if (!Readable.Contains(from)) return Refuse($"from is one of {string.Join(", ", Readable)}.");
        if (!Writable.Contains(to)) return Refuse($"to is one of {string.Join(", ", Writable)}.");
        using var reader = new StreamReader(request.Body, new UTF8Encoding(false, true));
        string text;
        try
        {
            text = await reader.ReadToEndAsync(stop);
        }
        catch (DecoderFallbackException)
        {
            return Refuse("The body is no UTF-8 text.");
        }
        var read = from == "tab" ? DrumTab.Parse(text) : CountLines.Parse(text);
        if (to == "json") return Results.Json(CountLinesApi.Answer(read));
        var errors = read.Problems.Where(p => p.Severity == Severity.Error).Select(p => $"Line {p.At.Line}, column {p.At.Column}: {p.Message}").ToList();
        return errors.Count > 0
            ? Results.Problem(errors[0], statusCode: StatusCodes.Status400BadRequest, extensions: new Dictionary<string, object?> { ["problems"] = errors })
            : Write(read, to!, null, null);
    }

    private static async Task<IResult> OfPassageAsync(PassageId passage, string format, Passages passages, CancellationToken stop) =>
        (Writable.Contains(format) || format is "ring" or "words") && await passages.FindAsync(passage, stop) is { } row
            ? Write(CountLines.Parse(row.Text), format, $"passage-{passage}", row.RecordingTempo is { } bpm ? Bpm.Of(bpm) : null) : Results.NotFound();

    private static IResult Write(CountText read, string format, string? name, Bpm? tempo) => format switch
    {
        "counts" => Results.File(Encoding.UTF8.GetBytes(CountWriter.Write(read.Passage, read.Title)), "text/plain; charset=utf-8", name is null ? null : name + ".counts.txt"),
        "tab" => Results.File(Encoding.UTF8.GetBytes(DrumTab.Write(read.Passage).Text), "text/plain; charset=utf-8", name is null ? null : name + ".tab.txt"),
        "json" => Results.File(Encoding.UTF8.GetBytes(CountLinesApi.Answer(read).ToJsonString()), "application/json", name is null ? null : name + ".json"),
        "ring" => Results.File(Encoding.UTF8.GetBytes(StandaloneSvg.Of(Ring.Draw(read.Passage))), "image/svg+xml", name + "-ring.svg"),
        "words" => Results.File(Encoding.UTF8.GetBytes(string.Join('\n', ReadBack.Of(read.Passage)) + "\n"), "text/plain; charset=utf-8", name + ".words.txt"),
        "svg" => Results.File(Encoding.UTF8.GetBytes(StandaloneSvg.Of(Strands.Draw(read.Passage, new()))), "image/svg+xml", name is null ? null : name + ".svg"),
        _ => Results.File(Wav.Write(Mixdown.Render(Performance.Of(read.Passage, tempo), SoundApi.Sound), 2), "audio/wav", name is null ? null : name + ".wav"),
    };

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);
}
