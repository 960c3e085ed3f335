using System.IO.Compression;
using System.Text.Json.Nodes;
using Dapper;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Schema;
using Npgsql;

namespace InnerCadence.Storage.Tests;

/// <summary>A filled database and an archive of before: texts that would be read otherwise today are rewritten so that their strokes stay,
/// and that is told.</summary>
public class BringingTextsOver : StorageTests
{
    private const string Step = "InnerCadence.Storage.Migrations.0017_old_texts";
    private const string Old = "SN: 2 || 4\nBD: 1 | 1 | 3";

    private async Task<PassageId> WriteOldAsync() => await WriteAsync(await RecordAsync("Salt Line", 32), Old);

    [Fact]
    public async Task In_a_database()
    {
        var passage = await WriteOldAsync();
        await using var connection = await Source.OpenConnectionAsync(Stop);
        await connection.ExecuteAsync("delete from schemaversions where scriptname = @Name", new { Name = Step });
        Database.Migrate(ConnectionString);
        var now = (await Passages.FindAsync(passage, Stop))!.Text;
        now.ShouldBe("SN: 2 | | 4\nBD: 1 | 1 | 3");
        CountLines.Parse(now).Passage.Strokes.ShouldBe(CountLines.Parse(Old, Language.First).Passage.Strokes);
        (await connection.QuerySingleAsync<string>("select was from counted_anew")).ShouldBe(Old);
        // Done once.
        Database.Migrate(ConnectionString);
        (await connection.ExecuteScalarAsync<int>("select count(*)::int from counted_anew")).ShouldBe(1);
    }

    [Fact]
    public async Task In_an_archive()
    {
        await WriteOldAsync();
        var archive = new StudyArchive(Source);
        using var bytes = new MemoryStream();
        await bytes.WriteAsync(await archive.WriteAsync(Study, Stop), Stop);
        using (var zip = new ZipArchive(bytes, ZipArchiveMode.Update, leaveOpen: true))
        {
            var entry = zip.GetEntry("study.json")!;
            JsonObject head;
            using (var reader = new StreamReader(entry.Open())) head = JsonNode.Parse(await reader.ReadToEndAsync(Stop))!.AsObject();
            entry.Delete();
            head["schema"] = 16;
            await using var writer = new StreamWriter(zip.CreateEntry("study.json").Open());
            await writer.WriteAsync(head.ToJsonString());
        }
        bytes.Position = 0;
        var (report, problem) = await archive.ReadAsync(bytes, null, Stop);
        problem.ShouldBeNull();
        await using var connection = await Source.OpenConnectionAsync(Stop);
        (await connection.QuerySingleAsync<string>(
            "select g.text from reading g join passage a on a.id = g.passage_id join recording r on r.id = a.recording_id where "
                + "r.study_id = @Study", new { report!.Study })).ShouldBe("SN: 2 | | 4\nBD: 1 | 1 | 3");
        (await connection.QuerySingleAsync<string>("select was from counted_anew where study_id = @Study", new { report.Study }))
            .ShouldBe(Old);
    }
}
