using System.Text.RegularExpressions;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Core.Timing;
using Microsoft.AspNetCore.Http.HttpResults;

namespace InnerCadence.Web.Api;

/// <param name="At">In ticks from the start of the passage.</param>
/// <param name="Voice">Its code.</param>
public sealed record ChosenStroke(int At, string? Voice);

/// <summary>A move on a text of count lines.</summary>
/// <param name="Do">turn, toggle, remove, ghost, accent, open, mark, note, grace, shift, add-bar, drop-bar, repeat-bar, meter, toms,
/// canonical or bring-over: a draft of before levels and echoes, so that its strokes stay.</param>
/// <param name="Strokes">The strokes it is done to; of turn and toggle the first one's place and voice.</param>
/// <param name="By">Of shift, in ticks.</param>
/// <param name="Voice">Of shift, the drum to which they go; of grace, the drum of the grace stroke.</param>
/// <param name="Bar">Of repeat-bar and meter, from 1.</param>
/// <param name="Toms">Of toms, 1 to 4, or codes of toms from high to low.</param>
/// <param name="Mark">Of mark, its word: flam, loose, right; of note, a word of one's own.</param>
/// <param name="Meter">Of meter: that bar and those after it go in it.</param>
/// <param name="Sets">Of ghost, accent, open, mark, note and grace on one place: where nothing is struck a stroke is set first.</param>
public sealed record EditRequest(string? Text, string? Do, IReadOnlyList<ChosenStroke>? Strokes = null, int By = 0, string? Voice = null,
    int Bar = 1, string? Toms = null, string? Mark = null, string? Meter = null,
    bool Sets = false);

/// <param name="Voice">Code of the voice that was tapped.</param>
/// <param name="Onsets">Seconds from the first beat of bar 1.</param>
/// <param name="Tempo">Quarters a minute where the text names none.</param>
/// <param name="Loudness">Of each onset, 0 to 1, as a pad tells it; nothing where none did.</param>
public sealed record TappedRequest(string? Text, string? Voice, IReadOnlyList<double>? Onsets, double? Tempo,
    IReadOnlyList<double>? Loudness = null);

/// <param name="Tempo">Quarters a minute where the text names none.</param>
public sealed record ClicksRequest(string? Text, double? Tempo);

public sealed record EditedAnswer(string Text);

/// <param name="Weak">Of the strokes, how many could lie elsewhere.</param>
/// <param name="Dropped">Taps outside the passage, or two on one place.</param>
/// <param name="Played">How far each stroke was tapped from its place: tick, code of its voice, milliseconds, and its loudness or null.
/// </param>
public sealed record TappedAnswer(string Text, int Strokes, int Weak, int Dropped, IReadOnlyList<object?[]> Played);

/// <param name="Clicks">In order; those of the bar that is counted in are before 0, where bar 1 begins.</param>
public sealed record ClicksAnswer(IReadOnlyList<ClickAnswer> Clicks);

/// <param name="At">Seconds from the start of bar 1.</param>
/// <param name="First">On the first count of its bar.</param>
public sealed record ClickAnswer(double At, bool First);

/// <summary>Changes to a text that is being written: computed, nothing kept.</summary>
public static partial class EditApi
{
    private const int MostOnsets = 2000;

    public static void MapEdits(this IEndpointRouteBuilder routes)
    {
        routes.MapPost("/api/count-lines/edit", Edit).WithName("EditCountLines").WithTags("count lines")
            .WithSummary("The text after a move of its strokes; what did not change stays as typed.").Produces<EditedAnswer>()
                .ProducesProblem(StatusCodes.Status400BadRequest);
        routes.MapPost("/api/count-lines/tapped", Tapped).WithName("TappedCountLines").WithTags("count lines")
            .WithSummary("The text with a line of one voice that was tapped along.").Produces<TappedAnswer>()
                .ProducesProblem(StatusCodes.Status400BadRequest);
        routes.MapPost("/api/count-lines/clicks", Count).WithName("ClicksOfCountLines").WithTags("count lines")
            .WithSummary("The click to tap along with: a bar counted in, then every bar of the passage and on to the most a text has, "
                + "in the meters and tempos of the text.").ProducesProblem(StatusCodes.Status400BadRequest);
    }

    private static Results<Ok<ClicksAnswer>, ProblemHttpResult> Count(ClicksRequest request)
    {
        if (request.Text is null) return Refused("Send {\"text\": \"…\"}: the count lines to be tapped along with.");
        if (request.Tempo is { } said && Bpm.Of(said) is null) return Refused("A tempo is 20 to 400 quarters a minute.");
        var clicks = Clicks.CountedIn(CountLines.Parse(request.Text).Passage, CountLines.MostBars,
            (request.Tempo is { } tempo ? Bpm.Of(tempo) : null) ?? Bpm.Usual);
        return TypedResults.Ok(new ClicksAnswer([.. clicks.Select(c => new ClickAnswer(c.At, c.First))]));
    }

