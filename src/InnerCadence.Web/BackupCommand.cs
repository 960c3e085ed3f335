using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Web;

/// <summary><c>backup FILE</c> and <c>restore FILE</c>, as <c>./start</c> calls the program for them; it serves nothing
/// meanwhile.</summary>
internal static class BackupCommand
{
    public static bool IsAsked(string[] arguments) => arguments is ["backup" or "restore", _, ..];

    /// <returns>0 where it was done; else 1, and a sentence on the error channel.</returns>
    public static async Task<int> RunAsync(string[] arguments, Backups backups, BackupFolder store)
    {
        using var stopping = new CancellationTokenSource();
        Console.CancelKeyPress += (_, key) => { key.Cancel = true; stopping.Cancel(); };
        try
        {
            var (done, problem) = arguments[0] == "backup" ? await BackUpAsync(arguments[1], backups, stopping.Token)
                : await RestoreAsync(arguments[1], backups, store, stopping.Token);
            (problem is null ? Console.Out : Console.Error).WriteLine(problem ?? done);
            return problem is null ? 0 : 1;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException or OperationCanceledException)
        {
            Console.Error.WriteLine($"{e.Message} Nothing was changed.");
            return 1;
        }
    }

    private static async Task<(string Done, string? Problem)> BackUpAsync(string file, Backups backups, CancellationToken stop)
    {
        if (File.Exists(file)) return ("", $"{file} is there already: choose another name, so that no backup is lost.");
        var part = $"{file}.part";
        try
        {
            if (await backups.WriteAsync(part, stop) is { } problem) return ("", $"{problem} Nothing was written.");
            File.Move(part, file);
            return ($"{file} was read back without an error. Sound files are not part of it.", null);
        }
        finally
        {
            File.Delete(part);
        }
    }

    private static async Task<(string Done, string? Problem)> RestoreAsync(string file, Backups backups, BackupFolder store,
        CancellationToken stop)
    {
        if (!File.Exists(file)) return ("", $"{file} cannot be read.");
        var part = store.Part();
        try
        {
            File.Copy(file, part);
            var brought = store.Keep(part, BackupReason.Brought, DateTime.Now);
            var (before, problem) = await backups.RestoreAsync(brought, DateTime.Now, stop);
            store.Remove(brought);
            return ($"{file} is restored. What was there before is kept as the backup {before?.Name}; Settings restores it.",
                problem?.Replace(brought.Name, file));
        }
        finally
        {
            File.Delete(part);
        }
    }
}
