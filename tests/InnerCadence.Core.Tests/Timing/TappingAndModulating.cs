using CsCheck;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Timing;

/// <summary>Tapped tempo, swing, note lengths and metric modulation (time.md).</summary>
public class TappingAndModulating
{
    [Fact]
    public void Even_taps_are_their_tempo()
    {
        var tempo = TappedTempo.Of(Enumerable.Range(0, 9).Select(i => i * 0.625))!;
        (Math.Round(tempo.Bpm, 6), Math.Round(tempo.Low, 6), Math.Round(tempo.High, 6), tempo.Used, tempo.Dropped)
            .ShouldBe((96, 96, 96, 9, 0));
    }

    [Fact]
    public void The_interval_is_that_of_the_slope()
    {
        // By hand: slope 0.502, residuals 0.004 -0.002 -0.008 0.006 of 0 1 2 3, s² = 1.2e-4 / 2, se = sqrt(6e-5 / 5), t(2) = 4.302653.
        var tempo = TappedTempo.Of([0.01, 0.506, 1.002, 1.518])!;
        tempo.Bpm.ShouldBe(60 / 0.502, 1e-9);
        tempo.Low.ShouldBe(60 / (0.502 + 4.302653 * Math.Sqrt(6e-5 / 5)), 1e-4);
        tempo.High.ShouldBe(60 / (0.502 - 4.302653 * Math.Sqrt(6e-5 / 5)), 1e-4);
    }

    [Theory]
    [InlineData(new[] { 0, 0.5, 1, 1.5, 2, 2.05, 2.5, 3 }, 7, 1)] // a double
    [InlineData(new[] { 0, 0.5, 1, 2, 2.5, 3 }, 6, 0)] // one left out: two beats
    [InlineData(new[] { -1.7, 0, 0.5, 1, 1.5, 2 }, 5, 1)] // a late start
    [InlineData(new[] { 0, 0.5, 1, 1.5, 1.8, 2, 2.5 }, 6, 1)] // a slip between
    public void Slips_are_dropped_and_the_tempo_stays(double[] taps, int used, int dropped)
    {
        var tempo = TappedTempo.Of(taps)!;
        (tempo.Used, tempo.Dropped).ShouldBe((used, dropped));
        tempo.Bpm.ShouldBe(120, 1e-6);
    }

    [Theory]
    [InlineData(new double[0])]
    [InlineData(new[] { 0, 0.5, 1 })]
    [InlineData(new[] { 1.0, 1, 1, 1, 1 })]
    [InlineData(new[] { 0, 1, 10, 100, 1000.0 })]
    public void Too_few_steady_taps_say_nothing(double[] taps) => TappedTempo.Of(taps).ShouldBeNull();

    [Fact]
    public void A_tempo_scales_with_its_taps() => Gen.Double[0.2, 2].Select(Gen.Double[-0.02, 0.02].Array[4, 12]).Sample((gap, jitter) =>
    {
        var taps = jitter.Select((j, i) => gap * (i + j)).ToList();
        var (one, half) = (TappedTempo.Of(taps)!, TappedTempo.Of([.. taps.Select(t => 2 * t)])!);
        half.Bpm.ShouldBe(one.Bpm / 2, one.Bpm * 1e-9);
        one.Low.ShouldBeLessThanOrEqualTo(one.Bpm);
        one.High.ShouldBeGreaterThanOrEqualTo(one.Bpm);
    });

    [Theory]
    [InlineData(0.5, 1.0)]
    [InlineData(2.0 / 3, 2.0)]
    [InlineData(0.6, 1.5)]
    public void Swing_is_the_first_part_to_the_second(double share, double ratio)
    {
        var swing = MeasuredSwing.Of([.. Enumerable.Range(0, 8).Select(i => (i * 0.5, i * 0.5 + 0.5 * share, i * 0.5 + 0.5))])!;
        (Math.Round(swing.Ratio, 9), swing.Beats).ShouldBe((Math.Round(ratio, 9), 8));
        MeasuredSwing.Of([.. Enumerable.Range(0, 7).Select(i => (i * 0.5, i * 0.5 + 0.3, i * 0.5 + 0.5))])
            .ShouldBeNull("seven off-beats are too few");
    }

    [Fact]
    public void Swing_has_the_interval_of_its_mean_share()
    {
        double[] shares = [0.6, 0.62, 0.64, 0.66, 0.6, 0.62, 0.64, 0.66];
        var swing = MeasuredSwing.Of([.. shares.Select(f => (0.0, f, 1.0))])!;
        var half = 2.364624 * 0.0239046 / Math.Sqrt(8);
        swing.Low.ShouldBe((0.63 - half) / (0.37 + half), 1e-5);
        swing.High.ShouldBe((0.63 + half) / (0.37 - half), 1e-5);
    }

    [Theory]
    [InlineData(80, "1/6", "1/4", "1/4", "1/4", 120)]
    [InlineData(120, "3/8", "1/2", "1/4", "1/4", 160)]
    [InlineData(96, "3/16", "1/4", "1/4", "1/4", 128)]
    [InlineData(100, "1/8", "1/8", "1/4", "3/8", 66.666667)]
    [InlineData(60, "1/4", "1/4", "1/4", "1/4", 60)]
    public void An_old_note_becomes_a_new_one(double bpm, string oldValue, string newValue, string oldBeat, string newBeat,
        double expected) =>
        new Modulation(Value(oldValue), Value(newValue), Value(oldBeat), Value(newBeat)).Of(bpm).ShouldBe(expected, 1e-6);

    [Fact]
    public void A_chain_there_and_back_comes_home_and_bar_lines_meet()
    {
        var there = new Modulation(Value("1/6"), Value("1/4"), NoteValue.Quarter, NoteValue.Quarter);
        Modulation.Chain(80, [there, there with { OldValue = there.NewValue, NewValue = there.OldValue }])[^1].ShouldBe(80, 1e-9);
        there.BarLinesMeet(Value("4/4"), Value("4/4")).ShouldBe((2, 3));
        new Modulation(Value("3/16"), Value("1/4"), NoteValue.Quarter, NoteValue.Quarter).BarLinesMeet(Value("4/4"), Value("4/4"))
            .ShouldBe((3, 4));
        new Modulation(Value("1/8"), Value("1/8"), NoteValue.Quarter, NoteValue.Quarter).BarLinesMeet(Value("4/4"), Value("7/8"))
            .ShouldBe((7, 8));
    }

    [Theory]
    [InlineData("1/4", 625)]
    [InlineData("3/16", 468.75)]
    [InlineData("1/24", 104.166667)]
    public void Notes_last_so_long_at_96(string value, double ms) => NoteLengths.Milliseconds(Value(value), Bpm.Of(96)!.Value)
        .ShouldBe(ms, 1e-6);

    [Theory]
    [InlineData("3/0")]
    [InlineData("0/4")]
    [InlineData("quarter")]
    [InlineData("1/4/4")]
    [InlineData("999/4")]
    [InlineData(null)]
    public void A_note_value_is_a_share_of_a_whole_note(string? text) => NoteValue.Parse(text).ShouldBeNull();

    private static NoteValue Value(string text) => NoteValue.Parse(text)!.Value;
}