    private static ProblemHttpResult Refused(string why) => TypedResults.Problem(why, statusCode: StatusCodes.Status400BadRequest);

    private static IResult Edit(EditRequest request)
    {
        if (request.Text is null) return Refuse("Send {\"text\": \"…\", \"do\": \"…\"}: the count lines and what to do to them.");
        var passage = CountLines.Parse(request.Text).Passage;
        var chosen = new List<(Tick At, Voice Voice)>();
        foreach (var one in request.Strokes ?? [])
        {
            if (FindVoice(passage, one.Voice) is not { } voice) return Refuse($"‘{one.Voice}’ is no voice here.");
            if (one.At < 0 || one.At >= passage.Meters.StartOf(Math.Max(passage.Bars, 1)).Value)
                return Refuse("A stroke lies outside the passage.");
            chosen.Add((new(one.At), voice));
        }
        if (request is { Sets: true, Do: "ghost" or "accent" or "open" or "mark" or "note" or "grace" } && chosen.Count == 1)
            passage = Move.Set(passage, chosen[0].At, chosen[0].Voice);
        var onto = request.Voice is null ? null : FindVoice(passage, request.Voice);
        if (request.Voice is not null && onto is null) return Refuse($"‘{request.Voice}’ is no voice here.");
        switch (request.Do)
        {
            case "turn" or "toggle" or "remove" or "ghost" or "accent" or "open" or "mark" or "note" or "grace" or "shift"
                when chosen.Count == 0:
                return Refuse("No stroke is chosen.");
            case "remove" or "ghost" or "accent" or "open" or "mark" or "note" or "grace" or "shift"
                when !passage.Strokes.Any(s => chosen.Contains((s.At, s.Voice))):
                return Refuse("No stroke is there.");
            case "turn": return Answer(request.Text, Move.Turn(passage, chosen[0].At, chosen[0].Voice));
            case "toggle": return Answer(request.Text, Move.Toggle(passage, chosen[0].At, chosen[0].Voice));
            case "remove": return Answer(request.Text, Move.Remove(passage, chosen));
            case "ghost" or "accent" or "open" or "mark":
                if (StrokeMark.Find(request.Do == "mark" ? request.Mark : request.Do) is not { } mark) return Refuse(
                    $"There is no mark ‘{request.Mark}’: {string.Join(", ", StrokeMark.All.Select(m => m.Word))}.");
                return passage.Strokes.Any(s => chosen.Contains((s.At, s.Voice)) && mark.Fits(s.Voice))
                    ? Answer(request.Text, Move.Mark(passage, chosen, mark)) : Refuse(
                        $"Only {string.Join(" and ", mark.Only.Select(v => v.Name))} can be {mark.Word}.");
            case "note":
                return TechniqueNote().IsMatch(request.Mark ?? "")
                    ? Answer(request.Text, Move.Mark(passage, chosen, StrokeMark.Note(request.Mark!)))
                    : Refuse("A technique note is one word of at most 16 letters, such as edge.");
            case "grace":
                return onto is null || onto.Limbs == LimbClass.None ? Refuse("Say on which drum the grace stroke falls.")
                    : Answer(request.Text, Move.GraceOn(passage, chosen, onto));
            case "add-bar":
                return Answer(request.Text, Move.AddBar(passage));
            case "drop-bar":
                return passage.Bars < 2 ? Refuse("A passage has a bar: take its strokes out instead.")
                    : Answer(request.Text, Move.DropBar(passage));
            case "meter":
                if (Meter.Parse(request.Meter ?? "") is not { } meter) return Refuse(
                    $"‘{request.Meter}’ is no meter: write it like 4/4, 7/8 or 7/8(2+2+3).");
                if (request.Bar < 1 || request.Bar > Math.Max(1, passage.Bars)) return Refuse("There is no such bar.");
                return Move.InMeter(passage, request.Bar - 1, meter) is { } metered ? Answer(request.Text, metered)
                    : Refuse($"A bar of {meter} ends before a stroke that stands there: take it out first.");
            case "shift":
                if (Math.Abs((long)request.By) > passage.Length.Value) return Refuse("That is farther than the passage is long.");
                return Move.Shift(passage, chosen, new(request.By), onto) is { } shifted ? Answer(request.Text, shifted)
                    : Refuse("There is no room: a stroke would leave the passage or land on another.");
            case "repeat-bar":
                if (request.Bar < 1 || request.Bar > Math.Min(passage.Bars, CountLines.MostBars - 1)) return Refuse(
                    "There is no such bar, or no room after it.");
                return Answer(request.Text, Move.RepeatBar(passage, request.Bar - 1));
            case "toms":
                return TomsOf(request.Toms) is { } toms ? Answer(request.Text, Kit.Remap(passage, toms), dropSilent: true)
                    : Refuse("Say 1 to 4 toms, or codes from high to low such as T1 FT.");
            case "bring-over":
                return TypedResults.Ok(new EditedAnswer(OldTexts.DraftBroughtOver(request.Text) ?? request.Text));
            case "canonical":
                return Answer(request.Text, passage, Rewriting.Canonical(request.Text));
            default:
                return Refuse("do is one of turn, toggle, remove, ghost, accent, open, mark, note, grace, shift, add-bar, drop-bar, repeat-bar, "
                + "meter, toms, canonical, bring-over.");
        }
    }

