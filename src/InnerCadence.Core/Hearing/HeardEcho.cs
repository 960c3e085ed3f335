using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>From one place to another of a sound all of it comes once more: what the echo repeats was not taken for strokes.</summary>
/// <param name="After">The echo's delay.</param>
/// <param name="Decibels">How much louder it is than what it repeats: below 0.</param>
public readonly record struct HeardEcho(Seconds From, Seconds To, Seconds After, double Decibels)
{
    /// <summary>Delays within this, in seconds, are one.</summary>
    private const double Same = 0.002;

    /// <summary>A stretch of fewer delays does not tell how strong the echo is.</summary>
    private const int Shortest = 6;

    /// <summary>Takes out of a stretch of a sound the echoes that were heard there, in place.</summary>
    /// <param name="startsAt">Where in the sound the stretch begins.</param>
    internal static void TakeOut(Span<float> mono, int rate, Seconds startsAt, IEnumerable<HeardEcho> echoes)
    {
        var ends = startsAt.Value + (double)mono.Length / rate;
        foreach (var echo in echoes.Where(e => e.From < ends && e.To > startsAt).DistinctBy(e => Math.Round(e.After / Same)))
        {
            var delay = (int)Math.Round(echo.After * rate);
            if (mono.Length > Shortest * delay) EchoFilter.For(mono, delay).TakeOut(mono);
        }
    }

    /// <summary>Adds one that is heard, or makes the one longer that it goes on from.</summary>
    internal static void AddTo(List<HeardEcho> echoes, HeardEcho next)
    {
        var before = echoes.FindLastIndex(e => e.To == next.From && Math.Abs(e.After.Value - next.After.Value) < Same);
        if (before < 0) echoes.Add(next);
        else echoes[before] = echoes[before] with { To = next.To };
    }
}
