using System.Collections.Immutable;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Sightings;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>The fields of an idea as typed.</summary>
public sealed class IdeaInput
{
    public string? Nickname { get; set; }
    public string? Note { get; set; }
    public string? Sounds { get; set; }
    public string? Avoid { get; set; }
    /// <summary>Words with commas between.</summary>
    public string? Tags { get; set; }
    public string? Text { get; set; }
    /// <summary>The place before which it ends: bar, point, count, or end.</summary>
    public string? Ends { get; set; }
    public string? Voicing { get; set; }
    public string? Sticking { get; set; }
    public string? Dynamics { get; set; }
    public string? Openness { get; set; }
    public string? Ornaments { get; set; }
    public string? Placement { get; set; }
    public string? Ghosts { get; set; }
    public string? Rate { get; set; }
    public string? Swing { get; set; }
    public string? Elision { get; set; }
    public string? Ending { get; set; }
    public string? Echoes { get; set; }
    public string? Levels { get; set; }
    /// <summary>Codes or names of voices, with commas between.</summary>
    public string? Bed { get; set; }
    /// <summary>Transforms that are tried.</summary>
    public string[] Transforms { get; set; } = [];
    /// <summary>Voices of the exemplar that do not belong to the idea.</summary>
    public string[] Leave { get; set; } = [];
    public string? From { get; set; }
    public int Version { get; set; }

    public static IdeaInput Proposed(Passage exemplar, string ends, PassageKind kind, bool wholeBars, ReadingId? from)
    {
        var input = new IdeaInput { Text = CountWriter.Write(exemplar), Ends = ends, From = from?.ToString() };
        input.Show(Rules.ProposedFor(kind.IsOrnamental, kind == PassageKind.Fill,
            exemplar.Strokes.Any(s => s.Dynamic == Dynamic.Ghost), wholeBars));
        return input;
    }

    public static IdeaInput Of(IdeaRow idea)
    {
        var exemplar = CountLines.Parse(idea.Text).Passage;
        var input = new IdeaInput
        {
            Nickname = idea.Nickname,
            Note = idea.Note,
            Sounds = idea.Sounds,
            Avoid = idea.Avoid,
            Tags = string.Join(", ", idea.Tags),
            Text = idea.Text,
            Ends = EndsOf(idea, exemplar),
            Leave = idea.Scope is null ? [] : [.. exemplar.Voices.Select(v => v.Code).Except(idea.Scope)],
            From = idea.ReadingId?.ToString(),
            Version = idea.Version,
        };
        input.Show(idea.RulesRead);
        return input;
    }

    /// <summary>Nothing, with the problems told, where a field cannot be read.</summary>
    public IdeaDraft? Read(ModelStateDictionary problems)
    {
        var nickname = problems.Text("Input.Nickname", Nickname, "Give it a nickname, usually from how it sounds.");
        var note = problems.Text("Input.Note", Note, most: UploadLimits.Note);
        var sounds = problems.Text("Input.Sounds", Sounds, most: UploadLimits.Note);
        var avoid = problems.Text("Input.Avoid", Avoid, most: UploadLimits.Note);
        var tags = problems.Text("Input.Tags", Tags).Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        var text = (Text ?? "").Replace("\r\n", "\n");
        if (Typed.HasUnkeepable(text)) problems.AddModelError("Input.Text", Typed.Unkeepable);
        var read = CountLines.Parse(text);
        if (read.Problems.FirstOrDefault(p => p.Severity == Severity.Error) is { } error)
            problems.AddModelError("Input.Text", $"Line {error.At.Line}, column {error.At.Column}: {error.Message}");
        var rules = ReadRules(problems);
        var scope = Leave.Length == 0 ? null : Scope.Of(read.Passage, rules).Select(v => v.Code).Except(Leave).Order().ToList();
        var idea = new Idea(read.Passage, null, scope is null ? null
            : [.. scope.Select(Voice.Find).Concat(read.Passage.Voices.Where(v => scope.Contains(v.Code))).OfType<Voice>()], rules);
        var span = ReadSpan(problems, idea);
        if (problems.IsValid && !(idea with { Span = span }).CanBeFound())
            problems.AddModelError("Input.Text",
                "No stroke that must be there is left: write at least one in a voice that belongs to the idea, before its end.");
        if (!problems.IsValid) return null;
        return new()
        {
            Nickname = nickname,
            Note = note,
            Sounds = sounds,
            Avoid = avoid,
            Tags = tags,
            Text = text,
            Span = span,
            Scope = scope,
            Rules = rules,
            From = ReadingId.TryParse(From, out var from) ? from : null,
        };
    }

    /// <summary>The idea as typed, nickname or not, to be tried on the study; nothing, with the problems told, where it cannot be
    /// read.</summary>
    public Idea? ReadIdea(ModelStateDictionary problems)
    {
        var named = Nickname;
        Nickname = string.IsNullOrWhiteSpace(named) ? "trial" : named;
        var draft = Read(problems);
        Nickname = named;
        if (draft is null) return null;
        var exemplar = CountLines.Parse(draft.Text).Passage;
        return new(exemplar, draft.Span, draft.Scope is null ? null
            : [.. draft.Scope.Select(code => exemplar.Voices.FirstOrDefault(v => v.Code == code) ?? Voice.Find(code)).OfType<Voice>()],
            draft.Rules);
    }

