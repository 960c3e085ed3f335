using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Music;

public class MeterTests
{
    [Theory]
    [InlineData("4/4", 40320, 10080, "1 1 1 1")]
    [InlineData("7/8", 35280, 5040, "1 1 1 1 1 1 1")]
    [InlineData("7/8(2+2+3)", 35280, 5040, "2 2 3")]
    [InlineData("6/8", 30240, 5040, "3 3")]
    [InlineData("9/8", 45360, 5040, "3 3 3")]
    [InlineData("12/8", 60480, 5040, "3 3 3 3")]
    [InlineData("12/8(3+3+2+2+2)", 60480, 5040, "3 3 2 2 2")]
    [InlineData("6/4", 60480, 10080, "1 1 1 1 1 1")]
    [InlineData("2/2", 40320, 20160, "1 1")]
    [InlineData("3/1", 120960, 40320, "1 1 1")]
    [InlineData("32/32", 40320, 1260, "1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1 1")]
    public void A_meter_knows_its_length_its_count_and_its_pulse(string text, int length, int beat, string pulses)
    {
        var meter = Meter.Parse(text)!;
        meter.Length.ShouldBe(new Tick(length));
        meter.Beat.ShouldBe(new Tick(beat));
        string.Join(' ', meter.Pulses).ShouldBe(pulses);
        meter.ToString().ShouldBe(text);
    }

    [Theory]
    [InlineData("4/3")]
    [InlineData("0/4")]
    [InlineData("33/8")]
    [InlineData("4")]
    [InlineData("4/4/4")]
    [InlineData("7/8(2+2)")]
    [InlineData("7/8(7+0)")]
    [InlineData("7/8(2+2+3")]
    [InlineData("-4/4")]
    [InlineData("")]
    public void What_is_no_meter_is_nothing(string text) => Meter.Parse(text).ShouldBeNull();

    [Theory]
    [InlineData("7/8(2+2+3)", 0, 0)]
    [InlineData("7/8(2+2+3)", 9999, 0)]
    [InlineData("7/8(2+2+3)", 10080, 10080)]
    [InlineData("7/8(2+2+3)", 30240, 20160)]
    [InlineData("6/8", 12600, 0)]
    [InlineData("6/8", 15120, 15120)]
    [InlineData("4/4", 27720, 20160)]
    public void A_place_falls_into_a_pulse(string meter, int at, int start) =>
        Meter.Parse(meter)!.PulseStart(new(at)).ShouldBe(new Tick(start));

    [Fact]
    public void Meters_in_turn_start_over()
    {
        var cycle = new MeterCycle([Meter.Parse("5/8")!, Meter.Parse("7/8")!]);
        cycle.StartOf(0).ShouldBe(Tick.Zero);
        cycle.StartOf(1).ShouldBe(new Tick(25200));
        cycle.StartOf(2).ShouldBe(new Tick(60480));
        cycle.MeterOf(3).ToString().ShouldBe("7/8");
        cycle.MeterOf(-1).ToString().ShouldBe("7/8");
        cycle.Locate(new(60480 + 25200)).ShouldBe((3, Tick.Zero));
        cycle.Locate(new(-1)).ShouldBe((-1, new Tick(35279)));
    }

    [Fact]
    public void A_cycle_of_no_meters_is_a_mistake_of_the_caller() => Should.Throw<ArgumentException>(() => new MeterCycle([]));
}

public class TickTests
{
    [Theory]
    [InlineData(1, 2, 5040)]
    [InlineData(1, 3, 3360)]
    [InlineData(7, 12, 5880)]
    [InlineData(1, 16, 630)]
    public void Shares_of_a_quarter_are_whole(int numerator, int denominator, int ticks) =>
        Tick.OfQuarter(numerator, denominator).ShouldBe(new Tick(ticks));

    [Fact]
    public void An_eleventh_of_a_quarter_is_not() => Should.Throw<ArgumentException>(() => Tick.OfQuarter(1, 11));

    [Fact]
    public void Ticks_add_and_compare()
    {
        (new Tick(5) + new Tick(6) - new Tick(1)).ShouldBe(new Tick(10));
        (new Tick(5) * 3 > new Tick(14)).ShouldBeTrue();
        (new Tick(5) <= new Tick(5)).ShouldBeTrue();
    }
}

public class VoiceTests
{
    [Theory]
    [InlineData("sn", "SN")]
    [InlineData("Snare", "SN")]
    [InlineData("BASS", "BD")]
    [InlineData("foot", "HF")]
    [InlineData("tom", "TT")]
    [InlineData("mid-tom", "T2")]
    [InlineData("cymbal", "CY")]
    [InlineData("rim-click", "XS")]
    [InlineData("bell", "RB")]
    public void A_voice_is_found_by_code_and_word_in_any_case(string word, string code) => Voice.Find(word)!.Code.ShouldBe(code);

    [Fact]
    public void The_canonical_order_runs_from_the_cymbals_to_the_feet() =>
        string.Join(' ', Voice.All.Append(Voice.Own(1, "gong", Family.Crash, false)).Append(Voice.Own(8, "board", Family.Kick, true))
            .Order()).ShouldBe(
            "CR C2 CH SP CY RD RB CB P1 P8 HH T1 T2 T3 T4 TT FT F2 SN XS BD HF EN");

    [Fact]
    public void Only_kick_and_hat_foot_are_feet_and_the_band_has_no_limbs()
    {
        Voice.All.Where(v => v.IsFoot).ShouldBe([Voice.Kick, Voice.HatFoot]);
        Voice.All.Where(v => v.Limbs == LimbClass.None).ShouldBe([Voice.Ensemble]);
    }

    [Fact]
    public void A_ninth_instrument_of_ones_own_is_refused() =>
        Should.Throw<ArgumentOutOfRangeException>(() => Voice.Own(9, "box", Family.Snare, false));

    [Fact]
    public void A_limb_needs_a_side_and_a_voice_that_has_one()
    {
        new Stroke(Tick.Zero, Voice.Snare) { Side = Side.Left }.Limb.ShouldBe("LH");
        new Stroke(Tick.Zero, Voice.Kick) { Side = Side.Right }.Limb.ShouldBe("RF");
        new Stroke(Tick.Zero, Voice.Snare).Limb.ShouldBeNull();
        new Stroke(Tick.Zero, Voice.Ensemble) { Side = Side.Right }.Limb.ShouldBeNull();
    }

    [Theory]
    [InlineData("20", 20.0)]
    [InlineData("132.5", 132.5)]
    [InlineData("400", 400.0)]
    [InlineData("19.9", null)]
    [InlineData("400.1", null)]
    [InlineData("-96", null)]
    [InlineData("1e2", null)]
    [InlineData("fast", null)]
    public void A_tempo_is_twenty_to_four_hundred(string text, double? bpm) => Bpm.Parse(text)?.Value.ShouldBe(bpm!.Value);

    [Fact]
    public void A_quarter_at_120_lasts_half_a_second() => Bpm.Of(120)!.Value.SecondsOf(new(Tick.PerQuarter)).Value.ShouldBe(0.5);
}
