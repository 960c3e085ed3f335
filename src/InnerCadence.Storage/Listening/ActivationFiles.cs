using System.Buffers.Binary;
using System.IO.Compression;
using System.Text.Json;
using InnerCadence.Core.Hearing;
using Microsoft.Extensions.Caching.Memory;

namespace InnerCadence.Storage.Listening;

/// <summary>What the ear heard, frame by frame: a compressed file by the sound's hash and the ear's version, beside the sounds.</summary>
public sealed class ActivationFiles(string folder) : IDisposable
{
    private const int Head = 8;
    private const long MostKept = 64L << 20;
    private readonly MemoryCache kept = new(new MemoryCacheOptions { SizeLimit = MostKept });

    /// <summary>Written beside first, so that a file of that name is always whole.</summary>
    public async Task KeepAsync(string hash, string ear, Activations heard, CancellationToken stop)
    {
        var path = PathOf(hash, ear);
        Directory.CreateDirectory(folder);
        var part = Path.Combine(Path.GetFullPath(folder), Guid.NewGuid().ToString("n") + ".part");
        try
        {
            await using (var zipped = new BrotliStream(File.Create(part), CompressionLevel.Fastest))
            {
                var head = new byte[Head];
                BinaryPrimitives.WriteInt32LittleEndian(head, heard.Heard.Length);
                BinaryPrimitives.WriteInt32LittleEndian(head.AsSpan(4), heard.Pulse.Length);
                await zipped.WriteAsync(head, stop);
                await zipped.WriteAsync(heard.Heard, stop);
                await zipped.WriteAsync(heard.Pulse, stop);
                await JsonSerializer.SerializeAsync(zipped, heard.Echoes, cancellationToken: stop);
            }
            File.Move(part, path, overwrite: true);
        }
        finally
        {
            File.Delete(part);
        }
    }

    /// <summary>By the ear that is here now; nothing where it has not heard it yet.</summary>
    public async Task<Activations?> OfAsync(string hash, CancellationToken stop) =>
        ShippedEar.Find() is { } ear ? await FindAsync(hash, ear.Version, stop) : null;

    /// <summary>Nothing where this version did not hear it, or what it kept is broken: then it is heard anew.</summary>
    public async Task<Activations?> FindAsync(string hash, string ear, CancellationToken stop)
    {
        if (kept.TryGetValue((hash, ear), out Activations? known)) return known;
        if (!File.Exists(PathOf(hash, ear))) return null;
        try
        {
            await using var file = new BrotliStream(File.OpenRead(PathOf(hash, ear)), CompressionMode.Decompress);
            var head = new byte[Head];
            await file.ReadExactlyAsync(head, stop);
            var heard = new byte[BinaryPrimitives.ReadInt32LittleEndian(head)];
            var pulse = new byte[BinaryPrimitives.ReadInt32LittleEndian(head.AsSpan(4))];
            await file.ReadExactlyAsync(heard, stop);
            await file.ReadExactlyAsync(pulse, stop);
            if (await JsonSerializer.DeserializeAsync<HeardEcho[]>(file, cancellationToken: stop) is not { } echoes) return null;
            return kept.Set((hash, ear), new Activations(heard, pulse) { Echoes = echoes },
                new MemoryCacheEntryOptions { Size = heard.Length + pulse.Length });
        }
        catch (Exception e) when (e is EndOfStreamException or JsonException or InvalidOperationException or InvalidDataException
            or OverflowException)
        {
            return null;
        }
    }

    /// <summary>Of every version.</summary>
    public void Remove(string hash)
    {
        if (!Directory.Exists(folder) || !IsHash(hash)) return;
        foreach (var file in Directory.EnumerateFiles(folder, $"{hash}-*")) File.Delete(file);
    }

    private static bool IsHash(string hash) => hash.Length == 64 && hash.All(char.IsAsciiHexDigitLower);

    /// <exception cref="ArgumentException">It is no hash, or no version.</exception>
    private string PathOf(string hash, string ear) => IsHash(hash) && ear.Length > 0
        && ear.All(c => char.IsAsciiLetterOrDigit(c) || c == '.')
        ? Path.Combine(Path.GetFullPath(folder), $"{hash}-{ear}") : throw new ArgumentException("A sound is named by its hash.");

    public void Dispose() => kept.Dispose();
}
