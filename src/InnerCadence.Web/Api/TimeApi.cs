using System.Text.Json.Nodes;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Web.Api;

/// <param name="Taps">Seconds.</param>
public sealed record TempoRequest(double[]? Taps);

/// <param name="OldValue">Share of a whole note, 3/16 for a dotted eighth.</param>
/// <param name="OldBeat">What the old tempo counts; a quarter if not said.</param>
public sealed record ModulationRequest(double Bpm, string? OldValue, string? NewValue, string? OldBeat, string? NewBeat);

/// <param name="Beats">Seconds of each beat, its off-beat and the next beat.</param>
public sealed record SwingRequest(double[][]? Beats);

/// <summary>Tempo, modulation and swing from bare numbers; nothing is kept.</summary>
public static class TimeApi
{
    private const int MostNumbers = 10_000;

    public static void MapTime(this IEndpointRouteBuilder routes)
    {
        var time = routes.MapGroup("/api/time").WithTags("time");
        time.MapPost("/tempo", Tempo).WithName("TappedTempo").WithSummary("Tempo of taps with its 95 % interval.").Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        time.MapPost("/modulation", Modulate).WithName("Modulation").WithSummary("The tempo after a note value takes over as another.").Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        time.MapPost("/swing", Swing).WithName("Swing").WithSummary("How far beats are swung, with its 95 % interval.").Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
    }

    private static IResult Tempo(TempoRequest request)
    {
        if (request.Taps is not { Length: <= MostNumbers } taps || taps.Any(t => !double.IsFinite(t))) return Refuse($"taps are at most {MostNumbers} times in seconds.");
        return TappedTempo.Of(taps) is { } tempo
            ? Results.Json(new JsonObject
            {
                ["bpm"] = tempo.Bpm,
                ["low"] = tempo.Low,
                ["high"] = double.IsFinite(tempo.High) ? tempo.High : null,
                ["used"] = tempo.Used,
                ["dropped"] = tempo.Dropped,
            })
            : Refuse($"Fewer than {TappedTempo.Least} of the taps are steady: tap at least {TappedTempo.Least} beats in a row.");
    }

    private static IResult Modulate(ModulationRequest request)
    {
        if (!(request.Bpm is > 0 and < 10_000)) return Refuse("bpm is a tempo above zero.");
        if (NoteValue.Parse(request.OldValue) is not { } oldValue) return Refuse(Wrong("oldValue", request.OldValue));
        if (NoteValue.Parse(request.NewValue) is not { } newValue) return Refuse(Wrong("newValue", request.NewValue));
        if (NoteValue.Parse(request.OldBeat ?? "1/4") is not { } oldBeat) return Refuse(Wrong("oldBeat", request.OldBeat));
        if (NoteValue.Parse(request.NewBeat ?? "1/4") is not { } newBeat) return Refuse(Wrong("newBeat", request.NewBeat));
        return Results.Json(new JsonObject { ["bpm"] = new Modulation(oldValue, newValue, oldBeat, newBeat).Of(request.Bpm) });
    }

    private static IResult Swing(SwingRequest request)
    {
        if (request.Beats is not { Length: <= MostNumbers } beats || beats.Any(b => b is not [var on, var off, var next] || !(on < off && off < next)))
            return Refuse("beats are triples of seconds: a beat, its off-beat, the next beat, in this order.");
        return MeasuredSwing.Of([.. beats.Select(b => (b[0], b[1], b[2]))]) is { } swing
            ? Results.Json(new JsonObject { ["ratio"] = swing.Ratio, ["low"] = swing.Low, ["high"] = swing.High, ["n"] = swing.Beats })
            : Results.Json(new JsonObject { ["status"] = $"fewer than {MeasuredSwing.Least} off-beats", ["n"] = beats.Length });
    }

    private static string Wrong(string name, string? text) => text is null ? $"{name} is missing: a share of a whole note, such as 3/16." : $"‘{text}’ in {name} is no note value: write a share of a whole note, such as 3/16.";

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);
}
