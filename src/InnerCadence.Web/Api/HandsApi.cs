using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Api;

/// <param name="FixedVoices">Voices that are always played with one hand: {"CB": "R"}.</param>
/// <param name="School">natural-lead, alternate, doubles or ride-hand; natural-lead unless said.</param>
/// <param name="Most">How many options, 1 to 20; 5 unless said.</param>
public sealed record StickingsRequest(string? Text, string? Handedness = null, IReadOnlyDictionary<string, string>? FixedVoices = null,
    string? School = null, int? Most = null, bool Looped = false);

public sealed record RudimentAnswer(string Name, int StartTick, int EndTick);

/// <param name="Sticking">A letter a moment: R, L, or B for both.</param>
public sealed record StickingAnswer(string Sticking, double Cost, IReadOnlyList<string> Reasons, IReadOnlyList<RudimentAnswer> Rudiments);

/// <param name="Options">Cheapest first.</param>
public sealed record StickingsAnswer(IReadOnlyList<StickingAnswer> Options, IReadOnlyList<string> Problems);

/// <summary>Ways to stick a text, with costs, reasons and the rudiments in them; nothing is kept.</summary>
public static class HandsApi
{

    public static void MapHands(this IEndpointRouteBuilder routes) =>
        routes.MapPost("/api/hands/stickings", Stickings).WithName("Stickings").WithTags("hands")
            .WithSummary("The cheapest stickings of a text, with their reasons and rudiments.")
            .Produces<StickingsAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);

    private static IResult Stickings(StickingsRequest request)
    {
        if (request.Text is null) return Refuse("Send {\"text\": \"…\"}: the count lines to stick.");
        if (request.Most is < 1 or > 20) return Refuse("most is a number from 1 to 20.");
        var passage = CountLines.Parse(request.Text).Passage with { Looped = request.Looped };
        var handedness = passage.Hands ?? Handedness.Right;
        if (request.Handedness is { } hands && (!Enum.TryParse(hands, true, out handedness) || !Enum.IsDefined(handedness)
            || !char.IsLetter(hands[0]))) return Refuse("handedness is right, left or open.");
        var school = request.School is null ? School.All[0] : School.Find(request.School);
        if (school is null) return Refuse($"school is one of {string.Join(", ", School.All.Select(s => s.Word))}.");
        var tied = new Dictionary<Voice, Side>();
        foreach (var (code, hand) in request.FixedVoices ?? new Dictionary<string, string>())
        {
            if (Voice.Find(code) is not { Limbs: LimbClass.Hand } voice
                || hand is not ("R" or "L")) return Refuse("fixedVoices ties codes of drums that hands play to R or L, such as {\"CB\": "
                + "\"R\"}.");
            tied[voice] = hand == "R" ? Side.Right : Side.Left;
        }
        var settings = StickingSettings.Usual with
        {
            Handedness = handedness,
            Tempo = passage.Tempo ?? Bpm.Usual,
            School = school,
            Tied = tied
        };
        var found = Sticking.Of(passage, settings, request.Most ?? 5);
        return Results.Ok(new StickingsAnswer(
            [.. found.Options.Select(o => new StickingAnswer(o.Letters, o.Cost, [.. o.Reasons],
                [.. RudimentFinder.In(o.In(passage)).Select(r => new RudimentAnswer(r.Rudiment.Name, r.Start.Value, r.End.Value))]))],
            found.Problems));
    }

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);
}
