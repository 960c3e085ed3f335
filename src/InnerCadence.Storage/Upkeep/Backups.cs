using System.Diagnostics;
using Dapper;
using Npgsql;

namespace InnerCadence.Storage.Upkeep;

/// <summary>How often a backup is made by itself, and how many of those are kept.</summary>
public sealed record BackupPlan(string Every, int Keep)
{
    public const int Most = 99;
    public static IReadOnlyList<string> Choices { get; } = ["never", "day", "week"];

    public TimeSpan? Gap => Every switch { "day" => TimeSpan.FromDays(1), "week" => TimeSpan.FromDays(7), _ => null };
}

/// <summary>
/// Backups of the whole installation with PostgreSQL's own tools: each is read back into a database of its own before it counts. A restore
/// first makes a backup of what is there, and takes its
/// place only when the file was read whole; of the file only its data are taken (<see cref="TakenAsData"/>).
/// </summary>
/// <param name="connectionString">Of the database that is backed up; its role may create databases and is no superuser.</param>
/// <param name="restorer">Of the role that reads files and can do nothing else; nothing where there is none, and then nothing is
/// restored.</param>
public sealed class Backups(NpgsqlDataSource source, string connectionString, string? restorer, BackupFolder store)
{
    /// <summary>The lock of whoever makes or restores a backup on this server, whichever program it is: a number that nothing else
    /// locks.</summary>
    private const long OneAtATime = 0x1CADEBAC;
    private static readonly TimeSpan LongestReading = TimeSpan.FromMinutes(10);
    private const long MostRoom = 16 * BackupFolder.MostBytes;
    private readonly NpgsqlConnectionStringBuilder address = new(connectionString);

