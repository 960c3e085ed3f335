using System.Collections.Concurrent;
using System.Diagnostics;
using System.Runtime.InteropServices;

namespace InnerCadence.Storage.Listening;

/// <summary>A sound or film file that the tool could not read; the message says why in a sentence.</summary>
public sealed class UnreadableMediaException(string message) : Exception(message);

/// <summary>ffmpeg as a child process: bounded in time, memory and output, without a shell and without any way to the network.</summary>
public sealed class MediaTool(string? folder = null)
{
    private const long MostMemory = 2L << 30;
    private const int MostSaid = 4000;
    private static readonly string[] Folders = ["/usr/bin", "/usr/local/bin", "/bin"];
    private static readonly string? Limiter = Find("prlimit", Folders);

    /// <summary>Looked for at each use: it can be installed, or taken away, while the application runs.</summary>
    private string? Ffmpeg => Find("ffmpeg", folder is null ? Folders : [folder]);
    private string? Ffprobe => Find("ffprobe", folder is null ? Folders : [folder]);
    private readonly ConcurrentDictionary<(int Rate, int Percent), Task<int>> lateness = new();

    public bool IsThere => Ffmpeg is not null && Ffprobe is not null;

    /// <summary>What a page says where it is not.</summary>
    public const string Missing = "Only WAV is read here: install ffmpeg (Debian’s package of that name) for other kinds.";

    /// <summary>Reads what a file holds, as ffprobe tells it in JSON.</summary>
    /// <exception cref="UnreadableMediaException">It is no sound and no film.</exception>
    public async Task<string> ProbeAsync(string path, CancellationToken stop)
    {
        using var told = new MemoryStream();
        await RunAsync(Ffprobe, ["-v", "error", "-protocol_whitelist", "file,pipe", "-print_format", "json", "-show_format",
            "-show_streams", "--",
            path], TimeSpan.FromSeconds(30), null, stdout => stdout.CopyToAsync(told, stop), null, stop);
        return System.Text.Encoding.UTF8.GetString(told.ToArray());
    }

    /// <summary>Runs ffmpeg over a file into another.</summary>
    /// <param name="progress">Seconds of the file that are done.</param>
    /// <exception cref="UnreadableMediaException">It cannot be read, or took too long.</exception>
    public Task ConvertAsync(string from, IReadOnlyList<string> how, string to, TimeSpan most, Func<double, Task>? progress,
        CancellationToken stop) =>
        RunAsync(Ffmpeg, ["-hide_banner", "-loglevel", "error", "-nostdin", "-protocol_whitelist", "file,pipe", "-i", "file:" + from,
            .. how,
            "-progress", "pipe:1", "-y", "file:" + to], most, null, async stdout =>
            {
                using var lines = new StreamReader(stdout, leaveOpen: true);
                while (await lines.ReadLineAsync(stop) is { } line)
                    if (progress is not null && line.StartsWith("out_time_us=", StringComparison.Ordinal)
                        && long.TryParse(line.AsSpan(12), out var microseconds)) await progress(microseconds / 1e6);
            }, null, stop);

    /// <summary>Sound at another speed with its pitch kept and its strokes crisp.</summary>
    /// <param name="sound">Samples of one or two channels, all of one length.</param>
    /// <param name="percent">Of the recorded speed.</param>
    /// <returns>Exactly as long as the sound divided by its speed.</returns>
    public async Task<float[][]> StretchAsync(float[][] sound, int rate, int percent, CancellationToken stop)
    {
        var measured = lateness.GetOrAdd((rate, percent), key => LatenessAsync(key.Rate, key.Percent));
        if (measured.IsFaulted) lateness.TryRemove((rate, percent), out _);
        var late = await measured;
        var (frames, length) = (sound[0].Length, (int)Math.Round(sound[0].Length * 100.0 / percent));
        // What the filter holds back at its end comes out when silence follows.
        var padded = sound.Select(channel => (float[])[.. channel, .. new float[rate]]).ToArray();
        var slow = await FilterAsync(padded, rate, percent, stop);
        return [.. slow.Select(channel => Cut(channel, late, length))];
    }

    private static float[] Cut(float[] sound, int from, int length)
    {
        var cut = new float[length];
        for (var i = Math.Max(0, -from); i < length && from + i < sound.Length; i++) cut[i] = sound[from + i];
        return cut;
    }

    /// <summary>By how many samples the filter puts strokes later than where they belong: measured on strokes of our own, once a
    /// speed.</summary>
    private async Task<int> LatenessAsync(int rate, int percent)
    {
        const int Strokes = 6;
        var (random, sound) = (new Random(1), new float[Strokes * rate]);
        for (var stroke = 0; stroke < Strokes; stroke++)
            for (var i = 0; i < rate / 20; i++)
                sound[stroke * rate + rate / 2 + i] = (float)((random.NextDouble() * 2 - 1) * Math.Exp(-i * 150.0 / rate));
        var slow = (await FilterAsync([sound], rate, percent, CancellationToken.None))[0];
        var off = new List<int>();
        for (var stroke = 0; stroke < Strokes; stroke++)
        {
            var (due, around) = ((int)((stroke + 0.5) * rate * 100 / percent), rate * 30 / percent);
            var most = Enumerable.Range(Math.Max(0, due - around), 2 * around).Where(i => i < slow.Length).Max(i => Math.Abs(slow[i]));
            off.Add(Enumerable.Range(Math.Max(0, due - around), 2 * around)
                .First(i => i < slow.Length && Math.Abs(slow[i]) > 0.3 * most) - due);
        }
        off.Sort();
        return off[Strokes / 2];
    }

