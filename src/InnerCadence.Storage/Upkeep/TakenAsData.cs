using Dapper;
using InnerCadence.Storage.Schema;
using Npgsql;

namespace InnerCadence.Storage.Upkeep;

/// <summary>
/// What a backup holds, taken as data only: rows and counters go, table by table, into a database that this program's own migrations made.
/// Functions, triggers, views and rules of the file stay behind,
/// and whatever they do while they are read, they do as a role that owns nothing else.
/// </summary>
internal static class TakenAsData
{
    /// <summary>A hostile view may compute for ever; no table of ours takes this long.</summary>
    private const int LongestTable = 300;

    /// <summary>Why what was read cannot be taken; nothing where it can.</summary>
    public static async Task<string?> UnfitAsync(string brought, CancellationToken stop)
    {
        await using var there = await OpenAsync(brought, stop);
        const string tables = "select count(*)::int from pg_catalog.pg_class c where relkind = 'r' and relnamespace = "
            + "'public'::regnamespace and relname in ('study', 'passage', 'sighting', 'schemaversions')";
        if (await there.ExecuteScalarAsync<int>(new(tables,
            cancellationToken: stop)) != 4) return "This is no backup of Inner Cadence. Nothing was restored.";
        return (await StepsAsync(there, stop)).Any(s => !Database.Steps.Contains(s))
            ? "This backup was made by a newer version; bring this one up to date first. Nothing was restored." : null;
    }

    /// <summary>Makes the schema as it was when the backup was made, fills it, and brings it up to date.</summary>
    /// <exception cref="NpgsqlException">What was read does not fit the schema; the transaction is taken back.</exception>
    public static async Task CopyAsync(string brought, string fresh, CancellationToken stop)
    {
        await using var there = await OpenAsync(brought, stop);
        var steps = await StepsAsync(there, stop);
        Database.Migrate(fresh, steps.ToHashSet().Contains);
        await using (var here = new NpgsqlConnection(fresh))
        {
            await here.OpenAsync(stop);
            await using var transaction = await here.BeginTransactionAsync(stop);
            await FillAsync(there, here, stop);
            await transaction.CommitAsync(stop);
        }
        Database.Migrate(fresh);
    }

    private static async Task FillAsync(NpgsqlConnection there, NpgsqlConnection here, CancellationToken stop)
    {
        // Rows come in any order: what binds tables to each other is checked once all are there.
        var bonds = (await here.QueryAsync<(string Table, string Name, string Rule)>(new(
            "select conrelid::regclass::text, quote_ident(conname), pg_get_constraintdef(oid) from pg_constraint where contype = 'f' "
                + "and connamespace = 'public'::regnamespace", cancellationToken: stop))).AsList();
        foreach (var bond in bonds) await here.ExecuteAsync(new($"alter table {bond.Table} drop constraint {bond.Name}",
            cancellationToken: stop));

        var tables = (await here.QueryAsync<(string Name, string Columns)>(new("""
            select quote_ident(c.table_name), string_agg(quote_ident(c.column_name), ', ' order by c.ordinal_position)
            from information_schema.columns c join information_schema.tables t using (table_schema, table_name)
            where c.table_schema = 'public' and t.table_type = 'BASE TABLE' and c.table_name <> 'schemaversions'
              and c.is_generated = 'NEVER' group by c.table_name
            """, cancellationToken: stop))).AsList();
        await here.ExecuteAsync(new($"truncate {string.Join(", ", tables.Select(t => t.Name))}", cancellationToken: stop));
        foreach (var (name, columns) in tables)
        {
            await using var from = await there.BeginRawBinaryCopyAsync($"copy public.{name} ({columns}) to stdout (format binary)", stop);
            await using var into = await here.BeginRawBinaryCopyAsync($"copy public.{name} ({columns}) from stdin (format binary)", stop);
            await from.CopyToAsync(into, stop);
        }
        foreach (var counter in await here.QueryAsync<string>(
            new("select quote_ident(sequencename) from pg_sequences where schemaname = 'public'", cancellationToken: stop)))
        {
            var (last, called) = await there.QuerySingleAsync<(long,
                bool)>(new($"select last_value, is_called from public.{counter}", cancellationToken: stop));
            await here.ExecuteAsync(new("select setval(@counter::regclass, @last, @called)",
                new { counter = $"public.{counter}", last, called }, cancellationToken: stop));
        }
        foreach (var bond in bonds) await here.ExecuteAsync(new($"alter table {bond.Table} add constraint {bond.Name} {bond.Rule}",
            commandTimeout: LongestTable, cancellationToken: stop));
    }

    private static async Task<IReadOnlyList<string>> StepsAsync(NpgsqlConnection there, CancellationToken stop) =>
        (await there.QueryAsync<string>(new("select scriptname::text from public.schemaversions order by 1 limit 10000",
            cancellationToken: stop))).AsList();

    private static async Task<NpgsqlConnection> OpenAsync(string brought, CancellationToken stop)
    {
        var connection = new NpgsqlConnection(new NpgsqlConnectionStringBuilder(brought)
        {
            Options =
            $"-c statement_timeout={LongestTable}s -c search_path=pg_catalog",
            CommandTimeout = LongestTable
        }.ConnectionString);
        await connection.OpenAsync(stop);
        return connection;
    }
}
