using System.IO.Compression;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Exchange;

/// <summary>
/// A whole study as one zip of readable files: study.json says what it is, schema.json what its rows are, tables/*.jsonl have a row a line,
/// passages/*.counts.txt are the preferred readings to read.
/// It goes by the schema itself, table after table along the foreign keys, so that nothing of a study can be forgotten; sound files and
/// unfinished work are never in it.
/// </summary>
public sealed class StudyArchive(NpgsqlDataSource source)
{
    public const string Format = "Inner Cadence study";
    public const int MostBytes = 64 * 1024 * 1024;
    internal static readonly JsonSerializerOptions Readable = new()
    {
        WriteIndented = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping
    };

    /// <summary>Nothing where there is no such study.</summary>
    public async Task<byte[]?> WriteAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        // One moment of the whole study, whatever is written meanwhile.
        await using var moment = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, stop);
        await connection.ExecuteAsync(new("set local timezone to 'UTC'", transaction: moment, cancellationToken: stop));
        var tables = await ArchiveTables.ReadAsync(connection, stop);
        if (await connection.ExecuteScalarAsync<string?>(new("select name from study where id = @study and deleted_at is null",
            new { study }, moment, cancellationToken: stop)) is not { } name) return null;
        var ids = new Dictionary<string, long[]> { ["study"] = [study.Value] };
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            var counts = new JsonObject();
            foreach (var table in tables)
            {
                var rows = (await connection.QueryAsync<string>(
                    new($"select row_to_json(t)::text from {table.Name} t where {table.Belongs}{(table.HasId ? " order by t.id" : "")}",
                    table.Parameters(ids), moment, cancellationToken: stop))).AsList();
                if (table.HasId && table.Name != "study") ids[table.Name] =
                    [.. rows.Select(r => JsonNode.Parse(r)!["id"]!.GetValue<long>())];
                counts[table.Name] = rows.Count;
                await PutAsync(zip, $"tables/{table.Name}.jsonl", string.Join('\n', rows) + (rows.Count > 0 ? "\n" : ""));
            }
            var readings = await connection.QueryAsync<(long Id, string Text)>(new(
                "select a.id, g.text from passage a join reading g on g.passage_id = a.id and g.preferred join recording r on r.id = "
                    + "a.recording_id where r.study_id = @study and a.deleted_at is null order by a.id",
                new { study }, moment, cancellationToken: stop));
            foreach (var (id, text) in readings) await PutAsync(zip, $"passages/{id}.counts.txt", text);
            await PutAsync(zip, "schema.json", ArchiveSchema.Of(tables).ToJsonString(Readable));
            await PutAsync(zip, "study.json", new JsonObject
            {
                ["format"] = Format,
                ["version"] = 1,
                ["schema"] = await SchemaAsync(connection, stop),
                ["program"] = ProgramVersion.Words,
                ["name"] = name,
                ["written"] = DateTime.UtcNow.ToString("O"),
                ["rows"] = counts
            }.ToJsonString(Readable));
        }
        return file.ToArray();
    }

    /// <summary>What the rows of an archive are, as a JSON schema.</summary>
    public async Task<JsonObject> SchemaAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return ArchiveSchema.Of(await ArchiveTables.ReadAsync(connection, stop));
    }

    /// <summary>Says what <see cref="ReadAsync"/> would do, and does nothing.</summary>
    public Task<(ArchiveReport? Report, string? Problem)> LookAsync(Stream bytes, StudyId? into, CancellationToken stop) =>
        ReadAsync(bytes, into, keep: false, stop);

    /// <summary>Makes a new study of an archive, or merges it into one that is here; all of it or nothing.</summary>
    /// <returns>A sentence instead where it is no archive; then nothing has changed.</returns>
    public Task<(ArchiveReport? Report, string? Problem)> ReadAsync(Stream bytes, StudyId? into, CancellationToken stop) =>
        ReadAsync(bytes, into, keep: true, stop);

    private async Task<(ArchiveReport? Report, string? Problem)> ReadAsync(Stream bytes, StudyId? into, bool keep, CancellationToken stop)
    {
        try
        {
            using var file = new ArchiveFile(bytes);
            await using var connection = await source.OpenConnectionAsync(stop);
            if (file.Schema > await SchemaAsync(connection, stop)) return (null, ArchiveFile.Newer);
            await using var transaction = await connection.BeginTransactionAsync(stop);
            var report = await new ArchiveReader(connection, transaction, file, await ArchiveTables.ReadAsync(connection, stop), into, stop)
                .ReadAsync();
            if (keep) await transaction.CommitAsync(stop);
            return (report, null);
        }
        catch (NoArchiveException e)
        {
            return (null, e.Message);
        }
        catch (Exception e) when (e is InvalidDataException or JsonException or FormatException or InvalidOperationException
            or KeyNotFoundException or ArgumentException or IOException or OverflowException)
        {
            return (null, $"This archive is broken{(e is InvalidDataException { Message.Length: < 120 } ? $": {e.Message}." : ".")}");
        }
        catch (PostgresException e)
        {
            return (null, $"This archive does not fit together: {e.TableName ?? "a table"}{(e.ColumnName is { } c ? $", {c}" : "")} "
                + $"({e.SqlState}).");
        }
    }

    private static Task<int> SchemaAsync(NpgsqlConnection connection, CancellationToken stop) =>
        connection.ExecuteScalarAsync<int>(new("select count(*)::int from schemaversions", cancellationToken: stop));

    private static async Task PutAsync(ZipArchive zip, string name, string text)
    {
        await using var into = new StreamWriter(zip.CreateEntry(name, CompressionLevel.Optimal).Open(), new UTF8Encoding(false));
        await into.WriteAsync(text);
    }
}
