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

    /// <summary>Eighths at 120 from 10.3 s on, bars of two seconds.</summary>
    [Theory]
    [InlineData(10_000, 10_300)]
    [InlineData(11_080, 10_300)]
    [InlineData(11_700, 12_300)]
    [InlineData(10_800, 10_800)]
    [InlineData(10_305, 10_305)]
    [InlineData(25_000, 25_000)]
    public void A_heard_bar_line_is_clearer_than_a_start_between_the_beats_and_no_clearer_than_one_on_a_beat(int typed, int begins)
    {
        var stretch = Of(null, new ClockTime(typed), tempo: 120).Stretch!;
        HeardBeat[] beats = [.. Enumerable.Range(0, 16).Select(i => new HeardBeat(new(10.3 + i * 0.5), i % 4 == 0))];
        HeardStroke[] struck = [.. Enumerable.Range(0, 32).Select(i => new HeardStroke(new(10.3 + i * 0.25), Family.Hat, Voice.Hat,
            Openness.Closed, 0.9, 0.7, null) { Confidence = 0.9 })];
        var (taken, why) = stretch.Settled(struck, new(null, [.. beats]), Plain, Common, 2);
        (taken.Start.Milliseconds, why).ShouldBe((begins, begins == typed ? BeginsAt.AsTold : BeginsAt.ClearerBarLine));
    }

    [Theory]
    [InlineData(5600, 5000, 3)]
    [InlineData(6500, 6500, null)]
    public void So_is_a_marked_one(int typed, int begins, int? bar)
    {
        var stretch = Of(Marked, new ClockTime(typed)).Stretch!;
        HeardStroke[] struck = [.. Enumerable.Range(0, 64).Select(i => new HeardStroke(new(1 + i * 0.25), Family.Hat, Voice.Hat,
            Openness.Closed, 0.9, 0.7, null) { Confidence = 0.9 })];
        var (taken, _) = stretch.Settled(struck, new(Marked, []), Plain, Common, 2);
        (taken.Start.Milliseconds, taken.Bar).ShouldBe((begins, bar));
    }

    [Fact]
    public void What_is_missing_is_said()
    {
        Of(null, tempo: 96).ShouldBe((null, true));
        Of(null, new ClockTime(0)).ShouldBe((null, false));
    }

    /// <summary>Bar lines at 0.7 s and every 2 s from there, and beats between them.</summary>
    private static readonly HeardBeat[] Heard = [.. Enumerable.Range(0, 24).Select(i => new HeardBeat(new(0.7 + i * 0.5), i % 4 == 0))];

    private static (HeardStretch Stretch, bool AtBarLine)? ByEar(int? start, double bpm = 120, string meter = "4/4") =>
        HeardStretch.ByEar(Heard, [new(bpm, 0.8), new(2 * bpm, 0.2)], new([Meter.Parse(meter)!]),
            start is { } at ? new ClockTime(at) : null, null);

    [Theory]
    [InlineData(null, 700), InlineData(2900, 2700), InlineData(3600, 2700), InlineData(3800, 4700)]
    public void Where_nothing_is_told_it_begins_at_the_nearest_bar_line_that_was_heard(int? start, int line)
    {
        var (stretch, atBarLine) = ByEar(start)!.Value;
        (stretch.Start.Milliseconds, atBarLine, stretch.Typed).ShouldBe((line, true, null));
        stretch.Tempo.Value.ShouldBe(120);
    }

    [Fact]
    public void A_start_far_from_all_bar_lines_stays_and_is_none()
    {
        var (stretch, atBarLine) = ByEar(30_000)!.Value;
        (stretch.Start.Milliseconds, atBarLine).ShouldBe((30_000, false));
    }

    [Theory]
    [InlineData("6/8", 108), InlineData("12/8", 108), InlineData("7/8", 72), InlineData("3/4", 72)]
    public void Beats_of_three_eighths_are_told_in_quarters(string meter, double quarters) =>
        ByEar(700, 72, meter)!.Value.Stretch.Tempo.Value.ShouldBe(quarters);

    [Fact]
    public void Without_a_tempo_or_anywhere_to_begin_there_is_none()
    {
        HeardStretch.ByEar(Heard, [], Common, new ClockTime(700), null).ShouldBeNull();
        HeardStretch.ByEar([], [new(120, 1)], Common, null, null).ShouldBeNull();
        HeardStretch.ByEar(Heard, [new(390, 1)], new([Meter.Parse("6/8")!]), null, null).ShouldBeNull("no recording is told as quick");
    }
}
