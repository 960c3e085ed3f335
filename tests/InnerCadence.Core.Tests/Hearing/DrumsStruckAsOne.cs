using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>Kick, snare and hat of a made-up kit, whose times are known, at first alone and then nearly at once.</summary>
public class DrumsStruckAsOne
{
    private const int Rate = 44_100;

    private static readonly (Family Family, double At)[] Alone =
        [(Family.Kick, 0.5), (Family.Snare, 1.0), (Family.Hat, 1.25), (Family.Kick, 1.5), (Family.Snare, 2.0), (Family.Hat, 2.25)];

    private static float[] Sound(IEnumerable<(Family Family, double At)> strokes)
    {
        var (sound, random) = (new float[5 * Rate], new Random(3));
        foreach (var (family, at) in strokes)
            for (var (begin, i) = ((int)(at * Rate), 0); i < Rate / 4; i++)
            {
                var t = (double)i / Rate;
                double Hiss() => random.NextDouble() * 2 - 1;
                sound[begin + i] += (float)(family switch
                {
                    Family.Kick => Math.Sin(2 * Math.PI * 62 * t) * Math.Exp(-t / 0.06) + 0.2 * Hiss() * Math.Exp(-t / 0.004),
                    Family.Snare => 0.4 * Math.Sin(2 * Math.PI * 190 * t) * Math.Exp(-t / 0.04) + 0.35 * Hiss() * Math.Exp(-t / 0.06),
                    _ => (i % 2 == 0 ? 1 : -1) * 0.1 * Hiss() * Math.Exp(-t / 0.03),
                });
            }
        return sound;
    }

    /// <summary>What is read of two strokes, of which both are first put where the kick is.</summary>
    private static double[] Read(double kick, double snare)
    {
        (Family, double)[] strokes = [.. Alone, (Family.Kick, kick), (Family.Snare, snare)];
        var times = new RiseTimes(Sound(strokes), Rate, Seconds.Zero, []);
        (Family, Seconds)[] told = [.. Alone.Select(s => (s.Family, new Seconds(s.At))), (Family.Kick, new(kick)), (Family.Snare, new(kick))];
        return [.. times.Together(told).TakeLast(2).Select(s => s.Value)];
    }

    [Theory]
    [InlineData(12)]
    [InlineData(18)]
    [InlineData(-9)]
    public void A_snare_is_read_apart_from_the_kick_that_it_is_struck_beside(double milliseconds)
    {
        var read = Read(3, 3 + milliseconds / 1000);
        read[0].ShouldBe(3, 0.0025);
        read[1].ShouldBe(3 + milliseconds / 1000, 0.0025);
    }

    [Fact]
    public void A_hat_that_was_read_from_the_kicks_rise_is_put_where_it_sounds()
    {
        (Family, double)[] strokes = [.. Alone, (Family.Kick, 3), (Family.Hat, 3.014)];
        (Family, Seconds)[] told = [.. Alone.Select(s => (s.Family, new Seconds(s.At))), (Family.Kick, new(3)), (Family.Hat, new(3.002))];
        new RiseTimes(Sound(strokes), Rate, Seconds.Zero, []).Together(told)[^1].Value.ShouldBe(3.014, 0.002);
    }

    [Fact]
    public void Drums_that_never_sound_alone_stay_where_they_were_read()
    {
        (Family, double)[] strokes = [(Family.Kick, 1), (Family.Snare, 1.012), (Family.Kick, 2), (Family.Snare, 2.012)];
        Seconds[] read = [new(1.001), new(1.02), new(2.002), new(2.018)];
        new RiseTimes(Sound(strokes), Rate, Seconds.Zero, []).Together([.. strokes.Zip(read, (s, at) => (s.Item1, at))]).ShouldBe(read);
    }

    [Fact]
    public void Nothing_is_moved_at_the_ends_of_a_stretch()
    {
        (Family, double)[] strokes = [.. Alone, (Family.Kick, 0.005), (Family.Snare, 0.02)];
        var told = strokes.Select(s => (s.Item1, new Seconds(s.Item2))).ToArray();
        new RiseTimes(Sound(strokes), Rate, Seconds.Zero, []).Together(told).TakeLast(2).ShouldBe([new(0.005), new(0.02)]);
    }
}
