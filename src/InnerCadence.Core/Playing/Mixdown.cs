namespace InnerCadence.Core.Playing;

/// <summary>Puts the notes of a performance together into stereo sound.</summary>
public static class Mixdown
{
    /// <summary>Seconds that cut sounds take to fall silent.</summary>
    public const double Release = 0.018;
    private const double Tail = 1.5;

    /// <summary>Interleaved left and right samples at <see cref="Synth.Rate"/>, from a little before the first note until the last has rung
    /// out.</summary>
    /// <param name="sound">The samples of a sound; a cache or <see cref="Synth.Render"/> itself.</param>
    public static float[] Render(Rendition performance, Func<SoundKey, float[]> sound, double lead = 0.1)
    {
        var frames = (int)((performance.Length + lead + Tail) * Synth.Rate);
        var mix = new float[frames * 2];
        foreach (var note in performance.Notes)
        {
            var samples = sound(note.Sound);
            var start = (int)Math.Round((note.At + lead) * Synth.Rate);
            var cut = note.Until is { } until ? (int)Math.Round((until - note.At) * Synth.Rate) : int.MaxValue;
            var (left, right) = (note.Gain * Math.Cos((note.Pan + 1) * Math.PI / 4), note.Gain * Math.Sin((note.Pan + 1) * Math.PI / 4));
            for (var i = 0; i < samples.Length && start + i < frames; i++)
            {
                if (start + i < 0) continue;
                var fade = i < cut ? 1 : Math.Max(0, 1 - (i - cut) / (Release * Synth.Rate));
                if (fade == 0) break;
                mix[(start + i) * 2] += (float)(samples[i] * left * fade);
                mix[(start + i) * 2 + 1] += (float)(samples[i] * right * fade);
            }
        }
        var peak = mix.Length == 0 ? 0 : mix.Max(Math.Abs);
        if (peak > 0.98f)
            for (var i = 0; i < mix.Length; i++) mix[i] *= 0.98f / peak;
        return mix;
    }
}
