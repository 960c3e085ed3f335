using System.Globalization;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Web.Api;

/// <param name="At">Seconds from the start of the sound.</param>
/// <param name="Strength">How sure it is that the family was struck, 0 to 1.</param>
/// <param name="Family">kick, snare, hat, ride, crash, tom or bell.</param>
/// <param name="Voice">The finer name: cross-stick, closed hat, open hat, hat foot, cowbell, or the family's own; null without the
/// ear.</param>
/// <param name="Loudness">As MIDI velocity / 127; null without the ear.</param>
/// <param name="Dynamic">ghost, normal or accent; null without the ear.</param>
/// <param name="Confidence">0.5 where it only just counts as a stroke, 1 where nothing else can be meant.</param>
public sealed record OnsetAnswer(double At, double Strength, string Family, string? Voice, double? Loudness, string? Dynamic,
    double Confidence);

/// <param name="Bar">A bar line is there.</param>
public sealed record BeatAnswer(double At, bool Bar);

public sealed record TempoWeightAnswer(double Bpm, double Weight);

/// <param name="From">Seconds from the start of the sound, and so <paramref name="To"/>.</param>
/// <param name="After">The delay, in seconds.</param>
/// <param name="Decibels">How much louder the echo is than what it repeats: below 0.</param>
public sealed record EchoAnswer(double From, double To, double After, double Decibels);

/// <param name="Onsets">One a stroke, in order of time.</param>
/// <param name="Tempo">In beats a minute, the likeliest first.</param>
/// <param name="Ear">The trained ear heard it; else the rules did.</param>
/// <param name="Echoes">Taken out before it was listened to.</param>
public sealed record OnsetsAnswer(double Seconds, IReadOnlyList<OnsetAnswer> Onsets, IReadOnlyList<BeatAnswer> Beats,
    IReadOnlyList<TempoWeightAnswer> Tempo, bool Ear, IReadOnlyList<EchoAnswer> Echoes);

/// <param name="Tick">From the first bar line.</param>
/// <param name="At">Seconds of the sound; of a flam its main stroke.</param>
/// <param name="OffsetMs">Against the fitted grid, late positive.</param>
/// <param name="FlamMs">From its grace stroke to it; null where none was heard.</param>
public sealed record MeasuredStrokeAnswer(int Tick, string Voice, double At, double OffsetMs, double Sureness, double? FlamMs);
public sealed record MissingStrokeAnswer(int Tick, string Voice);
public sealed record ExtraStrokeAnswer(double At, string Family, double Confidence);

/// <param name="Bar">From 1.</param>
/// <param name="Bpm">Quarters a minute from bar line to bar line.</param>
public sealed record BarTempoAnswer(int Bar, double Bpm);

/// <param name="Low">Of the 95 % interval; null below two strokes.</param>
public sealed record VoiceTimingAnswer(string Voice, double MeanMs, double? Low, double? High, int N);

/// <param name="OffsetMs">Against what is usual there.</param>
public sealed record OddStrokeAnswer(int Tick, string Voice, double OffsetMs);
public sealed record MeasuredSwingAnswer(double Ratio, double Low, double High, int N);

/// <param name="Missing">Written, and not in the sound.</param>
/// <param name="Extra">Sounds between the passage's first and last bar line, and is not written.</param>
/// <param name="Timekeeper">The voice whose mean is 0 by the grid; null where nothing was matched.</param>
/// <param name="Swing">Null with fewer than 8 off-beats.</param>
public sealed record MeasuredAnswer(IReadOnlyList<MeasuredStrokeAnswer> Strokes, IReadOnlyList<MissingStrokeAnswer> Missing,
    IReadOnlyList<ExtraStrokeAnswer> Extra, IReadOnlyList<BarTempoAnswer> Bars, IReadOnlyList<VoiceTimingAnswer> Voices,
    IReadOnlyList<OddStrokeAnswer> Odd, MeasuredSwingAnswer? Swing, string? Timekeeper);

