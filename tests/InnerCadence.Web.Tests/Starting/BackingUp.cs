using System.Text.RegularExpressions;
using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Schema;
using InnerCadence.Storage.Studies;
using Npgsql;

namespace InnerCadence.Web.Tests.Starting;

/// <summary>./start backup and ./start restore on a cluster of their own, while it is in use.</summary>
public sealed class BackingUp : IAsyncLifetime
{
    private static readonly CancellationToken Stop = TestContext.Current.CancellationToken;
    private DirectoryInfo folder = null!;
    private string connectionString = "";

    private string Data => Path.Combine(folder.FullName, "data");
    private string File(string name) => Path.Combine(folder.FullName, name);

    public async ValueTask InitializeAsync()
    {
        folder = Directory.CreateTempSubdirectory("inner-cadence-backup");
        // The server's own user must be able to enter the folder.
        connectionString = (await Shell.RunAsync("chmod 755 \"$(dirname \"$1\")\"; source tools/setup.sh; find_postgres; start_cluster "
            + "\"$1\"; echo \"$INNER_CADENCE_DB\"", Data)).Said.Split('\n', StringSplitOptions.RemoveEmptyEntries)[^1] + ";Pooling=false";
        Database.Migrate(connectionString);
    }

    public async ValueTask DisposeAsync()
    {
        await Shell.RunAsync("source tools/setup.sh; find_postgres; cluster=\"$1\"; stop_cluster", Path.Combine(Data, "cluster"));
        await Shell.RunAsync("rm -rf \"$1\"", folder.FullName);
    }

    [Fact]
    public async Task What_was_backed_up_while_in_use_comes_back_and_what_was_there_before_is_kept()
    {
        await using var source = Database.Open(connectionString);
        var studies = new StudyStore(source);
        var study = await studies.AddAsync(new("Kept", "where?", "Nell Tarrow", Handedness.Left, ["Oda Finch"]), Stop);

        // Somebody is in the middle of a change that is not committed: it is not part of the backup.
        await using (var busy = await source.OpenConnectionAsync(Stop))
        await using (var transaction = await busy.BeginTransactionAsync(Stop))
        {
            await busy.ExecuteAsync("insert into study (name) values ('Half done')", transaction: transaction);
            var (code, said) = await StartAsync("backup", File("one.backup"));
            said.ShouldContain("was read back without an error");
            code.ShouldBe(0);
        }

        await studies.AddAsync(new("Later", "", "Nell Tarrow", Handedness.Left, []), Stop);
        var before = Regex.Match((await StartAsync("restore", File("one.backup"))).Said,
            "is restored. What was there before is kept as the backup (.*);").Groups[1].Value;
        // What a connection was kept for is elsewhere now.
        NpgsqlConnection.ClearAllPools();
        (await studies.AllAsync(Stop)).Select(s => s.Name).ShouldBe(["Kept"]);
        (await studies.FindAsync(study, Stop))!.Question.ShouldBe("where?");

        await using var server = await source.OpenConnectionAsync(Stop);
        (await server.ExecuteScalarAsync<int>("select count(*)::int from pg_database where datname like 'cadence\\_%'"))
            .ShouldBe(0, "nothing is left lying about");

        (await StartAsync("restore", Path.Combine(Data, "backups", before))).Said.ShouldContain("is restored");
        NpgsqlConnection.ClearAllPools();
        (await studies.AllAsync(Stop)).Select(s => s.Name).ShouldBe(["Kept", "Later"], ignoreOrder: true);
    }

    [Fact]
    public async Task A_backup_never_overwrites_and_a_bad_file_changes_nothing()
    {
        await using var source = Database.Open(connectionString);
        var studies = new StudyStore(source);
        await studies.AddAsync(new("Kept", "", "Nell Tarrow", Handedness.Right, []), Stop);
        await StartAsync("backup", File("one.backup"));
        var (code, said) = await StartAsync("backup", File("one.backup"));
        (code, said.Contains("is there already")).ShouldBe((1, true));

        var whole = await System.IO.File.ReadAllBytesAsync(File("one.backup"), Stop);
        await System.IO.File.WriteAllBytesAsync(File("half.backup"), whole[..(whole.Length / 2)], Stop);
        await System.IO.File.WriteAllTextAsync(File("text.backup"), "SN: 2 4", Stop);
        foreach (var bad in (string[])["half.backup", "text.backup", "none.backup"])
        {
            (code, said) = await StartAsync("restore", File(bad));
            code.ShouldBe(1, bad);
            said.ShouldMatch("Nothing was restored|cannot be read");
        }
        (await studies.AllAsync(Stop)).Select(s => s.Name).ShouldBe(["Kept"]);
    }

    private Task<(int Code, string Said)> StartAsync(string task, string file) =>
        Shell.RunAsync("./start \"$1\" \"$2\" --data \"$3\"", task, file, Data);
}
