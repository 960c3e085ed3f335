using InnerCadence.Storage.Schema;
using Npgsql;

namespace InnerCadence.Testing;

/// <summary>A fresh database on the PostgreSQL that ./test started, cloned from a template that is migrated once a run.</summary>
public sealed class TestDatabase : IAsyncDisposable
{
    private static readonly SemaphoreSlim Making = new(1);
    private static string? template;

    private readonly string name;

    private TestDatabase(string name, string connectionString) => (this.name, ConnectionString) = (name, connectionString);

    public string ConnectionString { get; }

    /// <summary>The role that reads backups and can do nothing else.</summary>
    public static string? Restorer => Environment.GetEnvironmentVariable("INNER_CADENCE_RESTORER");

    public static async Task<TestDatabase> CreateAsync()
    {
        await Making.WaitAsync();
        try
        {
            if (template is null)
            {
                var fresh = "template_" + Guid.NewGuid().ToString("n");
                await RunAsync($"create database {fresh}");
                Database.Migrate(To(fresh));
                NpgsqlConnection.ClearAllPools();
                template = fresh;
            }
            var name = "test_" + Guid.NewGuid().ToString("n");
            await RunAsync($"create database {name} template {template}");
            return new(name, To(name));
        }
        finally
        {
            Making.Release();
        }
    }

    /// <summary>No plain role may end the server’s own workers, which <c>with (force)</c> would; a plain drop makes them leave.</summary>
    public async ValueTask DisposeAsync()
    {
        await RunAsync($"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{name}' and backend_type = 'client "
            + $"backend'");
        await RunAsync($"drop database if exists {name}");
    }

    private static string Server => Environment.GetEnvironmentVariable("INNER_CADENCE_DB")
        ?? throw new InvalidOperationException("These tests need a PostgreSQL: run ./test, which starts one.");

    private static string To(string database) => new NpgsqlConnectionStringBuilder(Server)
    {
        Database = database,
        MaxPoolSize = 10
    }.ConnectionString;

    private static async Task RunAsync(string sql)
    {
        await using var connection = new NpgsqlConnection(new NpgsqlConnectionStringBuilder(Server) { Pooling = false }.ConnectionString);
        await connection.OpenAsync();
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync();
    }
}

/// <summary>Files of the working copy.</summary>
public static class WorkingCopy
{
    public static string Root { get; } = Find(new(AppContext.BaseDirectory));

    /// <summary>A study with a little of everything, whose numbers tests know.</summary>
    public static string Study { get; } = Path.Combine(Root, "tests", "fixtures", "study");

    /// <summary>What people wrote under a folder, without what is built.</summary>
    public static IEnumerable<string> Files(string folder, string pattern) =>
        Directory.EnumerateFiles(Path.Combine(Root, folder), pattern, SearchOption.AllDirectories)
        .Where(f => !f.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}", StringComparison.Ordinal)
            && !f.Contains($"{Path.DirectorySeparatorChar}bin{Path.DirectorySeparatorChar}", StringComparison.Ordinal));

    private static string Find(DirectoryInfo from) =>
        File.Exists(Path.Combine(from.FullName, "InnerCadence.slnx")) ? from.FullName
            : Find(from.Parent ?? throw new InvalidOperationException("The tests run outside a working copy."));
}
