using System.IO.Compression;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Dapper;
using Npgsql;

namespace InnerCadence.Storage;

/// <summary>What an archive brought: the new study and how many rows of each table.</summary>
public sealed record Unpacked(StudyId Study, string Name, IReadOnlyList<(string Table, int Rows)> Rows);

/// <summary>
/// A whole study as one zip of readable files: study.json says what it is, tables/*.jsonl have a row a line, passages/*.counts.txt are the preferred readings to read. It goes by
/// the schema itself, table after table along the foreign keys, so that nothing of a study can be forgotten; sound files and unfinished work are never in it.
/// </summary>
public sealed partial class StudyArchive(NpgsqlDataSource source)
{
    public const string Format = "Inner Cadence study";
    public const int MostBytes = 64 * 1024 * 1024;
    private const long MostUnpacked = 512L * 1024 * 1024;
    private const int MostLine = 4 * 1024 * 1024;

    /// <summary>Not a study's own: sound files stay where they were attached, and work in progress is none of an archive's.</summary>
    private static readonly string[] Left = ["sound", "job", "import_file", "import_columns"];

    private sealed record Key(string Child, string Column, string Parent);
    private sealed record Table(string Name, IReadOnlyList<string> Columns, bool HasId, IReadOnlyList<Key> Keys, IReadOnlyList<string> Fresh, IReadOnlyList<string> Cut);

