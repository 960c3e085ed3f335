using CsCheck;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Music;

/// <summary>Seconds and places in a music whose tempo changes on its way.</summary>
public class TemposOnTheWay
{
    private static TempoChange From(double quarter, double bpm) => new(new((int)(quarter * Tick.PerQuarter)), Bpm.Of(bpm)!.Value);

    private static readonly TempoChange[] Slower = [From(0, 120), From(4, 60), From(8, 240)];

    [Theory]
    [InlineData(0, 0)]
    [InlineData(2, 1)]
    [InlineData(4, 2)]
    [InlineData(6, 4)]
    [InlineData(8, 6)]
    [InlineData(12, 7)]
    public void A_place_sounds_after_all_that_comes_before_it(double quarter, double seconds)
    {
        TempoChange.SecondsTo(new((int)(quarter * Tick.PerQuarter)), Slower).Value.ShouldBe(seconds, 1e-9);
        TempoChange.QuartersAt(new(seconds), Slower).ShouldBe(quarter, 1e-9);
    }

    [Fact]
    public void What_comes_before_the_beginning_goes_on_at_its_tempo()
    {
        TempoChange.SecondsTo(new(-Tick.PerQuarter), Slower).Value.ShouldBe(-0.5, 1e-9);
        TempoChange.QuartersAt(new(-0.5), Slower).ShouldBe(-1, 1e-9);
    }

    private static readonly Gen<TempoChange[]> Tempos = Gen.Select(Gen.Double[20, 400].Array[1, 6], Gen.Int[1, 40_000].Array[6]).Select(
        (tempos, gaps) => tempos.Select((bpm, i) => new TempoChange(new(gaps.Take(i).Sum()), Bpm.Of(bpm)!.Value)).ToArray());

    [Fact]
    public void There_and_back_is_where_one_was() => Gen.Select(Tempos, Gen.Int[-10_000, 300_000]).Sample((tempos, tick) =>
        TempoChange.QuartersAt(TempoChange.SecondsTo(new(tick), tempos), tempos).ShouldBe((double)tick / Tick.PerQuarter, 1e-6));

    [Fact]
    public void Later_places_sound_later() => Gen.Select(Tempos, Gen.Int[0, 300_000], Gen.Int[1, 300_000]).Sample((tempos, tick, more) =>
        TempoChange.SecondsTo(new(tick + more), tempos).Value.ShouldBeGreaterThan(TempoChange.SecondsTo(new(tick), tempos).Value));
}