    private async Task<float[][]> FilterAsync(float[][] sound, int rate, int percent, CancellationToken stop)
    {
        var (channels, frames) = (sound.Length, sound[0].Length);
        var woven = new float[frames * channels];
        for (var channel = 0; channel < channels; channel++)
            for (var i = 0; i < frames; i++) woven[i * channels + channel] = sound[channel][i];
        using var made = new MemoryStream();
        string[] pcm = ["-f", "f32le", "-ar", $"{rate}", "-ac", $"{channels}"];
        await RunAsync(Ffmpeg, ["-hide_banner", "-loglevel", "error", "-protocol_whitelist", "pipe", .. pcm, "-i", "pipe:0", "-af",
            FormattableString.Invariant($"rubberband=tempo={percent / 100.0}:transients=crisp:window=short:channels=together"), .. pcm,
                "pipe:1"],
            TimeSpan.FromSeconds(60), stdin => stdin.WriteAsync(MemoryMarshal.AsBytes(woven.AsSpan()).ToArray(), stop).AsTask(),
            stdout => stdout.CopyToAsync(made, stop), null, stop);
        var samples = MemoryMarshal.Cast<byte, float>(made.GetBuffer().AsSpan(0, (int)(made.Length - made.Length % (4 * channels))));
        var apart = new float[channels][];
        for (var channel = 0; channel < channels; channel++)
        {
            apart[channel] = new float[samples.Length / channels];
            for (var i = 0; i < apart[channel].Length; i++) apart[channel][i] = samples[i * channels + channel];
        }
        return apart;
    }

    private static async Task RunAsync(string? program, IReadOnlyList<string> arguments, TimeSpan most, Func<Stream, Task>? write,
        Func<Stream, Task> read, string? working, CancellationToken stop)
    {
        if (program is null) throw new UnreadableMediaException(Missing);
        var start = new ProcessStartInfo(Limiter ?? program)
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            UseShellExecute = false,
            WorkingDirectory = working ?? "/",
        };
        if (Limiter is not null)
            foreach (var limit in (string[])[$"--as={MostMemory}", "--core=0", "--", program]) start.ArgumentList.Add(limit);
        foreach (var argument in arguments) start.ArgumentList.Add(argument);
        start.Environment.Clear();
        using var child = Process.Start(start)!;
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(stop);
        patience.CancelAfter(most);
        try
        {
            var said = SaidAsync(child.StandardError);
            var writing = Task.Run(async () =>
            {
                try
                {
                    if (write is not null) await write(child.StandardInput.BaseStream);
                    child.StandardInput.Close();
                }
                catch (IOException)
                {
                    // It ended before it had read everything: its exit says why.
                }
            }, CancellationToken.None);
            await read(child.StandardOutput.BaseStream).WaitAsync(patience.Token);
            await child.WaitForExitAsync(patience.Token);
            await writing;
            if (child.ExitCode != 0) throw new UnreadableMediaException(Why(await said));
        }
        catch (OperationCanceledException) when (!stop.IsCancellationRequested)
        {
            throw new UnreadableMediaException("It took too long to read.");
        }
        finally
        {
            if (!child.HasExited) child.Kill(entireProcessTree: true);
        }
    }

    private static async Task<string> SaidAsync(StreamReader from)
    {
        var (kept, buffer) = (new System.Text.StringBuilder(), new char[1024]);
        for (int read; (read = await from.ReadAsync(buffer)) > 0;)
            if (kept.Length < MostSaid) kept.Append(buffer, 0, read);
        return kept.ToString();
    }

    /// <summary>In a drummer's words; what the tool says of itself names paths, and stays out.</summary>
    private static string Why(string said) => said switch
    {
        _ when said.Contains("Invalid data found", StringComparison.Ordinal)
            || said.Contains("moov atom not found", StringComparison.Ordinal)
            => "It is no sound or film that can be read, or it is cut off.",
        _ when said.Contains("does not contain any stream", StringComparison.Ordinal)
            || said.Contains("matches no streams", StringComparison.Ordinal)
            => "There is no sound in it.",
        _ when said.Contains("No space left", StringComparison.Ordinal) => "The disk is full.",
        _ when said.Contains("Cannot allocate memory", StringComparison.Ordinal) => "It would take more memory than is allowed.",
        _ => "It cannot be read as a sound or film.",
    };

    private static string? Find(string name, IEnumerable<string> folders) =>
        folders.Select(f => Path.Combine(f, name)).FirstOrDefault(File.Exists);
}