    private static IResult Answer(string text, Passage changed, string? written = null, bool dropSilent = false)
    {
        if (changed.Strokes.Any(s => !CountWriter.Leads(changed, s.At))) return Refuse(
            "No count leads to that place: choose one that a count, a tuplet or a lick can name.");
        var result = Rewriting.Put(text, changed, dropSilent);
        return result.Text is { } now ? Results.Ok(new EditedAnswer(written ?? now)) : Refuse(result.Why!);
    }

    private static IResult Tapped(TappedRequest request)
    {
        if (request.Text is null || request.Onsets is not { Count: > 0 } onsets) return Refuse(
            "Send the text and the onsets, in seconds from the first beat of bar 1.");
        if (onsets.Count > MostOnsets) return Refuse($"At most {MostOnsets} onsets are taken at once.");
        if (onsets.Any(o => !double.IsFinite(o) || o > 3600)) return Refuse("An onset lies beyond an hour.");
        if (request.Loudness is { } loud && (loud.Count != onsets.Count || loud.Any(l => l is not (>= 0 and <= 1)))) return Refuse(
            "loudness has a number from 0 to 1 for each onset.");
        var passage = CountLines.Parse(request.Text).Passage;
        if (FindVoice(passage, request.Voice) is not { } voice) return Refuse($"‘{request.Voice}’ is no voice.");
        if ((passage.Tempo ?? (request.Tempo is { } said ? Bpm.Of(said) : null)) is not { } tempo) return Refuse(
            "Say the tempo first: write tempo 96, so that the taps have a beat.");
        // Where the tempo changes, a tap is taken to its place in the music first.
        var tempos = passage.Tempos is { Count: > 0 } named ? named : [new(Tick.Zero, tempo)];
        var beat = new Tick(Tick.PerQuarter);
        var taps = onsets.Select((at, i) => (At: at, Loudness: request.Loudness?[i])).OrderBy(t => t.At).ToList();
        var placed = Quantise.Place([.. taps.Select(t => TempoChange.QuartersAt(new(t.At), tempos) * tempo.SecondsPerQuarter)], beat,
            tempo.SecondsOf(beat));
        var most = passage.Meters.StartOf(CountLines.MostBars);
        var within = placed.Where(p => p.At < most && p.At >= passage.Pickup).ToList();
        var strokes = within
            .Select(p => new Stroke(p.At, voice) { Unsure = p.Weak, Openness = voice == Voice.Hat ? Openness.Closed : null }).ToList();
        if (strokes.Count == 0) return Refuse("No tap falls into the passage.");
        var bars = Math.Max(passage.Bars, passage.Meters.Locate(strokes[^1].At).Bar + 1);
        var result = Rewriting.Put(request.Text, passage with
        {
            Bars = bars,
            Strokes = Passage.InOrder(passage.Strokes.Where(s => s.Voice != voice).Concat(strokes)),
            Unheard = [.. passage.Unheard.Where(u => u.Voice != voice)],
        });
        return result.Text is { } text
            ? Results.Ok(new TappedAnswer(text, strokes.Count, strokes.Count(s => s.Unsure), onsets.Count - strokes.Count,
                [.. within.Select(p => new object?[] { p.At.Value, voice.Code, Math.Round((taps[p.Onset].At
                    - TempoChange.SecondsTo(Swing.Played(p.At, passage), tempos)) * 1000, 1), taps[p.Onset].Loudness })]))
            : Refuse(result.Why!);
    }

    private static Voice? FindVoice(Passage passage, string? code) =>
        code is null ? null : Voice.Find(code) ?? passage.Voices.FirstOrDefault(v =>
            v.Code.Equals(code, StringComparison.OrdinalIgnoreCase));

    /// <summary>1 to 4, or codes of toms; nothing where it is neither.</summary>
    internal static ValueList<Voice>? TomsOf(string? text)
    {
        if (int.TryParse(text, out var count)) return count is >= 1 and <= 4 ? Kit.Toms(count) : null;
        return Kit.ReadToms(text);
    }

    [GeneratedRegex(@"^\p{L}{1,16}\z")]
    private static partial Regex TechniqueNote();

    private static IResult Refuse(string why) => Results.Problem(why, statusCode: StatusCodes.Status400BadRequest);
}
