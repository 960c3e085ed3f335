using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>What is known of some bars before anything in them is heard.</summary>
public class StretchesToHear
{
    private static readonly MeterCycle Common = MeterCycle.CommonTime;
    private static readonly BarGrid Plain = new(Common, []);

    // 4/4 at 120 from 1 s on: a bar every 2 s.
    private static readonly TempoMap Marked = TempoMap.Of(Plain, [new BarMark(1, new(1000)), new BarMark(5, new(9000))], null)!;

    private static (HeardStretch? Stretch, bool NoStart) Of(TempoMap? map, ClockTime? start = null, int? bar = null,
        double? tempo = null) =>
        HeardStretch.Of(map, Plain, tempo is { } t ? Bpm.Of(t) : null, Common, start, bar, 2);

    [Fact]
    public void A_start_near_a_bar_line_is_that_bar_line()
    {
        var stretch = Of(Marked, new ClockTime(5200)).Stretch!;
        (stretch.Start.Milliseconds, stretch.Bar).ShouldBe((5000, 3));
        stretch.Tempo.Value.ShouldBe(120, 0.01);
    }

    [Fact]
    public void A_start_between_bar_lines_stays_where_it_was_typed() =>
        Of(Marked, new ClockTime(6000)).Stretch!.Start.Milliseconds.ShouldBe(6000);

    [Fact]
    public void A_bar_says_its_start() => Of(Marked, bar: 4).Stretch!.Start.Milliseconds.ShouldBe(7000);

    [Fact]
    public void Without_marks_the_recording_s_own_tempo_holds() =>
        Of(null, new ClockTime(4321), tempo: 96).Stretch!.ShouldBe(new(new(4321), null, Bpm.Of(96)!.Value, Common));

    [Fact]
    public void What_is_missing_is_said()
    {
        Of(null, tempo: 96).ShouldBe((null, true));
        Of(null, new ClockTime(0)).ShouldBe((null, false));
    }
}
