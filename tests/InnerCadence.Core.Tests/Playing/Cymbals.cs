using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;

namespace InnerCadence.Core.Tests.Playing;

/// <summary>What cymbals are made of.</summary>
public class Cymbals
{
    private static readonly Plate Ride = new([-42, -42, -26, -18, -26, -22, -13, -11, -24], 0.8, 4, -5, 0.01);

    /// <summary>In dB, an octave about a frequency.</summary>
    private static double Power(IEnumerable<Plate.Partial> partials, double hz) =>
        10 * Math.Log10(partials.Where(p => p.Hz > hz / Math.Sqrt(2) && p.Hz < hz * Math.Sqrt(2)).Sum(p => p.Amplitude * p.Amplitude));

    [Fact]
    public void Each_band_is_as_loud_as_it_is_said_however_many_partials_share_it()
    {
        var twice = Ride with { Partials = 2 * Ride.Partials };
        foreach (var plate in (Plate[])[Ride, twice])
        {
            var mean = Enumerable.Range(0, 20).SelectMany(seed => plate.Of(seed, 0)).ToList();
            (Power(mean, 8500) - Power(mean, 800)).ShouldBe(-11 - -18, 3);
            (Power(mean, 8500) - Power(mean, 350)).ShouldBe(-11 - -26, 3);
            plate.Of(1, 0).Sum(p => p.Amplitude * p.Amplitude).ShouldBe(1, 1e-9);
        }
    }

    [Fact]
    public void One_cymbal_is_itself_at_every_stroke_and_darker_when_struck_softly()
    {
        Ride.Of(3, 0).ShouldBe(Ride.Of(3, 0));
        Ride.Of(3, 0).ShouldNotBe(Ride.Of(4, 0));
        var (soft, hard) = (Ride.Of(3, -6), Ride.Of(3, 6));
        soft.Select(p => p.Hz).ShouldBe(hard.Select(p => p.Hz));
        (Power(hard, 8500) - Power(hard, 800)).ShouldBeGreaterThan(Power(soft, 8500) - Power(soft, 800) + 3);
    }

    [Fact]
    public void What_blooms_comes_up_after_the_stroke_and_what_has_died_away_is_over()
    {
        float[] Struck(Plate plate, double seconds)
        {
            var signal = new float[(int)(seconds * Modes.Rate)];
            new Modes(signal, new Random(1)).Plate(plate, 1, 0, 1);
            return signal;
        }
        static double Loud(float[] signal, double at) =>
            Math.Sqrt(signal.Skip((int)(at * Modes.Rate)).Take(Modes.Rate / 100).Average(s => s * s));
        var (plain, blooms) = (Struck(Ride with { Bloom = 0 }, 0.2), Struck(Ride with { Bloom = 0.05 }, 0.2));
        Loud(plain, 0).ShouldBeGreaterThan(Loud(plain, 0.15));
        Loud(blooms, 0).ShouldBeLessThan(Loud(blooms, 0.1));
        var closed = Struck(Ride with { Early = 0.1, Late = 0.2 }, 1);
        Loud(closed, 0.5).ShouldBeLessThan(Loud(closed, 0) / 1000);
        closed.ShouldAllBe(s => float.IsFinite(s));
    }
}