    /// <summary>Nothing where there is no such study.</summary>
    public async Task<byte[]?> WriteAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        // One moment of the whole study, whatever is written meanwhile.
        await using var moment = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, stop);
        var tables = await TablesAsync(connection, stop);
        if (await connection.ExecuteScalarAsync<string?>(new("select name from study where id = @study and deleted_at is null", new { study }, moment, cancellationToken: stop)) is not { } name) return null;
        var ids = new Dictionary<string, long[]> { ["study"] = [study.Value] };
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            var counts = new JsonObject();
            foreach (var table in tables)
            {
                var rows = (await connection.QueryAsync<string>(new($"select row_to_json(t)::text from {table.Name} t where {Belongs(table)}{(table.HasId ? " order by t.id" : "")}", Parameters(table, ids), moment, cancellationToken: stop))).AsList();
                if (table.HasId && table.Name != "study") ids[table.Name] = [.. rows.Select(r => JsonNode.Parse(r)!["id"]!.GetValue<long>())];
                counts[table.Name] = rows.Count;
                await PutAsync(zip, $"tables/{table.Name}.jsonl", string.Join('\n', rows) + (rows.Count > 0 ? "\n" : ""));
            }
            var readings = await connection.QueryAsync<(long Id, string Text)>(new(
                "select a.id, g.text from passage a join reading g on g.passage_id = a.id and g.preferred join recording r on r.id = a.recording_id where r.study_id = @study and a.deleted_at is null order by a.id",
                new { study }, moment, cancellationToken: stop));
            foreach (var (id, text) in readings) await PutAsync(zip, $"passages/{id}.counts.txt", text);
            await PutAsync(zip, "study.json", new JsonObject { ["format"] = Format, ["version"] = 1, ["schema"] = await SchemaAsync(connection, stop), ["name"] = name, ["written"] = DateTime.UtcNow.ToString("O"), ["rows"] = counts }
                .ToJsonString(new() { WriteIndented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping }));
        }
        return file.ToArray();
    }

    /// <summary>Makes a new study of an archive, with numbers of its own; all of it or nothing.</summary>
    /// <returns>A sentence instead where it is no archive; then nothing has changed.</returns>
    public async Task<(Unpacked? Study, string? Problem)> ReadAsync(Stream bytes, CancellationToken stop)
    {
        try
        {
            using var zip = new ZipArchive(bytes, ZipArchiveMode.Read);
            if (zip.GetEntry("study.json") is not { } head || await TextAsync(head, MostLine) is not { } said || JsonNode.Parse(said) is not JsonObject manifest || Word(manifest, "format") != Format)
                return (null, "This is no archive of a study.");
            await using var connection = await source.OpenConnectionAsync(stop);
            if (manifest["version"]?.GetValue<int>() is not 1 || manifest["schema"]?.GetValue<int>() is not { } schema || schema > await SchemaAsync(connection, stop))
                return (null, "This archive was written by a newer version; bring this one up to date first.");
            await using var transaction = await connection.BeginTransactionAsync(stop);
            var unpacked = await UnpackAsync(connection, transaction, zip, await TablesAsync(connection, stop), stop);
            await transaction.CommitAsync(stop);
            return (unpacked, null);
        }
        catch (Exception e) when (e is InvalidDataException or JsonException or FormatException or InvalidOperationException or KeyNotFoundException or ArgumentException or IOException)
        {
            return (null, $"This archive is broken{(e is InvalidDataException { Message.Length: < 120 } ? $": {e.Message}" : ".")}");
        }
        catch (PostgresException e)
        {
            return (null, $"This archive does not fit together: {e.TableName ?? "a table"}{(e.ColumnName is { } c ? $", {c}" : "")} ({e.SqlState}).");
        }
    }

    private static async Task<Unpacked> UnpackAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, ZipArchive zip, IReadOnlyList<Table> tables, CancellationToken stop)
    {
        var (renumbered, counts, read) = (new Dictionary<(string Table, long Id), long>(), new List<(string, int)>(), 0L);
        var (study, name) = (default(StudyId), "");
        foreach (var table in tables)
        {
            if (zip.GetEntry($"tables/{table.Name}.jsonl") is not { } entry) continue;
            var rows = 0;
            await foreach (var line in LinesAsync(entry, stop))
            {
                if ((read += line.Length) > MostUnpacked) throw new InvalidDataException(TooLarge);
                if (line.Length == 0) continue;
                if (JsonNode.Parse(line) is not JsonObject row) throw new InvalidDataException($"a line of {table.Name} is no row");
                if (table.Name == "study") row["name"] = name = await FreeNameAsync(connection, transaction, Word(row, "name"), stop);
                foreach (var key in table.Keys)
                {
                    if (row[key.Column] is not { } old) continue;
                    if (!renumbered.TryGetValue((key.Parent, old.GetValue<long>()), out var now)) row[key.Column] = null;
                    else row[key.Column] = now;
                }
                // What was left out of the archive is not pointed to.
                foreach (var column in table.Cut) row[column] = null;
                foreach (var column in table.Fresh) row[column] = Guid.NewGuid().ToString();
                // Names of columns come from the schema, never from the file; what an older archive does not have gets its default.
                var columns = table.Columns.Where(c => c != "id" && row.ContainsKey(c)).ToList();
                var list = string.Join(", ", columns);
                var sql = $"insert into {table.Name} ({list}) select {list} from jsonb_populate_record(null::{table.Name}, @row::jsonb)";
                if (table.HasId) renumbered[(table.Name, row["id"]!.GetValue<long>())] = await connection.ExecuteScalarAsync<long>(new(sql + " returning id", new { row = row.ToJsonString() }, transaction, cancellationToken: stop));
                else await connection.ExecuteAsync(new(sql, new { row = row.ToJsonString() }, transaction, cancellationToken: stop));
                if (table.Name == "study")
                {
                    if (rows > 0) throw new InvalidDataException("it holds more than one study");
                    study = new(renumbered[("study", row["id"]!.GetValue<long>())]);
                }
                rows++;
            }
            if (table.Name == "study" && rows == 0) throw new InvalidDataException("it holds no study");
            counts.Add((table.Name, rows));
        }
        await RewriteAsync(connection, transaction, study, renumbered, stop);
        return new(study, name, [.. counts.Where(c => c.Item2 > 0)]);
    }

    /// <summary>Numbers that stand inside texts: references of the article, players and recordings of saved filters.</summary>
    private static async Task RewriteAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, StudyId study, Dictionary<(string Table, long Id), long> renumbered, CancellationToken stop)
    {
        string New(string table, string id) => long.TryParse(id, out var old) && renumbered.TryGetValue((table, old), out var now) ? $"{now}" : id;
        string Article(string text) => References().Replace(text, m => m.Groups["claim"].Success ? $"claim:{New("claim", m.Groups["claim"].Value)}"
            : m.Groups["passage"].Success ? $"example:passage {New("passage", m.Groups["passage"].Value)}"
            : $"source:{New("recording", m.Groups["recording"].Value)}{m.Groups["at"].Value}{(m.Groups["issue"].Success ? "/" + New("issue", m.Groups["issue"].Value) : "")}");
        foreach (var (text, numbers) in await connection.QueryAsync<(string, string)>(new("select text, numbers::text from article where study_id = @study", new { study }, transaction, cancellationToken: stop)))
            await connection.ExecuteAsync(new("update article set text = @text, numbers = @numbers::jsonb where study_id = @study", new { study, text = Article(text), numbers = Article(numbers) }, transaction, cancellationToken: stop));
        foreach (var (id, query) in await connection.QueryAsync<(long, string)>(new("select id, query from saved_filter where study_id = @study", new { study }, transaction, cancellationToken: stop)))
            await connection.ExecuteAsync(new("update saved_filter set query = @now where id = @id", new
            {
                id,
                now = Numbered().Replace(query, m => m.Groups["what"].Value + New(m.Groups["what"].Value.Contains("player", StringComparison.Ordinal) ? "player" : m.Groups["what"].Value == "recording=" ? "recording" : "idea", m.Groups["id"].Value)),
            }, transaction, cancellationToken: stop));
    }

    [GeneratedRegex(@"claim\s*:\s*(?<claim>\d{1,18})|example\s*:\s*passage (?<passage>\d{1,18})|source\s*:\s*(?<recording>\d{1,18})(?<at>(?:\s*@\s*[0-9:.]+)?)(?:\s*/\s*(?<issue>\d{1,18}))?")]
    private static partial Regex References();

    [GeneratedRegex(@"(?<what>\bplayer=|\bplayer-|\brecording=|\bidea=)(?<id>\d{1,18})")]
    private static partial Regex Numbered();

    private static async Task<string> FreeNameAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, string name, CancellationToken stop)
    {
        var taken = (await connection.QueryAsync<string>(new("select name from study where deleted_at is null", transaction: transaction, cancellationToken: stop))).ToHashSet();
        if (!taken.Contains(name)) return name;
        for (var n = 2; ; n++)
            if (!taken.Contains($"{name} ({n})")) return $"{name} ({n})";
    }

    /// <summary>The tables of a study, parents first.</summary>
    private static async Task<IReadOnlyList<Table>> TablesAsync(NpgsqlConnection connection, CancellationToken stop)
    {
        var all = (await connection.QueryAsync<Key>(new(
            """
            select c.conrelid::regclass::text as child, a.attname::text as "column", c.confrelid::regclass::text as parent
            from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = any(c.conkey)
            where c.contype = 'f' and c.connamespace = 'public'::regnamespace and array_length(c.conkey, 1) = 1
            """, cancellationToken: stop))).Where(k => k.Child != k.Parent && !Left.Contains(k.Child)).ToLookup(k => Left.Contains(k.Parent));
        var keys = all[false].ToList();
        var columns = (await connection.QueryAsync<(string Table, string Column)>(new(
            "select table_name::text, column_name::text from information_schema.columns where table_schema = 'public' order by ordinal_position", cancellationToken: stop))).ToLookup(c => c.Table, c => c.Column);
        // Keys that are unique in the whole installation: a copy beside its original needs others.
        var unique = (await connection.QueryAsync<(string Table, string Column)>(new(
            """
            select c.conrelid::regclass::text, a.attname::text from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = any(c.conkey)
            where c.contype in ('u', 'p') and c.connamespace = 'public'::regnamespace and array_length(c.conkey, 1) = 1 and a.atttypid = 'uuid'::regtype
            """, cancellationToken: stop))).ToLookup(c => c.Table, c => c.Column);
        var inside = new List<string> { "study" };
        for (var grown = true; grown;)
        {
            grown = false;
            foreach (var child in keys.Where(k => inside.Contains(k.Parent)).Select(k => k.Child).Distinct().ToList())
                if (!inside.Contains(child)) { inside.Add(child); grown = true; }
        }
        var ordered = new List<string>();
        void Visit(string table)
        {
            if (ordered.Contains(table)) return;
            foreach (var parent in keys.Where(k => k.Child == table && inside.Contains(k.Parent)).Select(k => k.Parent)) Visit(parent);
            ordered.Add(table);
        }
        foreach (var table in inside.Order(StringComparer.Ordinal)) Visit(table);
        return [.. ordered.Select(t => new Table(t, [.. columns[t]], columns[t].Contains("id"), [.. keys.Where(k => k.Child == t && inside.Contains(k.Parent))], [.. unique[t]], [.. all[true].Where(k => k.Child == t).Select(k => k.Column)]))];
    }

    private static string Belongs(Table table) => table.Name == "study" ? "t.id = any(@study)" : string.Join(" or ", table.Keys.Select(k => $"t.{k.Column} = any(@{k.Parent})"));

    private static DynamicParameters Parameters(Table table, Dictionary<string, long[]> ids)
    {
        var parameters = new DynamicParameters();
        foreach (var parent in table.Name == "study" ? ["study"] : table.Keys.Select(k => k.Parent).Distinct()) parameters.Add(parent, ids.GetValueOrDefault(parent, []));
        return parameters;
    }

    private const string TooLarge = "it is larger than a study can be";

    /// <summary>Line after line; one that does not end is given up before it fills the memory.</summary>
    private static async IAsyncEnumerable<string> LinesAsync(ZipArchiveEntry entry, [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken stop)
    {
        using var reader = new StreamReader(entry.Open(), Encoding.UTF8);
        var (buffer, line) = (new char[16 * 1024], new StringBuilder());
        int length;
        while ((length = await reader.ReadBlockAsync(buffer, stop)) > 0)
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

    private static Task<int> SchemaAsync(NpgsqlConnection connection, CancellationToken stop) => connection.ExecuteScalarAsync<int>(new("select count(*)::int from schemaversions", cancellationToken: stop));

    private static string Word(JsonObject of, string name) => of[name]?.GetValueKind() == JsonValueKind.String ? of[name]!.GetValue<string>() : "";

    private static async Task PutAsync(ZipArchive zip, string name, string text)
    {
        await using var into = new StreamWriter(zip.CreateEntry(name, CompressionLevel.Optimal).Open(), new UTF8Encoding(false));
        await into.WriteAsync(text);
    }

    private static async Task<string?> TextAsync(ZipArchiveEntry entry, int most)
    {
        using var reader = new StreamReader(entry.Open(), Encoding.UTF8);
        var buffer = new char[most + 1];
        var length = await reader.ReadBlockAsync(buffer);
        return length > most ? null : new string(buffer, 0, length);
    }
}
