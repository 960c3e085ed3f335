using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Sightings;

namespace InnerCadence.Storage.Ideas;

/// <summary>Rules as JSON, in the words of the design pages; the same shape in the database and in the API.</summary>
public static class RulesJson
{
    public static string Write(Rules rules) => new JsonObject
    {
        ["voicing"] = rules.Facets.Voicing.Word(),
        ["sticking"] = rules.Facets.Sticking.Word(),
        ["dynamics"] = rules.Facets.Dynamics.Word(),
        ["openness"] = rules.Facets.Openness.Word(),
        ["ornaments"] = rules.Facets.Ornaments.Word(),
        ["placement"] = rules.Placement.Word(),
        ["rate"] = rules.Rate.Word(),
        ["transforms"] = new JsonArray([.. rules.Transforms.Select(t => (JsonNode)t.Word())]),
        ["ghosts"] = rules.Ghosts.Word(),
        ["elision"] = rules.Elision,
        ["swing"] = rules.Swing.Word(),
        ["ending"] = rules.Ending.Word(),
        ["bed"] = new JsonArray([.. rules.Bed.Order().Select(v => (JsonNode)v.Code)]),
        ["echoes"] = rules.Echoes.Word(),
        ["levels"] = rules.Levels.Word(),
    }.ToJsonString();

    /// <summary>Settings that are not given are the defaults. What cannot be understood is told, one sentence each.</summary>
    public static (Rules Rules, IReadOnlyList<string> Problems) Read(JsonElement? json)
    {
        var problems = new List<string>();
        if (json is not { ValueKind: JsonValueKind.Object } given) return (Rules.Default,
            json is { ValueKind: not (JsonValueKind.Null or JsonValueKind.Undefined) } ? ["rules is an object of settings."] : []);
        foreach (var unknown in given.EnumerateObject().Select(p => p.Name).Except(Names))
            problems.Add($"There is no rule ‘{unknown}’: rules are {string.Join(", ", Names)}.");
        var rules = new Rules
        {
            Facets = new()
            {
                Voicing = Setting<VoicingRule>("voicing"),
                Sticking = Setting<FacetRule>("sticking"),
                Dynamics = Setting<FacetRule>("dynamics"),
                Openness = Setting<FacetRule>("openness"),
                Ornaments = Setting<FacetRule>("ornaments"),
            },
            Placement = Setting<PlacementRule>("placement"),
            Rate = Setting<RateRule>("rate"),
            Ghosts = Setting<GhostRule>("ghosts"),
            Swing = Setting<SwingRule>("swing"),
            Ending = Setting<EndingRule>("ending"),
            Echoes = Setting<EchoRule>("echoes"),
            Levels = Setting<LevelRule>("levels"),
            Bed = Bed(),
            Transforms = Transforms(),
            Elision = Elision(),
        };
        return (rules, problems);

        T Setting<T>(string name) where T : struct, Enum
        {
            if (!given.TryGetProperty(name, out var word) || word.ValueKind == JsonValueKind.Null) return default;
            if (word.ValueKind == JsonValueKind.String && IdeaWords.Read<T>(word.GetString()) is { } setting) return setting;
            problems.Add($"‘{word}’ is no setting of {name}: it is {string.Join(", ", Enum.GetValues<T>().Select(v => v.Word()))}.");
            return default;
        }

        ImmutableHashSet<Voice> Bed()
        {
            if (!given.TryGetProperty("bed", out var list) || list.ValueKind == JsonValueKind.Null) return [];
            if (list.ValueKind != JsonValueKind.Array)
            {
                problems.Add("bed is a list of voices, such as [\"BD\"].");
                return [];
            }
            var voices = ImmutableHashSet.CreateBuilder<Voice>();
            foreach (var code in list.EnumerateArray())
            {
                if (code.ValueKind == JsonValueKind.String && (Voice.Find(code.GetString()!)
                    ?? OwnInstrument(code.GetString()!)) is { } voice) voices.Add(voice);
                else problems.Add($"‘{code}’ in bed is no voice.");
            }
            return voices.ToImmutable();
        }

        ValueList<Transform> Transforms()
        {
            if (!given.TryGetProperty("transforms", out var list) || list.ValueKind == JsonValueKind.Null) return [];
            if (list.ValueKind != JsonValueKind.Array)
            {
                problems.Add("transforms is a list of mirrored, reversed, substituted.");
                return [];
            }
            var transforms = new List<Transform>();
            foreach (var word in list.EnumerateArray())
            {
                if (word.ValueKind == JsonValueKind.String && IdeaWords.Read<Transform>(word.GetString()) is { } transform
                    and not Transform.None) transforms.Add(transform);
                else problems.Add($"‘{word}’ is no transform: they are mirrored, reversed, substituted.");
            }
            return transforms.ToValueList();
        }

        int Elision()
        {
            if (!given.TryGetProperty("elision", out var number) || number.ValueKind == JsonValueKind.Null) return 0;
            if (number.ValueKind == JsonValueKind.Number && number.TryGetInt32(out var n) && n is >= 0 and <= 64) return n;
            problems.Add("elision is how many first strokes may be left out, 0 to 64.");
            return 0;
        }
    }

    /// <summary>P1 to P8: what they are is said by each text.</summary>
    private static Voice? OwnInstrument(string code) =>
        code is ['P', >= '1' and <= '8'] ? Voice.Own(code[1] - '0', code, Family.Tom, false) : null;

    private static readonly string[] Names =
        ["voicing", "sticking", "dynamics", "openness", "ornaments", "placement", "rate", "transforms", "ghosts", "elision", "swing",
            "ending", "bed", "echoes", "levels"];
}
