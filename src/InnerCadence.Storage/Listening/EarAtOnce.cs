using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using Microsoft.Extensions.Caching.Memory;

namespace InnerCadence.Storage.Listening;

/// <summary>What the ear has of a stretch of a sound: out of what it kept of the whole, or, until it has gone over that, of the stretch
/// alone and at once, since somebody is looking at it.</summary>
public sealed class EarAtOnce(ActivationFiles activations, Excerpts excerpts) : IDisposable
{
    /// <summary>Longer ones wait for the whole: a window takes a third of a second.</summary>
    private const int MostWindows = 3;
    private const long MostKept = 16L << 20;

    private readonly MemoryCache kept = new(new MemoryCacheOptions { SizeLimit = MostKept });
    private readonly SemaphoreSlim one = new(1);

    /// <returns>Nothing without the ear, or where the stretch is too long, or the file is not at hand.</returns>
    public async Task<Activations?> OfAsync(string hash, Seconds from, Seconds to, CancellationToken stop)
    {
        if (ShippedEar.Find() is not { } ear) return null;
        if (await activations.FindAsync(hash, ear.Version, stop) is { } whole) return whole;
        var span = EarSpan.Over(from, to);
        if (span.Windows > MostWindows) return null;
        await one.WaitAsync(stop);
        try
        {
            if (kept.TryGetValue((hash, span), out Activations? known)) return known;
            var (samples, rate, _) = await excerpts.ThereAsync(hash, span.From, span.To, stop);
            if (samples is null) return null;
            var heard = await Task.Run(() => Heard(ear, rate, span, samples), stop);
            return kept.Set((hash, span), heard, new MemoryCacheEntryOptions { Size = heard.Heard.Length });
        }
        finally
        {
            one.Release();
        }
    }

    private static Activations Heard(Ear ear, int rate, EarSpan span, float[][] samples)
    {
        var pass = new EarPass(ear, rate, span);
        pass.Add(SidesAsOne.Of(samples));
        return pass.End();
    }

    public void Dispose()
    {
        kept.Dispose();
        one.Dispose();
    }
}
