using System.IO.Compression;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace InnerCadence.Storage.Exchange;

/// <summary>The zip of an archive, read within bounds: names only look entries up and are never paths.</summary>
internal sealed class ArchiveFile : IDisposable
{
    private const long MostUnpacked = 256L * 1024 * 1024;
    /// <summary>What a line costs however short it is, so that empty lines and empty rows have an end too.</summary>
    private const int LineCost = 64;
    private const int MostLine = 4 * 1024 * 1024;
    private const string TooLarge = "it is larger than a study can be";
    private readonly ZipArchive zip;
    private readonly Dictionary<string, IReadOnlyList<JsonObject>> rowsOf = [];
    private long read;

    /// <exception cref="InvalidDataException">It is no archive of a study.</exception>
    public ArchiveFile(Stream bytes)
    {
        zip = new(bytes, ZipArchiveMode.Read);
        if (zip.GetEntry("study.json") is not { } head || Whole(head) is not { } said || JsonNode.Parse(said) is not JsonObject manifest
            || Word(manifest, "format") != StudyArchive.Format)
            throw new NoArchiveException("This is no archive of a study.");
        if (manifest["version"]?.GetValue<int>() is not 1
            || manifest["schema"]?.GetValue<int>() is not { } schema) throw new NoArchiveException(Newer);
        (Schema, Name, Written) = (schema, Word(manifest, "name"), Word(manifest, "written"));
    }

    public const string Newer = "This archive was written by a newer version; bring this one up to date first.";

    /// <summary>How many migrations the database had that wrote it.</summary>
    public int Schema { get; }
    public string Name { get; }
    public string Written { get; }

    /// <summary>The rows of a table; none where the archive does not have it.</summary>
    public IReadOnlyList<JsonObject> Rows(string table) => rowsOf.TryGetValue(table, out var known) ? known : rowsOf[table] = Read(table);

    private List<JsonObject> Read(string table)
    {
        if (zip.GetEntry($"tables/{table}.jsonl") is not { } entry) return [];
        var rows = new List<JsonObject>();
        foreach (var line in Lines(entry))
        {
            if ((read += line.Length + LineCost) > MostUnpacked) throw new InvalidDataException(TooLarge);
            if (line.Length == 0) continue;
            rows.Add(JsonNode.Parse(line) as JsonObject ?? throw new InvalidDataException($"a line of {table} is no row"));
        }
        return rows;
    }

    /// <summary>Line after line; one that does not end is given up before it fills the memory.</summary>
    private static IEnumerable<string> Lines(ZipArchiveEntry entry)
    {
        using var reader = new StreamReader(entry.Open(), Encoding.UTF8);
        var (buffer, line) = (new char[16 * 1024], new StringBuilder());
        int length;
        while ((length = reader.ReadBlock(buffer)) > 0)
        {
            var from = 0;
            for (var i = 0; i < length; i++)
            {
                if (buffer[i] != '\n') continue;
                yield return line.Append(buffer, from, i - from).ToString();
                line.Clear();
                from = i + 1;
            }
            line.Append(buffer, from, length - from);
            if (line.Length > MostLine) throw new InvalidDataException(TooLarge);
        }
        if (line.Length > 0) yield return line.ToString();
    }

    private static string? Whole(ZipArchiveEntry entry)
    {
        using var reader = new StreamReader(entry.Open(), Encoding.UTF8);
        var buffer = new char[64 * 1024];
        var length = reader.ReadBlock(buffer);
        return length == buffer.Length ? null : new string(buffer, 0, length);
    }

    public static string Word(JsonObject of, string name) => of[name]?.GetValueKind() == JsonValueKind.String
        ? of[name]!.GetValue<string>() : "";

    /// <exception cref="InvalidDataException">There is none.</exception>
    public static long Number(JsonObject of, string name) => of[name] is JsonValue value && value.TryGetValue<long>(out var number)
        ? number : throw new InvalidDataException($"a row has no number where {name} should be");

    public void Dispose() => zip.Dispose();
}

/// <summary>What was given is no archive that can be read here; the message is the sentence to show.</summary>
internal sealed class NoArchiveException(string message) : Exception(message);
