using Dapper;
using InnerCadence.Storage.Schema;
using InnerCadence.Storage.Upkeep;
using Microsoft.AspNetCore.Mvc.Testing;
using Npgsql;

namespace InnerCadence.Web.Tests.Starting;

/// <summary>A newer program on a database of before: what is there is backed up before the first step.</summary>
public sealed class BringingUpToDate : IAsyncLifetime
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("inner-cadence-");
    private TestDatabase database = null!;

    private static CancellationToken Stop => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        database = await TestDatabase.CreateAsync();
        await using (var connection = new NpgsqlConnection(database.ConnectionString))
            await connection.ExecuteAsync("drop schema public cascade; create schema public");
        Database.Migrate(database.ConnectionString, step => string.CompareOrdinal(step, "InnerCadence.Storage.Migrations.0015") < 0);
        NpgsqlConnection.ClearAllPools();
    }

    public async ValueTask DisposeAsync()
    {
        await database.DisposeAsync();
        folder.Delete(recursive: true);
    }

    private WebApplicationFactory<Program> Program() => new WebApplicationFactory<Program>().WithWebHostBuilder(host => host
        .UseSetting("INNER_CADENCE_DB", database.ConnectionString).UseSetting("INNER_CADENCE_DATA", folder.FullName)
            .UseSetting("Serilog:MinimumLevel:Default", "Error"));

    [Fact]
    public async Task It_is_backed_up_first_once_and_then_shown()
    {
        for (var start = 0; start < 2; start++)
        {
            await using var program = Program();
            (await program.CreateClient().GetAsync("/", Stop)).IsSuccessStatusCode.ShouldBeTrue();
            new BackupFolder(Path.Combine(folder.FullName, "backups")).All().Select(b => b.Reason).ShouldBe([BackupReason.BeforeUpdate]);
        }
        Database.IsBehind(database.ConnectionString).ShouldBeFalse();
    }

    [Fact]
    public async Task Without_room_for_the_backup_nothing_is_changed()
    {
        await File.WriteAllTextAsync(Path.Combine(folder.FullName, "backups"), "a file stands where the folder should be", Stop);
        await using var program = Program();
        Should.Throw<Exception>(() => program.CreateClient());
        Database.IsBehind(database.ConnectionString).ShouldBeTrue();
    }
}
