using System.Diagnostics;

namespace InnerCadence.Web.Tests.Starting;

/// <summary>Lines of shell in the working copy, as somebody types them who has no PostgreSQL of their own.</summary>
internal static class Shell
{
    /// <returns>All that was said, on both channels.</returns>
    public static async Task<(int Code, string Said)> RunAsync(string script, params string[] arguments)
    {
        var stop = TestContext.Current.CancellationToken;
        var start = new ProcessStartInfo("bash", ["-c", $"exec 2>&1; {script}", Path.Combine(WorkingCopy.Root, "start"), .. arguments])
        {
            RedirectStandardOutput = true,
            WorkingDirectory = WorkingCopy.Root
        };
        start.Environment.Remove("INNER_CADENCE_DB");
        // The server that the script leaves running would hold a pipe open: it logs into a file of its own, so reading ends with the
        // script.
        using var shell = Process.Start(start)!;
        var said = await shell.StandardOutput.ReadToEndAsync(stop);
        await shell.WaitForExitAsync(stop);
        return (shell.ExitCode, said);
    }
}
