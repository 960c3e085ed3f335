using Dapper;

namespace InnerCadence.Storage.Tests;

public class TheDataDictionary : StorageTests
{
    [Fact]
    public async Task Names_every_column_of_the_schema_and_no_other()
    {
        await using var connection = await Source.OpenConnectionAsync(Stop);
        var columns = await connection.QueryAsync<string>(
            "select table_name || '.' || column_name from information_schema.columns where table_schema = 'public' and table_name <> "
                + "'schemaversions'");
        var (table, told) = ("", new List<string>());
        foreach (var line in await File.ReadAllLinesAsync(Path.Combine(WorkingCopy.Root, "docs", "data-dictionary.md"), Stop))
        {
            if (line.StartsWith("## ", StringComparison.Ordinal)) table = line[3..];
            else if (line.StartsWith("| ", StringComparison.Ordinal)
                && !line.StartsWith("| column ", StringComparison.Ordinal)) told.Add($"{table}.{line.Split('|')[1].Trim()}");
        }
        told.ShouldBe(columns, ignoreOrder: true, "run tools/data-dictionary");
    }
}
