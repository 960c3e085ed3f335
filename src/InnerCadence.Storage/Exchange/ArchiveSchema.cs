using System.Text.Json.Nodes;

namespace InnerCadence.Storage.Exchange;

/// <summary>The published description of an archive's files, as a JSON schema (draft 2020-12) with a definition for study.json and one for
/// the rows of each table.</summary>
internal static class ArchiveSchema
{
    public static JsonObject Of(IReadOnlyList<ArchiveTable> tables)
    {
        var definitions = new JsonObject
        {
            ["study.json"] = new JsonObject
            {
                ["type"] = "object",
                ["properties"] = new JsonObject
                {
                    ["format"] = new JsonObject { ["const"] = StudyArchive.Format },
                    ["version"] = new JsonObject { ["const"] = 1 },
                    ["schema"] = Type("integer"),
                    ["program"] = Type("string"),
                    ["name"] = Type("string"),
                    ["written"] = new JsonObject { ["type"] = "string", ["format"] = "date-time" },
                    ["rows"] = new JsonObject { ["type"] = "object", ["additionalProperties"] = Type("integer") },
                },
                ["required"] = new JsonArray("format", "version", "schema"),
            },
        };
        foreach (var table in tables)
            definitions[table.Name] = new JsonObject
            {
                ["type"] = "object",
                ["description"] = $"A line of tables/{table.Name}.jsonl.",
                ["properties"] = new JsonObject(table.Columns.Select(c => KeyValuePair.Create<string, JsonNode?>(c.Name, Of(c)))),
                ["required"] = new JsonArray([.. table.Columns.Where(c => !c.Nullable && !c.HasDefault).Select(c => (JsonNode)c.Name)]),
            };
        return new JsonObject
        {
            ["$schema"] = "https://json-schema.org/draft/2020-12/schema",
            ["title"] = StudyArchive.Format,
            ["$defs"] = definitions,
        };
    }

    private static JsonObject Of(ArchiveColumn column)
    {
        var type = column.Type switch
        {
            "ARRAY" => new JsonObject
            {
                ["type"] = "array",
                ["items"] = column.Element.StartsWith("int", StringComparison.Ordinal)
                ? Type("integer") : Type("string")
            },
            "integer" or "bigint" or "smallint" => Type("integer"),
            "double precision" or "numeric" or "real" => Type("number"),
            "boolean" => Type("boolean"),
            "jsonb" or "json" => [],
            "date" => new() { ["type"] = "string", ["format"] = "date" },
            "timestamp with time zone" => new() { ["type"] = "string", ["format"] = "date-time" },
            "uuid" => new() { ["type"] = "string", ["format"] = "uuid" },
            _ => Type("string"),
        };
        return column.Nullable && type.ContainsKey("type") ? new() { ["anyOf"] = new JsonArray(type, Type("null")) } : type;
    }

    private static JsonObject Type(string name) => new() { ["type"] = name };
}
