using System.Text.Json.Serialization;
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

/// <param name="High">Null where the taps say no upper end.</param>
public sealed record TempoAnswer(double Bpm, double Low, double? High, int Used, int Dropped);

public sealed record ModulationAnswer(double Bpm);

/// <summary>A ratio with its interval, or why there is none.</summary>
public sealed record SwingAnswer(int N)
{
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? Ratio { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? Low { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public double? High { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public string? Status { get; init; }
}

/// <summary>Tempo, modulation and swing from bare numbers; nothing is kept.</summary>
public static class TimeApi
{
    private const int MostNumbers = 10_000;

    public static void MapTime(this IEndpointRouteBuilder routes)
    {
        var time = routes.MapGroup("/api/time").WithTags("time");
        time.MapPost("/tempo", Tempo).WithName("TappedTempo").WithSummary("Tempo of taps with its 95 % interval.").Produces<TempoAnswer>()
            .ProducesProblem(StatusCodes.Status400BadRequest);
        time.MapPost("/modulation", Modulate).WithName("Modulation").WithSummary("The tempo after a note value takes over as another.")
            .Produces<ModulationAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
        time.MapPost("/swing", Swing).WithName("Swing").WithSummary("How far beats are swung, with its 95 % interval.")
            .Produces<SwingAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
    }

    private static IResult Tempo(TempoRequest request)
    {
        if (request.Taps is not { Length: <= MostNumbers } taps
            || taps.Any(t => !double.IsFinite(t))) return Refuse($"taps are at most {MostNumbers} times in seconds.");
        return TappedTempo.Of(taps) is { } tempo
            ? Results.Ok(new TempoAnswer(tempo.Bpm, tempo.Low, double.IsFinite(tempo.High) ? tempo.High : null, tempo.Used, tempo.Dropped))
            : Refuse($"Fewer than {TappedTempo.Least} of the taps are steady: tap at least {TappedTempo.Least} beats in a row.");
    }

    private static IResult Modulate(ModulationRequest request)
    {
        if (!(request.Bpm is > 0 and < 10_000)) return Refuse("bpm is a tempo above zero.");
        if (NoteValue.Parse(request.OldValue) is not { } oldValue) return Refuse(Wrong("oldValue", request.OldValue));
        if (NoteValue.Parse(request.NewValue) is not { } newValue) return Refuse(Wrong("newValue", request.NewValue));
        if (NoteValue.Parse(request.OldBeat ?? "1/4") is not { } oldBeat) return Refuse(Wrong("oldBeat", request.OldBeat));
        if (NoteValue.Parse(request.NewBeat ?? "1/4") is not { } newBeat) return Refuse(Wrong("newBeat", request.NewBeat));
        return Results.Ok(new ModulationAnswer(new Modulation(oldValue, newValue, oldBeat, newBeat).Of(request.Bpm)));
    }

    private static IResult Swing(SwingRequest request)
    {
        if (request.Beats is not { Length: <= MostNumbers } beats
            || beats.Any(b => b is not [var on, var off, var next] || !(on < off && off < next)))
            return Refuse("beats are triples of seconds: a beat, its off-beat, the next beat, in this order.");
        return MeasuredSwing.Of([.. beats.Select(b => (b[0], b[1], b[2]))]) is { } swing
            ? Results.Ok(new SwingAnswer(swing.Beats) { Ratio = swing.Ratio, Low = swing.Low, High = swing.High })
            : Results.Ok(new SwingAnswer(beats.Length) { Status = $"fewer than {MeasuredSwing.Least} off-beats" });
    }

    private static string Wrong(string name, string? text) => text is null ? $"{name} is missing: a share of a whole note, such as 3/16."
        : $"‘{text}’ in {name} is no note value: write a share of a whole note, such as 3/16.";

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);
}
