using System.Text.Json.Nodes;
using InnerCadence.Core.Ideas;

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
}
