using System.Diagnostics;
using Dapper;
using Npgsql;

namespace InnerCadence.Storage;

/// <summary>How often a backup is made by itself, and how many of those are kept.</summary>
public sealed record BackupPlan(string Every, int Keep)
{
    public const int Most = 99;
    public static IReadOnlyList<string> Choices { get; } = ["never", "day", "week"];

    public TimeSpan? Gap => Every switch { "day" => TimeSpan.FromDays(1), "week" => TimeSpan.FromDays(7), _ => null };
}

/// <summary>
/// Backups of the whole installation with PostgreSQL's own tools: each is read back into a database of its own before it counts. A restore first makes a backup of what is there, and takes its
/// place only when the file was read whole.
/// </summary>
/// <param name="connectionString">Of the database that is backed up; its user may create databases.</param>
public sealed class Backups(NpgsqlDataSource source, string connectionString, BackupStore store)
{
    private static readonly SemaphoreSlim OneAtATime = new(1);
    private readonly NpgsqlConnectionStringBuilder address = new(connectionString);

    public async Task<BackupPlan> PlanAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var said = (await connection.QueryAsync<(string, string)>(new("select name, value from setting where name in ('backup every', 'backups kept')", cancellationToken: stop))).ToDictionary();
        return new(said.GetValueOrDefault("backup every", "week"), int.TryParse(said.GetValueOrDefault("backups kept"), out var keep) ? keep : 8);
    }

    public async Task PlanAsync(BackupPlan plan, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("insert into setting (name, value) values ('backup every', @Every), ('backups kept', @keep) on conflict (name) do update set value = excluded.value", new { plan.Every, keep = $"{plan.Keep}" }, cancellationToken: stop));
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
        await OneAtATime.WaitAsync(stop);
        var (part, check) = (store.Part(), $"cadence_check_{Guid.NewGuid():n}");
        try
        {
            if (await RunAsync("pg_dump", ["--format=custom", $"--file={part}", address.Database!], stop) is { } failed) return (null, $"The backup failed: {failed}");
            await AskAsync($"create database {check}", stop);
            if (await RunAsync("pg_restore", ["--exit-on-error", "--no-owner", $"--dbname={check}", part], stop) is { } unread) return (null, $"What was written could not be read back: {unread}");
            return (store.Keep(part, reason, at), null);
        }
        catch (PostgresException e)
        {
            return (null, $"The backup could not be checked: {e.MessageText}.");
        }
        finally
        {
            File.Delete(part);
            await DropAsync(check);
            OneAtATime.Release();
        }
    }

    /// <summary>Puts a backup in the place of what is there; that is backed up first. Nothing changes where the file is no whole backup.</summary>
    /// <returns>The backup of what was there, or a sentence.</returns>
    public async Task<(BackupFile? Before, string? Problem)> RestoreAsync(BackupFile backup, DateTime at, CancellationToken stop)
    {
        var (before, problem) = await MakeAsync(BackupReason.BeforeRestore, at, stop);
        if (before is null) return (null, $"{problem} Nothing was restored.");
        await OneAtATime.WaitAsync(stop);
        var fresh = $"cadence_restored_{Guid.NewGuid():n}";
        try
        {
            await AskAsync($"create database {fresh}", stop);
            if (await RunAsync("pg_restore", ["--exit-on-error", "--no-owner", $"--dbname={fresh}", store.PathOf(backup)], stop) is not null || await UnfitAsync(fresh, stop) is not null)
                return (null, await UnfitAsync(fresh, stop) ?? $"{backup.Name} is no whole backup. Nothing was restored.");
            Database.Migrate(To(fresh));
            await SwapAsync(fresh, stop);
            return (before, null);
        }
        catch (Exception e) when (e is PostgresException or InvalidOperationException)
        {
            return (null, $"{backup.Name} could not be restored: {e.Message} What was there before is in {before.Name}.");
        }
        finally
        {
            await DropAsync(fresh);
            OneAtATime.Release();
        }
    }

    /// <summary>Why a database cannot take the place of the present one; nothing where it can.</summary>
    private async Task<string?> UnfitAsync(string name, CancellationToken stop)
    {
        await using var there = new NpgsqlConnection(To(name));
        await there.OpenAsync(stop);
        if (await there.ExecuteScalarAsync<int>(new("select count(*)::int from information_schema.tables where table_name in ('study', 'passage', 'sighting', 'schemaversions')", cancellationToken: stop)) != 4)
            return "This is no backup of Inner Cadence. Nothing was restored.";
        const string count = "select count(*)::int from schemaversions";
        await using var here = await source.OpenConnectionAsync(stop);
        return await there.ExecuteScalarAsync<int>(new(count, cancellationToken: stop)) > await here.ExecuteScalarAsync<int>(new(count, cancellationToken: stop))
            ? "This backup was made by a newer version; bring this one up to date first. Nothing was restored." : null;
    }

    /// <summary>Nobody may come back in while the names change, or the pool would hold the old one.</summary>
    private async Task SwapAsync(string fresh, CancellationToken stop)
    {
        var (now, old) = (address.Database!, $"cadence_old_{Guid.NewGuid():n}");
        await AskAsync($"alter database \"{now}\" allow_connections false", stop);
        var renamed = false;
        try
        {
            await AskAsync($"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{now}'", stop);
            await AskAsync($"alter database \"{now}\" rename to {old}", stop);
            renamed = true;
            await AskAsync($"alter database {fresh} rename to \"{now}\"", stop);
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
            await AskAsync($"drop database if exists {name} with (force)", CancellationToken.None);
        }
        catch (PostgresException)
        {
            // It stays as it is; the next drop of its kind is another one.
        }
    }

    private string To(string name) => new NpgsqlConnectionStringBuilder(connectionString) { Database = name, Pooling = false }.ConnectionString;

    private async Task AskAsync(string sql, CancellationToken stop)
    {
        await using var connection = new NpgsqlConnection(To("postgres"));
        await connection.OpenAsync(stop);
        await connection.ExecuteAsync(new(sql, cancellationToken: stop));
    }

    /// <summary>Nothing where the tool did its work; else the first line of what it said.</summary>
    private async Task<string?> RunAsync(string tool, IReadOnlyList<string> arguments, CancellationToken stop)
    {
        var start = new ProcessStartInfo(ToolOf(tool), arguments) { RedirectStandardError = true, RedirectStandardOutput = true };
        foreach (var (name, value) in new[] { ("PGHOST", address.Host), ("PGPORT", $"{address.Port}"), ("PGUSER", address.Username), ("PGPASSWORD", address.Password) })
            start.Environment[name] = value;
        try
        {
            using var process = Process.Start(start)!;
            var said = process.StandardError.ReadToEndAsync(stop);
            await process.StandardOutput.ReadToEndAsync(stop);
            await process.WaitForExitAsync(stop);
            return process.ExitCode == 0 ? null : (await said).Split('\n')[0].Trim() is { Length: > 0 } line ? line : $"{tool} ended with {process.ExitCode}";
        }
        catch (System.ComponentModel.Win32Exception)
        {
            return $"{tool} is not on this machine";
        }
    }

    /// <summary>Debian keeps the tools of each version in a folder of its own.</summary>
    private static string ToolOf(string tool) =>
        Directory.Exists("/usr/lib/postgresql") && Directory.EnumerateDirectories("/usr/lib/postgresql").Select(d => Path.Combine(d, "bin", tool)).Where(File.Exists).OrderByDescending(p => p, StringComparer.Ordinal).FirstOrDefault() is { } path ? path : tool;
}
