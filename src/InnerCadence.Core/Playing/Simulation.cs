using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Playing;

/// <summary>A passage and the bar of the recording in which it starts.</summary>
public readonly record struct PlacedPassage(int Bar, Passage Passage, bool IsGroove);

/// <summary>A whole recording made up from its passages, so that every flow can be tried where the truth is known.</summary>
/// <remarks>
/// Bars begin where the tempo map says. A bar with a passage plays it; any other repeats the last groove before it. Strokes fall a few
/// milliseconds
/// off, from a seed; under them a simple bass and chords, four bars a round.
/// </remarks>
public static class Simulation
{
    private const double Spread = 0.005;
    private static readonly double[] Roots = [55.0, 73.42, 65.41, 82.41];

    /// <summary>One channel at <see cref="Synth.Rate"/>.</summary>
    /// <param name="seconds">How long it lasts.</param>
    /// <param name="sound">The samples of a sound; a cache or <see cref="Synth.Render"/> itself.</param>
    public static float[] Render(TempoMap map, BarGrid grid, int bars, Seconds seconds, IReadOnlyList<PlacedPassage> passages,
        Func<SoundKey, float[]> sound, int seed, SimulatedDay? day = null)
    {
        var random = new Random(seed);
        var (mix, bed) = (new float[(int)(seconds * Synth.Rate)], new float[(int)(seconds * Synth.Rate)]);
        for (var bar = 1; bar <= bars; bar++)
        {
            var (start, end) = (map.SecondsOf(new(bar, Tick.Zero)), map.SecondsOf(new(bar + 1, Tick.Zero)));
            if (start >= seconds) break;
            if (Bpm.Of(Math.Clamp(map.TempoAt(bar), 20, 400)) is { } tempo && BarOf(bar, passages) is { } played)
            {
                foreach (var note in Rendition.Of(played with { Tempo = tempo, TempoChanges = [] }).Notes)
                    Add(mix, sound(note.Sound), start + note.At + Spread * Normal(random)
                        + (IsBackbeat(note) ? day?.BackbeatLate ?? Seconds.Zero : Seconds.Zero),
                        note.Gain * 0.8, note.Until is { } until ? until - note.At : null, day?.Pitch ?? 1);
            }
            if (day?.Band != false) Bed(bed, Roots[(bar - 1) / 2 % Roots.Length], start, end, grid.MeterOf(bar));
        }
        day?.PutInRoom(mix, Synth.Rate);
        for (var i = 0; i < mix.Length; i++) mix[i] += bed[i];
        day?.Age(mix, Synth.Rate, random);
        var peak = mix.Length == 0 ? 0 : mix.Max(Math.Abs);
        if (peak > 0.9f)
            for (var i = 0; i < mix.Length; i++) mix[i] *= 0.9f / peak;
        return mix;
    }

    /// <summary>What is played in a bar: its own passage, else the last groove before it, over and over.</summary>
    private static Passage? BarOf(int bar, IReadOnlyList<PlacedPassage> passages)
    {
        var own = passages.LastOrDefault(p => p.Bar <= bar && bar < p.Bar + p.Passage.Bars);
        var source = own.Passage is not null ? own : passages.LastOrDefault(p => p.IsGroove && p.Bar <= bar && p.Passage.Bars > 0);
        if (source.Passage is not { } passage) return null;
        var index = (bar - source.Bar) % passage.Bars;
        var (from, to) = (passage.Meters.StartOf(index), passage.Meters.StartOf(index + 1));
        return passage with
        {
            Meters = new([passage.Meters.MeterOf(index)]),
            Bars = 1,
            Pickup = Tick.Zero,
            Unheard = [],
            Levels = passage.Levels.Cut(from, to),
            Strokes = [.. passage.Strokes.Where(s => s.At >= from && s.At < to)
            .Select(s => s with { At = s.At - from })]
        };
    }

    private static bool IsBackbeat(Note note) => note.Sound.Voice == Voice.Snare && note.Sound.Dynamic != Dynamic.Ghost;

    /// <param name="pitch">Of the samples; they are read so much faster.</param>
    private static void Add(float[] mix, float[] samples, double at, double gain, double? lasts, double pitch)
    {
        var start = (int)(at * Synth.Rate);
        var cut = lasts is { } s ? (int)(s * Synth.Rate) : int.MaxValue;
        for (var i = Math.Max(0, -start); i * pitch + 1 < samples.Length && start + i < mix.Length; i++)
        {
            var (whole, part) = ((int)(i * pitch), i * pitch - (int)(i * pitch));
            var fade = i < cut ? 1 : Math.Max(0, 1 - (i - cut) / (Mixdown.Release * Synth.Rate));
            if (fade == 0) break;
            mix[start + i] += (float)((samples[whole] + part * (samples[whole + 1] - samples[whole])) * gain * fade);
        }
    }

    /// <summary>A bass note on each pulse and a soft chord over the bar.</summary>
    private static void Bed(float[] mix, double root, double start, double end, Meter meter)
    {
        var at = Tick.Zero;
        foreach (var counts in meter.Pulses)
        {
            var length = meter.Beat * counts;
            var (from, to) = (start + (end - start) * at.Value / meter.Length.Value,
                start + (end - start) * (at + length).Value / meter.Length.Value);
            Tone(mix, root, from, to, 0.16, 3.5);
            at += length;
        }
        foreach (var ratio in (double[])[4, 5, 6]) Tone(mix, root * ratio, start, end, 0.018, 0.6);
    }

    private static void Tone(float[] mix, double pitch, double from, double to, double gain, double decay)
    {
        var (first, last) = ((int)(from * Synth.Rate), (int)Math.Min(to * Synth.Rate, mix.Length));
        for (var i = Math.Max(0, first); i < last; i++)
        {
            var t = (double)(i - first) / Synth.Rate;
            var edge = Math.Min(1, Math.Min(t, (double)(last - i) / Synth.Rate) / 0.01);
            mix[i] += (float)(gain * edge * Math.Exp(-decay * t) * (Math.Sin(2 * Math.PI * pitch * t)
                + 0.4 * Math.Sin(4 * Math.PI * pitch * t)));
        }
    }

    private static double Normal(Random random) => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(
        2 * Math.PI * random.NextDouble());
}
