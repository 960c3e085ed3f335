using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>From one place to another of a sound all of it comes once more: what the echo repeats was not taken for strokes.</summary>
/// <param name="After">The echo's delay.</param>
/// <param name="Decibels">How much louder it is than what it repeats: below 0.</param>
public readonly record struct HeardEcho(Seconds From, Seconds To, Seconds After, double Decibels)
{
    /// <summary>Delays within this, in seconds, are one.</summary>
    private const double Same = 0.002;

    /// <summary>Adds one that is heard, or makes the one longer that it goes on from.</summary>
    internal static void AddTo(List<HeardEcho> echoes, HeardEcho next)
    {
        var before = echoes.FindLastIndex(e => e.To == next.From && Math.Abs(e.After.Value - next.After.Value) < Same);
        if (before < 0) echoes.Add(next);
        else echoes[before] = echoes[before] with { To = next.To };
    }
}