/// <summary>What is heard in a sound that is sent.</summary>
public static class HearingApi
{
    private const long MostBytes = 1024L * 1024 * 1024;

    public static void MapHearing(this IEndpointRouteBuilder routes)
    {
        routes.MapPost("/api/sound/onsets", OnsetsAsync).WithName("Onsets").WithTags("sound")
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(MostBytes))
            .WithSummary("The body is a WAV file, read as it comes: the strokes in it, its beats and tempos it may have. Proposals only.")
                .Produces<OnsetsAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
        routes.MapPost("/api/sound/measure", MeasureAsync).WithName("Measure").WithTags("sound").DisableAntiforgery()
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(MostMeasured))
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestFormLimitsAttribute { MultipartBodyLengthLimit = MostMeasured })
            .WithSummary("A passage measured against its sound: `text`, count lines whose tempo may be 2 % wrong; `at`, seconds of its "
                + "first bar "
                + "line, up to 20 ms wrong; `sound`, a WAV file.").Accepts<IFormFile>("multipart/form-data")
                .Produces<MeasuredAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);
    }

    private const long MostMeasured = 128L * 1024 * 1024;

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);

    private static async Task<IResult> MeasureAsync(HttpRequest request, CancellationToken stop)
    {
        if (!request.HasFormContentType) return Refuse("Send a multipart form with text, at and sound.");
        var form = await request.ReadFormAsync(stop);
        var passage = CountLines.Parse(form["text"].ToString()).Passage;
        if (passage.Bars == 0) return Refuse("text holds the count lines of the passage: at least one bar.");
        if (!double.TryParse(form["at"], NumberStyles.Float, CultureInfo.InvariantCulture, out var at) || at is not (>= 0 and < 86_400))
            return Refuse("at is the second of the sound at which the passage's first bar line lies.");
        var (sent, problem) = await SentSound.HearAsync(form.Files["sound"], samples: true, stop);
        if (sent is null) return Refuse(problem!);
        var heard = HeardStrokes.In(sent.Heard, sent.Ear, Measured.Eager);
        var times = new RiseTimes(sent.Mono, sent.Head.Rate, Seconds.Zero, sent.Heard.Echoes);
        return Results.Ok(Told(Measured.Of(passage, new(at), passage.Tempo ?? Bpm.Usual, heard, times)));
    }

    private static MeasuredAnswer Told(Measured measured) => new(
        [.. measured.Strokes.Select(s => new MeasuredStrokeAnswer(s.Stroke.At.Value, s.Stroke.Voice.Code, Math.Round(s.At, 4),
            Math.Round(s.Offset, 2),
            Math.Round(s.Sureness, 3), s.Flam is { } flam ? Math.Round(flam, 2) : null))],
        [.. measured.Missing.Select(s => new MissingStrokeAnswer(s.At.Value, s.Voice.Code))],
        [.. measured.Extra.Select(s => new ExtraStrokeAnswer(Math.Round(s.At, 4), s.Family.ToString().ToLowerInvariant(),
            Math.Round(s.Confidence, 3)))],
        [.. measured.Bars.Select((bpm, bar) => new BarTempoAnswer(bar + 1, Math.Round(bpm, 3)))],
        [.. measured.Voices.Select(v => new VoiceTimingAnswer(v.Voice.Code, Math.Round(v.Mean, 2), v.Interval is { } i
            ? Math.Round(i.Low, 2) : null,
            v.Interval is { } j ? Math.Round(j.High, 2) : null, v.Strokes))],
        [.. measured.Odd.Select(o => new OddStrokeAnswer(o.At.Value, o.Voice.Code, Math.Round(o.Milliseconds, 2)))],
        measured.Swung is { } swing ? new(Math.Round(swing.Ratio, 3), Math.Round(swing.Low, 3), Math.Round(swing.High, 3), swing.Beats)
            : null,
        measured.Timekeeper?.Code);

    private static async Task<IResult> OnsetsAsync(HttpRequest request, CancellationToken stop)
    {
        var start = new byte[WavHead.Most];
        var filled = await request.Body.ReadAtLeastAsync(start, start.Length, throwOnEndOfStream: false, stop);
        var (head, problem) = WavHead.Read(start.AsSpan(0, filled), filled < start.Length ? filled : request.ContentLength
            ?? long.MaxValue);
        if (head is null) return Results.Problem(problem, statusCode: StatusCodes.Status400BadRequest);
        if (ShippedEar.Find() is not { } ear)
        {
            var onsets = new Onsets(head.Rate);
            var lasts = await SamplesAsync(request.Body, head, start.AsMemory(0, filled), onsets.Add, stop);
            return Results.Ok(Told(lasts, RuleStrokes.Of(onsets.Found()), HeardBeats.None with { Tempos = [.. onsets.Tempos()] }, null));
        }
        var pass = new EarPass(ear, head.Rate);
        var seconds = await SamplesAsync(request.Body, head, start.AsMemory(0, filled), pass.Add, stop);
        var heard = pass.End();
        var strokes = HeardStrokes.In(heard, ear);
        return Results.Ok(Told(seconds, strokes, HeardBeats.Of(heard, strokes), heard.Echoes));
    }

    internal delegate void Take(ReadOnlySpan<float> mono);

    /// <summary>Hands over the samples of a body as it comes.</summary>
    /// <param name="start">What was read of it already, its head among it.</param>
    /// <returns>How many seconds came.</returns>
    internal static async Task<double> SamplesAsync(Stream body, WavHead head, ReadOnlyMemory<byte> start, Take take,
        CancellationToken stop)
    {
        var (bytes, mono, sides) = (new byte[head.FrameBytes * 16384], new float[16384], new SidesAsOne());
        var (left, rest) = (head.DataBytes, start[(int)head.DataStart..]);
        while (left > 0)
        {
            var wanted = (int)Math.Min(bytes.Length, left);
            var read = Math.Min(wanted, rest.Length);
            rest[..read].CopyTo(bytes);
            rest = rest[read..];
            if (read < wanted) read += await body.ReadAtLeastAsync(bytes.AsMemory(read, wanted - read), wanted - read,
                throwOnEndOfStream: false, stop);
            if (read == 0) break;
            left -= read;
            take(mono.AsSpan(0, head.Decode(bytes.AsSpan(0, read - read % head.FrameBytes), mono, sides)));
        }
        return Math.Round(head.Seconds - (double)left / head.FrameBytes / head.Rate, 3);
    }

    /// <param name="echoes">Nothing where the rules heard it.</param>
    private static OnsetsAnswer Told(double seconds, IReadOnlyList<HeardStroke> strokes, HeardBeats beats,
        IReadOnlyList<HeardEcho>? echoes) => new(seconds,
        [.. strokes.Select(s => new OnsetAnswer(Math.Round(s.At, 4), Math.Round(s.Strength, 3), s.Family.ToString().ToLowerInvariant(),
            echoes is not null ? NameOf(s) : null, s.Loudness is { } loud ? Math.Round(loud, 3) : null,
            echoes is not null ? s.Dynamic.ToString().ToLowerInvariant() : null, Math.Round(s.Confidence, 3)))],
        [.. beats.Beats.Select(b => new BeatAnswer(Math.Round(b.At, 4), b.Bar))],
        [.. beats.Tempos.Select(t => new TempoWeightAnswer(t.Bpm, t.Weight))], echoes is not null,
        [.. (echoes ?? []).Select(e => new EchoAnswer(e.From, e.To, Math.Round(e.After, 5), Math.Round(e.Decibels, 1)))]);

    private static string NameOf(HeardStroke stroke) => stroke switch
    {
        { Openness: Openness.Open } => "open hat",
        { Openness: not null } => "closed hat",
        { Family: Family.Bell } when stroke.Voice == Voice.RideBell => "bell",
        _ => stroke.Voice.Name,
    };
}
