using System.Security.Cryptography;

namespace InnerCadence.Storage.Listening;

/// <summary>Sound files on disk, named by what is in them; nothing else of a request ever becomes part of a path.</summary>
public sealed class SoundFiles(string folder)
{
    public const long MostBytes = 4L * 1024 * 1024 * 1024;
    /// <summary>So much of the disk is left alone.</summary>
    public const long Spare = 512L * 1024 * 1024;

    /// <summary>Whether so many bytes more would leave enough of the disk free.</summary>
    public bool HasRoom(long bytes)
    {
        Directory.CreateDirectory(folder);
        return new DriveInfo(Path.GetFullPath(folder)).AvailableFreeSpace > bytes + Spare;
    }

    /// <summary>Keeps a stream; gives back its hash. Written beside first, so that a file of that name is always whole.</summary>
    public async Task<string> KeepAsync(Stream content, CancellationToken stop)
    {
        Directory.CreateDirectory(folder);
        var part = Path.Combine(folder, Guid.NewGuid().ToString("n") + ".part");
        try
        {
            using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
            await using (var file = File.Create(part))
            {
                var buffer = new byte[1 << 17];
                for (int read; (read = await content.ReadAsync(buffer, stop)) > 0;)
                {
                    hash.AppendData(buffer, 0, read);
                    await file.WriteAsync(buffer.AsMemory(0, read), stop);
                }
            }
            var name = Convert.ToHexStringLower(hash.GetHashAndReset());
            File.Move(part, PathOf(name), overwrite: true);
            return name;
        }
        finally
        {
            File.Delete(part);
        }
    }

    /// <summary>A name of its own beside the files, for what is being made.</summary>
    internal string NewPart()
    {
        Directory.CreateDirectory(folder);
        return Path.Combine(Path.GetFullPath(folder), Guid.NewGuid().ToString("n") + ".part");
    }

    /// <summary>Takes a finished file in under its hash.</summary>
    internal async Task<string> AdoptAsync(string part, CancellationToken stop)
    {
        string name;
        await using (var file = File.OpenRead(part)) name = Convert.ToHexStringLower(await SHA256.HashDataAsync(file, stop));
        File.Move(part, PathOf(name), overwrite: true);
        return name;
    }

    public bool Has(string hash) => File.Exists(PathOf(hash));

    public FileStream Open(string hash) => new(PathOf(hash), FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 17, useAsync: true);

    public void Remove(string hash) => File.Delete(PathOf(hash));

    /// <exception cref="ArgumentException">It is no hash.</exception>
    internal string PathOf(string hash) =>
        hash.Length == 64 && hash.All(char.IsAsciiHexDigitLower) ? Path.Combine(Path.GetFullPath(folder), hash)
            : throw new ArgumentException("A sound is named by its hash.", nameof(hash));
}