    public async Task<BackupPlan> PlanAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var said = (await connection.QueryAsync<(string,
            string)>(new("select name, value from setting where name in ('backup every', 'backups kept')", cancellationToken: stop)))
            .ToDictionary();
        return new(said.GetValueOrDefault("backup every", "week"), int.TryParse(said.GetValueOrDefault("backups kept"), out var keep)
            ? keep : 8);
    }

    public async Task PlanAsync(BackupPlan plan, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(
            new("insert into setting (name, value) values ('backup every', @Every), ('backups kept', @keep) on conflict (name) do "
            + "update set value = excluded.value", new { plan.Every, keep = $"{plan.Keep}" }, cancellationToken: stop));
    }

    /// <summary>Makes the scheduled backup if it is due, and lets the oldest scheduled ones go.</summary>
    /// <returns>What was made; nothing where none is due.</returns>
    public async Task<(BackupFile? Made, string? Problem)> KeepUpAsync(DateTime now, CancellationToken stop)
    {
        var plan = await PlanAsync(stop);
        var scheduled = store.All().Where(b => b.Reason == BackupReason.Scheduled).ToList();
        if (plan.Gap is not { } gap || (scheduled.Count > 0 && scheduled[0].MadeAt > now - gap)) return (null, null);
        var result = await MakeAsync(BackupReason.Scheduled, now, stop);
        if (result.Made is not null)
            foreach (var old in scheduled.Skip(plan.Keep - 1)) store.Remove(old);
        return result;
    }

    public async Task<(BackupFile? Made, string? Problem)> MakeAsync(BackupReason reason, DateTime at, CancellationToken stop)
    {
        var part = store.Part();
        try
        {
            return await WriteAsync(part, stop) is { } problem ? (null, problem) : (store.Keep(part, reason, at), null);
        }
        finally
        {
            File.Delete(part);
        }
    }

    /// <summary>Writes a backup, consistent while the application is in use, and reads it back.</summary>
    /// <returns>Why it does not count; nothing where it does.</returns>
    public async Task<string?> WriteAsync(string file, CancellationToken stop)
    {
        var check = $"cadence_check_{Guid.NewGuid():n}";
        try
        {
            await using var alone = await AloneAsync(stop);
            try
            {
                if (await RunAsync("pg_dump", ["--format=custom", $"--file={file}", address.Database!], address,
                    stop) is { } failed) return $"The backup failed: {failed}";
                await AskAsync($"create database {check}", stop);
                return await RunAsync("pg_restore", ["--exit-on-error", "--no-owner", "--no-privileges", $"--dbname={check}", file],
                    address, stop) is { } unread
                    ? $"What was written could not be read back: {unread}" : null;
            }
            finally
            {
                await DropAsync(check);
            }
        }
        catch (NpgsqlException e)
        {
            return $"The backup could not be checked: {(e as PostgresException)?.MessageText ?? e.Message}.";
        }
    }

    /// <summary>Puts a backup in the place of what is there; that is backed up first. Nothing changes where the file is no whole
    /// backup.</summary>
    /// <returns>The backup of what was there, or a sentence.</returns>
    public async Task<(BackupFile? Before, string? Problem)> RestoreAsync(BackupFile backup, DateTime at, CancellationToken stop)
    {
        if (restorer is null) return (null,
            "Restoring wants a role of the database that can do nothing else; ./start makes one. Nothing was restored.");
        var (before, problem) = await MakeAsync(BackupReason.BeforeRestore, at, stop);
        if (before is null) return (null, $"{problem} Nothing was restored.");
        var (brought, fresh) = ($"cadence_brought_{Guid.NewGuid():n}", $"cadence_restored_{Guid.NewGuid():n}");
        try
        {
            await using var alone = await AloneAsync(stop);
            var reader = new NpgsqlConnectionStringBuilder(restorer) { Database = brought, Pooling = false };
            await AskAsync($"create database {brought} owner \"{reader.Username}\"", stop);
            if (await ReadAsync(backup, brought, reader, stop) is { } unread) return (null, unread);
            await AskAsync($"create database {fresh}", stop);
            await TakenAsData.CopyAsync(reader.ConnectionString, To(fresh), stop);
            await SwapAsync(fresh, stop);
            return (before, null);
        }
        catch (Exception e) when (e is NpgsqlException or InvalidOperationException)
        {
            return (null, $"{backup.Name} could not be restored: {(e as PostgresException)?.MessageText ?? e.Message} What was there "
                + $"before is in {before.Name}.");
        }
        finally
        {
            await DropAsync(brought);
            await DropAsync(fresh);
        }
    }

    /// <summary>Reads the file into a database of its own, as the role that owns nothing else, bounded in time and room.</summary>
    /// <returns>Why it is no backup that can be taken; nothing where it can.</returns>
    private async Task<string?> ReadAsync(BackupFile backup, string brought, NpgsqlConnectionStringBuilder reader, CancellationToken stop)
    {
        using var enough = CancellationTokenSource.CreateLinkedTokenSource(stop);
        enough.CancelAfter(LongestReading);
        var reading = RunAsync("pg_restore", ["--exit-on-error", "--no-owner", "--no-privileges", "--format=custom", $"--dbname={brought}",
            store.PathOf(backup)], reader, enough.Token);
        try
        {
            while (await Task.WhenAny(reading, Task.Delay(TimeSpan.FromSeconds(1), stop)) != reading)
                if (await SizeAsync(brought, stop) > MostRoom) await enough.CancelAsync();
            if (await reading is not null) return $"{backup.Name} is no whole backup. Nothing was restored.";
        }
        catch (OperationCanceledException) when (!stop.IsCancellationRequested)
        {
            return $"{backup.Name} is larger than any backup of this program. Nothing was restored.";
        }
        return await TakenAsData.UnfitAsync(reader.ConnectionString, stop);
    }

    private async Task<long> SizeAsync(string name, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<long>(
            new("select coalesce(pg_database_size((select oid from pg_database where datname = @name)), 0)", new { name },
            cancellationToken: stop));
    }

    /// <summary>Nobody may come back in while the names change, or the pool would hold the old one.</summary>
    private async Task SwapAsync(string fresh, CancellationToken stop)
    {
        var (now, old) = (address.Database!, $"cadence_old_{Guid.NewGuid():n}");
        await AskAsync($"alter database \"{now}\" allow_connections false", stop);
        var renamed = false;
        try
        {
            await AskAsync(EndAllIn(now), stop);
            await AskAsync($"alter database \"{now}\" rename to {old}", stop);
            renamed = true;
            await AskAsync($"alter database {fresh} rename to \"{now}\"", stop);
            await AskAsync($"revoke connect on database \"{now}\" from public", stop);
        }
        catch
        {
            // What was there is there again, whatever came between.
            if (renamed) await AskAsync($"alter database {old} rename to \"{now}\"", CancellationToken.None);
            await AskAsync($"alter database \"{now}\" allow_connections true", CancellationToken.None);
            throw;
        }
        source.Clear();
        await DropAsync(old);
    }

    private async Task DropAsync(string name)
    {
        try
        {
            await AskAsync(EndAllIn(name), CancellationToken.None);
            await AskAsync($"drop database if exists {name}", CancellationToken.None);
        }
        catch (PostgresException)
        {
            // It stays as it is; the next drop of its kind is another one.
        }
    }

    /// <summary>Whoever comes second waits until this is let go.</summary>
    private async Task<IAsyncDisposable> AloneAsync(CancellationToken stop)
    {
        var connection = new NpgsqlConnection(To("postgres"));
        await connection.OpenAsync(stop);
        await connection.ExecuteAsync(new("select pg_advisory_lock(@OneAtATime)", new { OneAtATime }, commandTimeout: 0,
            cancellationToken: stop));
        return connection;
    }

    /// <summary>Who is connected, but not the server's own workers: only a superuser ends those, and a drop or a new name does it
    /// anyway.</summary>
    private static string EndAllIn(string name) =>
        $"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{name}' and backend_type = 'client backend'";

    private string To(string name) => new NpgsqlConnectionStringBuilder(connectionString)
    {
        Database = name,
        Pooling = false
    }.ConnectionString;

    private async Task AskAsync(string sql, CancellationToken stop)
    {
        await using var connection = new NpgsqlConnection(To("postgres"));
        await connection.OpenAsync(stop);
        await connection.ExecuteAsync(new(sql, cancellationToken: stop));
    }

    /// <summary>Nothing where the tool did its work; else the first line of what it said.</summary>
    private static async Task<string?> RunAsync(string tool, IReadOnlyList<string> arguments, NpgsqlConnectionStringBuilder role,
        CancellationToken stop)
    {
        var start = new ProcessStartInfo(ToolOf(tool), arguments) { RedirectStandardError = true, RedirectStandardOutput = true };
        foreach (var (name, value) in new[] { ("PGHOST", role.Host), ("PGPORT", $"{role.Port}"), ("PGUSER", role.Username),
            ("PGPASSWORD", role.Password) })
            start.Environment[name] = value;
        try
        {
            using var process = Process.Start(start)!;
            // Who stops waiting leaves nothing running.
            await using var kill = stop.Register(() => process.Kill(entireProcessTree: true));
            var said = process.StandardError.ReadToEndAsync(stop);
            await process.StandardOutput.ReadToEndAsync(stop);
            await process.WaitForExitAsync(stop);
            return process.ExitCode == 0 ? null : (await said).Split('\n')[0].Trim() is { Length: > 0 } line ? line
                : $"{tool} ended with {process.ExitCode}";
        }
        catch (System.ComponentModel.Win32Exception)
        {
            return $"{tool} is not on this machine";
        }
    }

    /// <summary>Debian keeps the tools of each version in a folder of its own.</summary>
    private static string ToolOf(string tool) =>
        Directory.Exists("/usr/lib/postgresql") && Directory.EnumerateDirectories("/usr/lib/postgresql")
            .Select(d => Path.Combine(d, "bin", tool)).Where(File.Exists).OrderByDescending(p => p, StringComparer.Ordinal)
            .FirstOrDefault() is { } path ? path : tool;
}
