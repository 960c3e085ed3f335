using System.Globalization;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using System.Text.RegularExpressions;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Words;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Web.Drawing;
using Microsoft.AspNetCore.Http.HttpResults;

namespace InnerCadence.Web.Api;

/// <summary>A text of count lines.</summary>
public sealed record ParseRequest(string? Text);

/// <param name="Dynamic">ghost, normal or accent.</param>
/// <param name="Limb">RH, LH, RF, LF; null where it is not known.</param>
/// <param name="Grace">Voice of the grace stroke; null for its own drum.</param>
/// <param name="Level">Steps from mf.</param>
public sealed record StrokeAnswer(
    int Tick, string Voice, string Dynamic, string? Limb, string? Openness, IReadOnlyList<string> Ornaments, bool Unsure, bool Optional,
        IReadOnlyList<string> Notes, int? Length,
    bool LimbUnsure, bool Echo, string? Grace, bool OrnamentUnsure, double Level);

/// <param name="Bpm">Quarters a minute from the tick on.</param>
public sealed record TempoChangeAnswer(int Tick, double Bpm);

/// <param name="Voices">Null for all.</param>
/// <param name="Hairpin">From here gradually to the next of its line.</param>
public sealed record LevelAnswer(int Tick, IReadOnlyList<string>? Voices, string Level, bool Hairpin);

/// <param name="Bar">From 1.</param>
public sealed record UnheardAnswer(int Bar, string Voice);

/// <summary>A piece of the text that was sent, in UTF-16 units, and what stands there instead.</summary>
public sealed record TextEditAnswer(int Line, int Column, int Length, string Text);

public sealed record FixAnswer(string Says, IReadOnlyList<TextEditAnswer> Edits);

/// <param name="Fixes">One where only one meaning is possible, several where the writer chooses.</param>
public sealed record ProblemAnswer(string Severity, int Line, int Column, int Length, string Message, IReadOnlyList<FixAnswer> Fixes);

