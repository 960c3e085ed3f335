using System.Text;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Interchange;

namespace InnerCadence.Web.Api;

/// <summary>From one open format into another; nothing is kept.</summary>
public static class ConvertApi
{
    private static readonly string[] Readable = ["counts", "tab", "midi", "musicxml", "json"],
        Writable = ["counts", "tab", "midi", "musicxml", "mxl", "json", "svg", "wav"];

    /// <summary>What a passage or an idea is saved as, with the words for it.</summary>
    public static IReadOnlyList<(string Format, string Words)> Takeaways { get; } =
        [("wav", "WAV"), ("counts", "count lines"), ("tab", "drum tab"), ("midi", "MIDI"), ("musicxml", "MusicXML"),
            ("musicxml?sticking=fingering", "MusicXML, hands as fingering"), ("mxl", "MusicXML, compressed"), ("svg", "strands (SVG)"),
            ("ring", "ring (SVG)"), ("words", "words"), ("json", "JSON")];

    public static void MapConvert(this IEndpointRouteBuilder routes)
    {
        routes.MapPost("/api/convert", ConvertAsync).WithName("Convert").WithTags("convert")
            .WithSummary("The body is the file: count lines, drum-tab text, MIDI or MusicXML in; those, JSON, SVG or WAV out.")
            .Produces<ParseAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
        routes.MapGet("/passages/{passage}/as/{format}", OfPassageAsync).ExcludeFromDescription();
        routes.MapGet("/ideas/{idea}/as/{format}", OfIdeaAsync).ExcludeFromDescription();
    }

    private static async Task<IResult> ConvertAsync(HttpRequest request, string? from, string? to, string? sticking, KnownSounds sounds,
        CancellationToken stop)
    {
        if (!Readable.Contains(from)) return Refuse($"from is one of {string.Join(", ", Readable)}.");
        if (sticking is not (null or "nothing" or "lyrics" or "fingering")) return Refuse("sticking is one of nothing, lyrics, fingering.");
        if (!Writable.Contains(to)) return Refuse($"to is one of {string.Join(", ", Writable)}.");
        using var body = new MemoryStream();
        await request.Body.CopyToAsync(body, stop);
        if (from is "midi" or "musicxml" or "json")
        {
            if (ScoreFiles.Read(body.ToArray(), out var problem, await sounds.MapAsync(stop), stop) is not { } score) return Refuse(
                problem!);
            if (score.Kind != from switch { "midi" => "MIDI", "musicxml" => "MusicXML", _ => "JSON" }) return Refuse(
                $"The body is {score.Kind}, not {from}.");
            if (score.Passage.Strokes.IsEmpty) return Refuse(
                $"No drum is known for any of its sounds: {string.Join(", ", score.Unknown.Select(u => u.Called).Take(12))}.");
            return to == "json" ? Results.Json(CountLinesApi.Answer(CountLines.Parse(score.Text)))
                : Write(CountLines.Parse(score.Text), to!, null, null, sticking);
        }
        string text;
        try
        {
            text = new UTF8Encoding(false, true).GetString(body.ToArray());
        }
        catch (DecoderFallbackException)
        {
            return Refuse("The body is no UTF-8 text.");
        }
        var read = from == "tab" ? DrumTab.Parse(text) : CountLines.Parse(text);
        if (to == "json") return Results.Json(CountLinesApi.Answer(read));
        var errors = read.Problems.Where(p => p.Severity == Severity.Error)
            .Select(p => $"Line {p.At.Line}, column {p.At.Column}: {p.Message}").ToList();
        return errors.Count > 0
            ? Results.Problem(errors[0], statusCode: StatusCodes.Status400BadRequest, extensions: new Dictionary<string,
                object?>
            { ["problems"] = errors })
            : Write(read, to!, null, null, sticking);
    }

    private static async Task<IResult> OfPassageAsync(PassageId passage, string format, string? sticking, PassageStore passages,
        MeasurementStore measurements, KnownSounds sounds, CancellationToken stop) =>
        (Writable.Contains(format) || format is "ring" or "words") && await passages.FindAsync(passage, stop) is { } row
            ? Write(CountLines.Parse(row.Text), format, $"passage-{passage}", row.RecordingTempo is { } bpm ? Bpm.Of(bpm) : null, sticking,
                await sounds.MapAsync(stop), await measurements.PlayedAsync(row, stop)) : Results.NotFound();

    private static async Task<IResult> OfIdeaAsync(IdeaId idea, string format, string? sticking, IdeaStore ideas, KnownSounds sounds,
        CancellationToken stop) =>
        (Writable.Contains(format) || format is "ring" or "words") && await ideas.FindAsync(idea, stop) is { } row
            ? Write(CountLines.Parse(row.Text), format, $"idea-{idea}", null, sticking, await sounds.MapAsync(stop)) : Results.NotFound();

    private static IResult Write(CountText read, string format, string? name, Bpm? tempo, string? sticking, PercussionMap? map = null,
        IReadOnlyList<StrokeOffset>? offsets = null) => format switch
        {
            "counts" => Results.File(Encoding.UTF8.GetBytes(CountWriter.Write(read.Passage, read.Title)), "text/plain; charset=utf-8",
                name is null ? null : name + ".counts.txt"),
            "tab" => Results.File(Encoding.UTF8.GetBytes(DrumTab.Write(read.Passage).Text), "text/plain; charset=utf-8",
                name is null ? null : name + ".tab.txt"),
            "json" => Results.File(System.Text.Json.JsonSerializer.SerializeToUtf8Bytes(CountLinesApi.Answer(read),
                System.Text.Json.JsonSerializerOptions.Web), "application/json", name is null ? null : name + ".json"),
            "midi" => Results.File(MidiPassage.Write(read.Passage, map ?? PercussionMap.General, tempo, read.Title ?? "", offsets).Write(),
                "audio/midi", name is null ? null : name + ".mid"),
            "musicxml" => Results.File(ScoreFiles.MusicXmlBytes(read.Passage, read.Title ?? "", false, StickingOf(sticking)),
                "application/vnd.recordare.musicxml+xml", name is null ? null : name + ".musicxml"),
            "mxl" => Results.File(ScoreFiles.MusicXmlBytes(read.Passage, read.Title ?? "", true, StickingOf(sticking)),
                "application/vnd.recordare.musicxml", name is null ? null : name + ".mxl"),
            "ring" => Results.File(Encoding.UTF8.GetBytes(StandaloneSvg.Of(Ring.Draw(read.Passage))), "image/svg+xml", name + "-ring.svg"),
            "words" => Results.File(Encoding.UTF8.GetBytes(string.Join('\n', ReadBack.Of(read)) + "\n"),
                "text/plain; charset=utf-8",
                name + ".words.txt"),
            "svg" => Results.File(Encoding.UTF8.GetBytes(StandaloneSvg.Of(Strands.Draw(read.Passage, new()))), "image/svg+xml",
                name is null ? null : name + ".svg"),
            _ => Results.File(Wav.Write(Mixdown.Render(Rendition.Of(read.Passage, tempo), SoundApi.Sound), 2), "audio/wav",
                name is null ? null : name + ".wav"),
        };

    /// <summary>How hands are written into a score: as lyrics unless something else is asked for.</summary>
    private static StickingAs StickingOf(string? word) => Enum.TryParse<StickingAs>(word, ignoreCase: true, out var asked) ? asked
        : StickingAs.Lyrics;

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);
}
