using InnerCadence.Core.Hearing;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>Two channels mixed down to what is heard.</summary>
public class BothSidesAsOne
{
    private const int Rate = 44100;

    /// <summary>A stroke every half second after a little of nothing.</summary>
    private static float[] Strokes(int seed = 1)
    {
        var random = new Random(seed);
        return [.. Enumerable.Range(0, 2 * Rate).Select(i => (float)(0.3 * Math.Exp(-(i % (Rate / 2)) / 4000.0)
            * (2 * random.NextDouble() - 1) * (i < 2000 ? 0 : 1)))];
    }

    private static float[] ByAndBy(float[] left, float[] right)
    {
        var sides = new SidesAsOne();
        return [.. left.Zip(right, (l, r) => sides.Next(l, r))];
    }

    private static double Loudness(IEnumerable<float> sound) => Math.Sqrt(sound.Average(x => (double)x * x));

    [Fact]
    public void One_that_is_turned_over_does_not_take_the_other_away()
    {
        var left = Strokes();
        float[] right = [.. left.Select(x => -0.8f * x)];
        var heard = ByAndBy(left, right);
        // It is known within ten milliseconds of the first stroke.
        foreach (var i in Enumerable.Range(2441, left.Length - 2441)) heard[i].ShouldBe(0.9f * left[i], 1e-6f);
        SidesAsOne.Of([left, right]).Zip(left).All(two => Math.Abs(two.First - 0.9f * two.Second) < 1e-6).ShouldBeTrue();
    }

    [Fact]
    public void Sides_that_have_little_or_much_in_common_are_their_mean()
    {
        var (left, other) = (Strokes(1), Strokes(2));
        foreach (var right in (float[][])[left, other, [.. left.Zip(other, (l, o) => 0.7f * o - 0.2f * l)], new float[left.Length]])
        {
            float[] mean = [.. left.Zip(right, (l, r) => (l + r) / 2)];
            ByAndBy(left, right).SequenceEqual(mean).ShouldBeTrue();
            SidesAsOne.Of([left, right]).SequenceEqual(mean).ShouldBeTrue();
        }
        SidesAsOne.Of([left]).ShouldBeSameAs(left);
    }

    [Fact]
    public void Noise_of_a_tape_before_the_music_does_not_hide_that_one_is_turned_over()
    {
        var (music, hiss, other) = (Strokes(), Strokes(7), Strokes(8));
        float[] Side(float[] noise, int sign) => [.. noise.Select(x => 0.02f * x), .. music.Zip(noise, (m, n) => sign * m + 0.02f * n)];
        var heard = ByAndBy(Side(hiss, 1), Side(other, -1));
        Loudness(heard.Skip(music.Length)).ShouldBe(Loudness(music), 0.05 * Loudness(music));
    }
}
