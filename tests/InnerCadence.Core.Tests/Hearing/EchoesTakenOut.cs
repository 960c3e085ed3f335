using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>What comes once more after a fixed delay is an echo, and is taken out; what is played again, or looped, is not.</summary>
public class EchoesTakenOut
{
    private const int Rate = EarFeatures.Rate, Delay = 6042;
    private const float Share = 0.4f;

    /// <summary>A burst of noise, never twice the same unless it is drawn from the same number.</summary>
    private static void Strike(float[] sound, double at, int number, double falls = 30, float loud = 0.4f)
    {
        var (random, start) = (new Random(number), (int)(at * Rate));
        for (var i = 0; i < Rate / 3 && start + i < sound.Length; i++)
            sound[start + i] += loud * (random.NextSingle() - 0.5f) * (float)Math.Exp(-i * falls / Rate);
    }

    private static float[] Played(double seconds)
    {
        var (sound, random) = (new float[(int)(seconds * Rate)], new Random(3));
        var number = 100;
        for (var at = 0.2; at < seconds; at += 0.11 + random.NextDouble() * 0.2) Strike(sound, at, number++, random.Next(10, 80));
        return sound;
    }

    private static float[] Echoed(float[] sound, int from = 0)
    {
        var wet = sound.ToArray();
        for (var i = from + Delay; i < wet.Length; i++) wet[i] += Share * sound[i - Delay];
        return wet;
    }

    private static double Power(IEnumerable<float> sound) => sound.Sum(x => (double)x * x);

    [Theory]
    [InlineData(8)]
    [InlineData(30)]
    public void An_echo_is_found_and_next_to_nothing_of_it_is_left(double seconds)
    {
        var dry = Played(seconds);
        var wet = Echoed(dry);
        new EchoSearch().DelayIn(dry).ShouldBeNull();
        var near = new EchoSearch().DelayIn(wet).ShouldNotBeNull();
        Math.Abs(near - Delay).ShouldBeLessThanOrEqualTo(4);
        var filter = EchoFilter.For(wet, near);
        filter.Delay.ShouldBe(Delay);
        filter.Decibels.ShouldBe(20 * Math.Log10(Share), 1);
        var clean = wet.ToArray();
        filter.TakeOut(clean);
        var before = Power(wet.Zip(dry, (a, b) => a - b));
        Power(clean.Zip(dry, (a, b) => a - b)).ShouldBeLessThan(before / 30);
    }

    [Fact]
    public void It_is_sought_again_in_the_same_search()
    {
        var search = new EchoSearch();
        search.DelayIn(Echoed(Played(20))).ShouldNotBeNull();
        search.DelayIn(Played(12)).ShouldBeNull();
        search.DelayIn(Echoed(Played(20))).ShouldNotBeNull();
    }

    [Theory]
    [InlineData(0.125)]
    [InlineData(0.21)]
    public void A_loop_of_the_same_samples_has_no_echo(double step)
    {
        var sound = new float[20 * Rate];
        for (var i = 0; i * step < 20; i++) Strike(sound, i * step, i % 16 is 4 or 12 ? 2 : i % 2);
        new EchoSearch().DelayIn(sound).ShouldBeNull();
    }

    [Fact]
    public void What_echoes_in_the_second_half_alone_is_left_as_it_is() =>
        new EchoSearch().DelayIn(Echoed(Played(30), 16 * Rate)).ShouldBeNull();

    [Theory]
    [InlineData(0)]
    [InlineData(100)]
    [InlineData(2 * Rate)]
    public void Of_silence_and_of_little_nothing_is_said(int samples)
    {
        new EchoSearch().DelayIn(new float[samples]).ShouldBeNull();
        new EchoSearch().DelayIn(new float[20 * Rate]).ShouldBeNull();
    }

    /// <summary>A soft stroke comes 12 ms after the echo of a loud one.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(21.5)]
    public void A_stroke_is_read_where_it_was_struck_and_not_at_an_echo_before_it(double startsAt)
    {
        var (dry, at) = (new float[4 * Rate], 2.0 + (double)Delay / Rate + 0.012);
        for (var i = 0; i < 9; i++) Strike(dry, 0.2 + i * 0.4 + i % 3 * 0.03, i, 40);
        Strike(dry, 2, 50, 60, 0.6f);
        Strike(dry, at, 51, 60, 0.1f);
        HeardEcho echo = new(new(0), new(30), new((double)Delay / Rate), -8);
        HeardStroke near = new(new(startsAt + at - 0.004), Family.Hat, Voice.Hat, null, 0.9, 0.3, null) { Confidence = 0.9 };

        double Read(float[] sound, params HeardEcho[] known) =>
            1000 * (new RiseTimes(sound, Rate, new(startsAt), known).Of(near, [near]).At - startsAt - at);
        Read(dry).ShouldBe(0, 1);
        Read(Echoed(dry), echo).ShouldBe(0, 1);
        Read(Echoed(dry), echo, echo with { From = new(30), To = new(60) }).ShouldBe(0, 1);
        Read(Echoed(dry), echo with { From = new(30), To = new(60) }).ShouldBeLessThan(-6, "it is not heard there");
    }

    [Fact]
    public void One_that_goes_on_is_told_once()
    {
        var told = new List<HeardEcho>();
        HeardEcho.AddTo(told, new(new(0), new(30), new(0.1370), -8));
        HeardEcho.AddTo(told, new(new(30), new(60), new(0.1371), -9));
        HeardEcho.AddTo(told, new(new(60), new(90), new(0.2), -9));
        HeardEcho.AddTo(told, new(new(120), new(150), new(0.2), -9));
        told.ShouldBe([new(new(0), new(60), new(0.137), -8), new(new(60), new(90), new(0.2), -9), new(new(120), new(150), new(0.2), -9)]);
    }
}
