using System.Text.Json;
using InnerCadence.Core.Hearing;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>The features are those of the training to the digit, however the samples come.</summary>
public class WhatTheEarSees
{
    private static float[] Sound()
    {
        var (state, sound) = (12345u, new float[3 * EarFeatures.Rate]);
        for (var i = 0; i < sound.Length; i++)
        {
            state = 1664525u * state + 1013904223u;
            var t = (double)(i % 15000) / EarFeatures.Rate;
            sound[i] = (float)((state / 2147483648.0 - 1) * Math.Exp(-t * 40) * 0.5
                + Math.Sin(2 * Math.PI * 60 * i / EarFeatures.Rate) * Math.Exp(-t * 8) * 0.4 * (i / 15000 % 2));
        }
        return sound;
    }

    private static List<float[]> Powers(float[] sound, int piece)
    {
        var powers = new List<float[]>();
        var features = new EarFeatures(power => powers.Add(power.ToArray()));
        foreach (var part in sound.Chunk(piece)) features.Add(part);
        features.End();
        return powers;
    }

    [Theory]
    [InlineData(777)]
    [InlineData(60_000)]
    public void They_are_those_of_the_training(int piece)
    {
        var powers = Powers(Sound(), piece);
        powers.Count.ShouldBe(301);
        var full = EarFeatures.Full([.. powers.SelectMany(p => p)]);
        using var vector = JsonDocument.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "vectors", "ear-features.json")));
        foreach (var frame in vector.RootElement.GetProperty("frames").EnumerateArray())
        {
            var at = frame.GetProperty("frame").GetInt32();
            var bands = frame.GetProperty("bands").EnumerateArray().Select(b => b.GetDouble()).ToArray();
            for (var band = 0; band < bands.Length; band++)
                ((double)EarFeatures.Level(powers[at][band], full)).ShouldBe(bands[band], 1e-4, $"frame {at}, band {band}");
        }
    }

    [Fact]
    public void Another_rate_is_brought_to_the_ears_own_and_strokes_stay_where_they_are()
    {
        foreach (var rate in (int[])[8000, 22_050, 48_000, 96_000, 192_000])
        {
            var sound = new float[rate];
            for (var i = 0; i < rate / 100; i++) sound[rate / 2 + i] =
                MathF.Exp(-i * 200f / rate) * MathF.Sin(i * 2 * MathF.PI * 1000 / rate);
            var made = new List<float>();
            var resampler = new Resampler(rate, EarFeatures.Rate, piece => made.AddRange(piece));
            foreach (var part in sound.Chunk(1000)) resampler.Add(part);
            resampler.End();
            made.Count.ShouldBe(EarFeatures.Rate);
            var first = made.FindIndex(v => Math.Abs(v) > 0.2f);
            ((double)first / EarFeatures.Rate).ShouldBe(0.5, 0.0005, $"{rate} Hz");
        }
    }
}
