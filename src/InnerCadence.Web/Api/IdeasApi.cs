using System.Text.Json;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Sightings;

namespace InnerCadence.Web.Api;

/// <summary>An idea and a passage to look for it in.</summary>
public sealed record MatchRequest(MatchIdea? Idea, MatchPassage? Passage);

/// <param name="SpanTicks">From the idea's first stroke; without it the idea ends with the beat of its last stroke.</param>
/// <param name="Scope">Codes of its voices; without it they follow from the exemplar and the rules.</param>
/// <param name="Rules">Settings in the words of the design pages, with - for spaces.</param>
public sealed record MatchIdea(string? Text, int? SpanTicks, string[]? Scope, JsonElement? Rules);

public sealed record MatchPassage(string? Text, bool Looped);

/// <summary>One difference in data and in words.</summary>
public sealed record EditAnswer(string Kind, int? PatternTick, int? PassageTick, string Voice, string Text);

/// <param name="Factor">By how much the gaps are scaled: 1, 2/3.</param>
/// <param name="Verdict">exact, variant or near-miss.</param>
/// <param name="Unsure">How many of its strokes are marked unsure.</param>
public sealed record SightingAnswer(int StartTick, string Factor, string Verdict, int Cost, int Unsure, IReadOnlyList<string> Transforms,
    IReadOnlyList<EditAnswer> Edits, string Summary);

/// <param name="Sightings">In order of start.</param>
public sealed record MatchAnswer(IReadOnlyList<SightingAnswer> Sightings);

/// <summary>Looks for an idea in a passage without keeping anything.</summary>
public static class IdeasApi
{
    public static void MapIdeas(this IEndpointRouteBuilder routes) =>
        routes.MapPost("/api/ideas/match", Match).WithName("MatchIdea").WithTags("ideas")
            .WithSummary("Every place of a passage where an idea appears or almost appears, with its verdict and the differences in words.")
            .Produces<MatchAnswer>().ProducesProblem(StatusCodes.Status400BadRequest);

    private static IResult Match(MatchRequest request)
    {
        var problems = new List<string>();
        if (request.Passage?.Text is null) problems.Add("passage.text is missing: count lines to look in.");
        var passage = CountLines.Parse(request.Passage?.Text ?? "");
        problems.AddRange(Errors("passage.text", passage));
        if (Read(request.Idea, passage.Passage.Voices, problems) is not { } idea || problems.Count > 0) return Refuse(problems);
        var sightings = idea.FindIn(passage.Passage with { Looped = request.Passage!.Looped });
        return Results.Ok(new MatchAnswer([.. sightings.Select(s => new SightingAnswer(
            s.Start.Value, s.Factor.ToString(), s.Verdict.Word(), s.Cost, s.Unsure, s.Transforms,
                [.. s.Edits.Select(e => new EditAnswer(e.Kind, e.PatternTick?.Value, e.PassageTick?.Value, e.Voice.Code, e.Text))],
                s.Summary))]));
    }

    /// <param name="others">Voices that it may name beside its own: those of a passage, some of which only that passage knows.</param>
    /// <returns>Nothing where it cannot be read; then why stands among the problems.</returns>
    internal static Idea? Read(MatchIdea? told, IReadOnlyList<Voice> others, List<string> problems)
    {
        var before = problems.Count;
        if (told?.Text is null) problems.Add("idea.text is missing: the exemplar as count lines.");
        if (told?.SpanTicks is <= 0) problems.Add("idea.spanTicks is above zero.");
        var (rules, badRules) = RulesJson.Read(told?.Rules);
        problems.AddRange(badRules);
        var exemplar = CountLines.Parse(told?.Text ?? "");
        problems.AddRange(Errors("idea.text", exemplar));
        Voice? VoiceOf(string code) => exemplar.Passage.Voices.Concat(others).FirstOrDefault(v => v.Code == code) ?? Voice.Find(code);
        foreach (var code in told?.Scope?.Where(code => VoiceOf(code) is null) ?? []) problems.Add($"‘{code}’ in idea.scope is no voice.");
        return problems.Count > before ? null : new(exemplar.Passage, told!.SpanTicks is { } span ? new Tick(span) : null,
            told.Scope is null ? null : [.. told.Scope.Select(code => VoiceOf(code)!)], rules);
    }

    private static IEnumerable<string> Errors(string where, CountText read) =>
        read.Problems.Where(p => p.Severity == Severity.Error).Select(p => $"{where}, line {p.At.Line}, column {p.At.Column}: {p.Message}");

    private static IResult Refuse(IReadOnlyList<string> problems) =>
        Results.Problem(string.Join(' ', problems), statusCode: StatusCodes.Status400BadRequest, extensions: new Dictionary<string,
            object?>
        { ["problems"] = problems });
}