    private const int MostElision = 16;

    private Rules ReadRules(ModelStateDictionary problems)
    {
        return new()
        {
            Facets = new()
            {
                Voicing = Setting<VoicingRule>("Voicing", Voicing),
                Sticking = Setting<FacetRule>("Sticking", Sticking),
                Dynamics = Setting<FacetRule>("Dynamics", Dynamics),
                Openness = Setting<FacetRule>("Openness", Openness),
                Ornaments = Setting<FacetRule>("Ornaments", Ornaments),
            },
            Placement = Setting<PlacementRule>("Placement", Placement),
            Ghosts = Setting<GhostRule>("Ghosts", Ghosts),
            Rate = Setting<RateRule>("Rate", Rate),
            Swing = Setting<SwingRule>("Swing", Swing),
            Elision = problems.Number("Input.Elision", Elision, 0, MostElision, "a number of strokes") ?? 0,
            Ending = Later<EndingRule>("Ending", Ending),
            Echoes = Later<EchoRule>("Echoes", Echoes),
            Levels = Later<LevelRule>("Levels", Levels),
            Bed = ReadBed(problems),
            Transforms = [.. Transforms.Select(t => Setting<Transform>("Transforms", t)).Where(t => t != Transform.None).Distinct()],
        };

        // Left out by what was written before these rules were.
        T Later<T>(string field, string? word) where T : struct, Enum => word is null ? default : Setting<T>(field, word);

        T Setting<T>(string field, string? word) where T : struct, Enum
        {
            if (IdeaWords.Read<T>(word) is { } setting) return setting;
            problems.AddModelError("Input." + field, $"Choose one of {string.Join(", ", Enum.GetValues<T>().Select(v => v.Word()))}.");
            return default;
        }
    }

    private ImmutableHashSet<Voice> ReadBed(ModelStateDictionary problems)
    {
        var voices = ImmutableHashSet.CreateBuilder<Voice>();
        foreach (var word in (Bed ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            if (Voice.Find(word) is { } voice) voices.Add(voice);
            else problems.AddModelError("Input.Bed",
                $"‘{word}’ is no voice: write codes or names such as BD or ride, with commas between.");
        }
        return voices.ToImmutable();
    }

    private Tick? ReadSpan(ModelStateDictionary problems, Idea idea)
    {
        if (string.IsNullOrWhiteSpace(Ends)) return null;
        var exemplar = idea.Exemplar;
        var end = Ends.Trim() == "end" ? exemplar.Length : Excerpt.Place(exemplar, Ends);
        var scope = idea.Scope ?? Scope.Of(exemplar, idea.Rules);
        var first = exemplar.Strokes.FirstOrDefault(s => scope.Contains(s.Voice) && idea.Rules.Sees(s));
        if (first is null) return null;
        if (end is { } at && at > first.At) return at - first.At;
        problems.AddModelError("Input.Ends",
            $"‘{Ends}’ is no place after the first stroke: write bar, point, count, such as 1.4&, or end.");
        return null;
    }

    private static string EndsOf(IdeaRow idea, Passage exemplar)
    {
        if (idea.SpanTicks is not { } span) return "";
        var whole = idea.AsIdea();
        var scope = whole.Scope ?? Scope.Of(exemplar, whole.Rules);
        var first = exemplar.Strokes.FirstOrDefault(s => scope.Contains(s.Voice) && whole.Rules.Sees(s));
        var end = (first?.At ?? Tick.Zero) + new Tick(span);
        if (end >= exemplar.Length) return "end";
        var (bar, inBar) = exemplar.Meters.Locate(end);
        return CountNames.Place(inBar, exemplar.Meters.MeterOf(bar)) is { } place ? $"{bar + 1}.{place}" : "";
    }

    private void Show(Rules rules)
    {
        (Voicing, Sticking, Dynamics) = (rules.Facets.Voicing.Word(), rules.Facets.Sticking.Word(), rules.Facets.Dynamics.Word());
        (Openness, Ornaments) = (rules.Facets.Openness.Word(), rules.Facets.Ornaments.Word());
        (Placement, Ghosts, Rate, Swing) = (rules.Placement.Word(), rules.Ghosts.Word(), rules.Rate.Word(), rules.Swing.Word());
        (Ending, Echoes, Levels, Bed) = (rules.Ending.Word(), rules.Echoes.Word(), rules.Levels.Word(),
            string.Join(", ", rules.Bed.Order().Select(v => v.Code)));
        (Elision, Transforms) = (rules.Elision.ToString(System.Globalization.CultureInfo.InvariantCulture),
            [.. rules.Transforms.Select(t => t.Word())]);
    }
}
