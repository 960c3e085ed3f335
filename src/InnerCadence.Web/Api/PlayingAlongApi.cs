using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Practice;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Web.Api;

/// <param name="At">Seconds from the first bar line of the first round.</param>
/// <param name="Note">Of MIDI, 0 to 127, told as the note map of this installation says; null where <paramref name="Voice"/> says the
/// drum.</param>
/// <param name="Velocity">0 to 127; null from keys.</param>
public sealed record PlayedStrokeRequest(double At, int? Note, string? Voice, double? Velocity);

/// <param name="Lines">Seconds of the bar lines of a round, where it is played along a record; null at the tempo.</param>
/// <param name="Rounds">That were played to their end.</param>
/// <param name="LateMs">What is taken off every stroke: how late this pad and this loudspeaker are.</param>
public sealed record PlayedRequest(string? Text, double? Tempo, int Rounds, IReadOnlyList<PlayedStrokeRequest>? Strokes, double LateMs = 0,
    IReadOnlyList<double>? Lines = null);

public sealed record PlayedVoiceAnswer(string Voice, string Name, int Written, int Early, int Late, int Missed, int Extra, int Loud,
    int Soft);

/// <param name="MeanMs">Of the strokes that were met, late positive; null where none was.</param>
public sealed record PlayedRoundAnswer(bool Clean, string Words, double? MeanMs, IReadOnlyList<PlayedVoiceAnswer> Voices);
public sealed record PlayedAnswer(IReadOnlyList<PlayedRoundAnswer> Rounds);

/// <summary>What was played along on pads or keys, round by round.</summary>
public static class PlayingAlongApi
{
    private const int MostRounds = 400, MostStrokes = 40_000;

    public static void MapPlayingAlong(this IEndpointRouteBuilder routes) =>
        routes.MapPost("/api/practice/played", PlayedAsync).WithName("Played").WithTags("practice")
            .WithSummary("Scores strokes that were played along with a text: by voice early, late, missed, too many, too loud, too soft; "
                + "round by round.")
            .Produces<PlayedAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);

    private static async Task<IResult> PlayedAsync(PlayedRequest request, KnownSounds known, CancellationToken stop)
    {
        static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);
        var passage = CountLines.Parse(request.Text ?? "").Passage;
        if (passage.Strokes.Count == 0) return Refuse("text holds the count lines that are played: at least one stroke.");
        if (request.Rounds is < 0 or > MostRounds
            || request.Strokes is { Count: > MostStrokes }) return Refuse($"Up to {MostRounds} rounds and {MostStrokes} strokes at once.");
        if (request.Lines is { } told && (told.Count != passage.Bars + 1 || told.Zip(told.Skip(1)).Any(p => !(p.Second > p.First))))
            return Refuse("lines are the seconds of the bar lines of a round, one a bar and the end of the last, each later than the one "
                + "before.");
        var laid = request.Lines is { } lines ? new LaidBars([.. lines.Select(l => new Seconds(l - lines[0]))], passage)
            : LaidBars.AtItsTempo(passage, (request.Tempo is { } bpm ? Bpm.Of(bpm) : null) ?? Bpm.Usual);
        var map = await known.MapAsync(stop);
        var strokes = (request.Strokes ?? []).Where(s => double.IsFinite(s.At)).Select(s => (s.At, Voice: VoiceOf(s), s.Velocity))
            .Where(s => s.Voice is not null)
            .Select(s => new PadStroke(new(s.At - request.LateMs / 1000), s.Voice!, s.Velocity is { } v ? Math.Clamp(v / 127, 0, 1)
                : null)).ToList();
        var rounds = PlayedRounds.Of(passage, s => laid.At(Swing.Played(s.At, passage)), laid.End, request.Rounds, strokes);
        return Results.Ok(new PlayedAnswer([.. rounds.Select(r => new PlayedRoundAnswer(r.IsClean, r.Words, r.Mean is { } mean
            ? Math.Round(mean, 1) : null,
            [.. r.Voices.Select(v => new PlayedVoiceAnswer(v.Voice.Code, v.Voice.Name, v.Written, v.Early, v.Late, v.Missed, v.Extra,
                v.Loud, v.Soft))]))]));

        Voice? VoiceOf(PlayedStrokeRequest stroke) => stroke.Voice is { } code ? Voice.Find(code)
            : stroke.Note is { } note && map.Sounds.TryGetValue(note, out var sound) ? sound.Voice : null;
    }
}