/// <summary>What a text says.</summary>
/// <param name="Tempo">The first.</param>
public sealed record ParseAnswer(
    IReadOnlyList<string> Meters, int Bars, double? Tempo, IReadOnlyList<TempoChangeAnswer> Tempos, IReadOnlyList<LevelAnswer> Levels,
        IReadOnlyList<UnheardAnswer> Unheard,
    IReadOnlyList<ProblemAnswer> Problems, IReadOnlyList<string> ReadBack)
{
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public IReadOnlyList<StrokeAnswer>? Strokes { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public string? Canonical { get; init; }
    /// <summary>What the scripts draw, where one was asked for: places and looks.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public JsonNode? Picture { get; init; }
    /// <summary>Tick, voice, line, column and length of the words that wrote each stroke, while editing.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public IReadOnlyList<object[]>? Places { get; init; }
    /// <summary>Line, column, length and look of each coloured piece, while editing.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public IReadOnlyList<object[]>? Colours { get; init; }
}

/// <summary>Reads count lines without keeping anything.</summary>
public static partial class CountLinesApi
{
    public static void MapCountLines(this IEndpointRouteBuilder routes) =>
        routes.MapPost("/api/count-lines/parse", Parse).WithName("ParseCountLines").WithTags("count lines")
            .WithSummary("What a text of count lines says: strokes, problems with their places, the text in words and in canonical form.")
            .ProducesProblem(StatusCodes.Status400BadRequest);

    /// <param name="picture">strands, ring or staff, for what the scripts draw.</param>
    /// <param name="bar">Number of the first bar in the recording.</param>
    /// <param name="edit">Strands on which strokes can be chosen; the answer also tells where each stroke is written and how the text is
    /// coloured.</param>
    /// <param name="sound">With room above the counts of the strands for the sound itself.</param>
    /// <param name="hide">Codes of voices that are left out of a staff, with commas.</param>
    /// <param name="also">Codes of voices that have a strand though they are silent, with commas.</param>
    /// <param name="divide">In how many parts beats are shown: bar.beat:parts, both from 0, with commas.</param>
    /// <param name="touch">With room for a finger.</param>
    private static Results<Ok<ParseAnswer>, ProblemHttpResult> Parse(ParseRequest request, string? picture = null, int bar = 1,
        bool edit = false, string? hide = null, bool sound = false,
        string? also = null, string? divide = null, bool touch = false)
    {
        if (request.Text is null) return TypedResults.Problem("Send {\"text\": \"…\"}: the count lines to read.",
            statusCode: StatusCodes.Status400BadRequest);
        if (picture is not (null or "strands" or "ring" or "staff")) return TypedResults.Problem(
            $"There is no picture ‘{picture}’: ask for strands, ring or staff.", statusCode: StatusCodes.Status400BadRequest);
        var read = AsTyped.Parse(request.Text);
        var first = Math.Clamp(bar, 1, UploadLimits.Bars);
        return TypedResults.Ok(Answer(read, lean: edit) with
        {
            Picture = picture switch
            {
                null => null,
                "ring" => Ring.Draw(read.Passage).AsJson(),
                "staff" => Staff.Draw(read.Passage, first, Codes(hide).ToHashSet()),
                _ => Strands.Draw(read.Passage, new()
                {
                    FirstBar = first,
                    Pickable = edit,
                    Also = [.. read.Voices.Union(Codes(also))],
                    Sound = sound,
                    Divided = DividedOf(divide),
                    Touch = touch,
                }).AsJson(),
            },
            Places = edit ? [.. read.Places.Select(p => new object[] { p.At.Value, p.Voice.Code, p.Words.Line, p.Words.Column,
                p.Words.Length })] : null,
            Colours = edit ? [.. read.Looks.Select(c => new object[] { c.At.Line, c.At.Column, c.At.Length,
                c.Look.ToString().ToLowerInvariant() })] : null,
        });
    }

    private static IEnumerable<Voice> Codes(string? codes) => (codes ?? "").Split(',').Select(Voice.Find).OfType<Voice>();

    /// <summary>What is no division is passed over.</summary>
    private static IReadOnlyDictionary<(int Bar, int Beat), int> DividedOf(string? divide) =>
        (divide ?? "").Split(',').Select(one => Divided().Match(one)).Where(m => m.Success).Take(UploadLimits.Bars)
            .GroupBy(m => (Figure(m.Groups[1]), Figure(m.Groups[2]))).ToDictionary(g => g.Key, g => g.Last().Groups[3].Value[0] - '0');

    private static int Figure(Group digits) => int.Parse(digits.ValueSpan, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"^(\d{1,3})\.(\d{1,2}):([23468])\z")]
    private static partial Regex Divided();

    /// <summary>What a text says: strokes, problems, words and canonical form.</summary>
    /// <param name="lean">Without strokes and canonical form, which no picture needs: asked at every key.</param>
    internal static ParseAnswer Answer(CountText read, bool lean = false) => new(
        [.. read.Passage.Meters.Meters.Select(m => m.ToString())], read.Passage.Bars, read.Passage.Tempo?.Value,
        [.. read.Passage.Tempos.Select(t => new TempoChangeAnswer(t.At.Value, t.Tempo.Value))],
        [.. read.Passage.Levels.Marks.Select(m => new LevelAnswer(m.At.Value, m.Voices.IsEmpty ? null : [.. m.Voices.Select(v => v.Code)],
            m.Level.Written(), m.Hairpin))],
        [.. read.Passage.Unheard.OrderBy(u => u.Bar).ThenBy(u => u.Voice).Select(u => new UnheardAnswer(u.Bar + 1, u.Voice.Code))],
        [.. read.Problems.Select(p => new ProblemAnswer(
            p.Severity.ToString().ToLowerInvariant(), p.At.Line, p.At.Column, p.At.Length, p.Message,
            [.. p.Fixes.Select(f => new FixAnswer(f.Says,
                [.. f.Edits.Select(e => new TextEditAnswer(e.At.Line, e.At.Column, e.At.Length, e.Text))]))]))],
        ReadBack.Of(read))
    {
        Strokes = lean ? null : [.. read.Passage.Strokes.Select(s => new StrokeAnswer(
            s.At.Value, s.Voice.Code, s.Dynamic.ToString().ToLowerInvariant(), s.Limb, s.Openness?.ToString().ToLowerInvariant(),
            [.. Enum.GetValues<Ornaments>().Where(o => o != Ornaments.None && s.Ornaments.HasFlag(o))
                .Select(o => o.ToString().ToLowerInvariant())],
            s.Unsure, s.Optional, s.Notes, s.Length?.Value, s.SideUnsure, s.Echo, s.Grace?.Code, s.OrnamentUnsure,
                Math.Round(read.Passage.LevelOf(s), 4)))],
        Canonical = lean ? null : CountWriter.Write(read.Passage, read.Title),
    };
}
