using System.Text.Json.Nodes;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;

namespace InnerCadence.Storage.Sightings;

/// <summary>Edit lists as JSON: the same shape in the database and in the API.</summary>
public static class SightingJson
{
    public static string Edits(IEnumerable<Edit> edits) => Array(edits).ToJsonString();

    public static JsonArray Array(IEnumerable<Edit> edits) => [.. edits.Select(e => new JsonObject
    {
        ["kind"] = e.Kind,
        ["patternTick"] = e.PatternTick?.Value,
        ["passageTick"] = e.PassageTick?.Value,
        ["voice"] = e.Voice.Code,
        ["text"] = e.Text,
    })];

    /// <summary>As it was kept; what speaks of a voice that is not known any more is left out.</summary>
    public static IReadOnlyList<Edit> Read(string edits, Passage passage) =>
    [
        .. from one in JsonNode.Parse(edits)!.AsArray()
           let code = (string?)one!["voice"]
           let voice = code is null ? null : passage.Voices.FirstOrDefault(v => v.Code == code) ?? Voice.Find(code)
           where voice is not null
           select new Edit((string)one!["kind"]!, TickOf(one["patternTick"]), TickOf(one["passageTick"]), voice, (string)one["text"]!),
    ];

    private static Tick? TickOf(JsonNode? tick) => tick is null ? null : new Tick((int)tick);
}
