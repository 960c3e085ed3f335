using CsCheck;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Timing;

/// <summary>Form lines, tempo maps, charts and issues: a bar to its clock time and back.</summary>
public class BarsAndClock
{
    private const string Line = "count 1, intro 8, verse 16, chorus 8, verse 16, chorus 8, bridge 8 of 7/8, stop of 3 beats, solo 16, "
        + "chorus 8, ending 15";

    [Fact]
    public void A_form_is_read_from_one_line()
    {
        var form = Form.Parse(Line, MeterCycle.CommonTime);
        form.Problems.ShouldBeEmpty();
        form.Sections.Select(s => $"{s.Name} {s.FirstBar}-{s.LastBar}").ShouldBe(
            ["count 1-1", "intro 2-9", "verse 1 10-25", "chorus 1 26-33", "verse 2 34-49", "chorus 2 50-57", "bridge 58-65", "stop 66-66",
                "solo 67-82", "chorus 3 83-90", "ending 91-105"]);
        form.SectionOf(60)!.Name.ShouldBe("bridge");
        var grid = new BarGrid(MeterCycle.CommonTime, form.Sections);
        (grid.MeterOf(58).ToString(), grid.MeterOf(66).ToString(), grid.MeterOf(67).ToString()).ShouldBe(("7/8", "3/4", "4/4"));
        grid.StartOf(66).ShouldBe(57 * 4 + 8 * 3.5);
        grid.StartOf(67).ShouldBe(57 * 4 + 8 * 3.5 + 3);
    }

    [Theory]
    [InlineData("verse", 1, 5)]
    [InlineData("intro 8, verse x, chorus 8", 10, 7)]
    [InlineData("verse 8 of 7/9", 1, 14)]
    [InlineData("verse 0", 1, 7)]
    [InlineData("stop of 90 beats", 1, 16)]
    [InlineData("verse 8 @ later", 1, 15)]
    [InlineData("solo 100001", 1, 11)]
    public void What_is_no_section_is_told_and_the_rest_is_kept(string text, int column, int length)
    {
        var form = Form.Parse(text, MeterCycle.CommonTime);
        var problem = form.Problems.ShouldHaveSingleItem();
        (problem.At.Column, problem.At.Length).ShouldBe((column, length));
    }

    [Theory]
    [InlineData(Line)]
    [InlineData("verse 16 @ 0:12.5; chorus 8 x3; pause of 2.5 s; verse 5: 12 of 4/4 3/4")]
    public void A_form_said_again_is_the_same_form(string text)
    {
        var form = Form.Parse(text, MeterCycle.CommonTime);
        var again = Form.Parse(form.ToString(), MeterCycle.CommonTime);
        again.Sections.Select(s => (s.Name, s.FirstBar, s.Bars, s.PauseSeconds, s.At, s.Meters?.ToString()))
            .ShouldBe(form.Sections.Select(s => (s.Name, s.FirstBar, s.Bars, s.PauseSeconds, s.At, s.Meters?.ToString())));
    }

    [Fact]
    public void Any_text_can_be_read_as_a_form() =>
        Gen.String.Sample(text => Form.Parse(text, MeterCycle.CommonTime).Bars.ShouldBeGreaterThanOrEqualTo(0));

    [Fact]
    public void A_map_is_exact_at_its_marks_linear_between_and_goes_on_beyond()
    {
        var map = TempoMap.Of(new(MeterCycle.CommonTime), [new(1, new(1000)), new(5, new(11000)), new(9, new(19000))], null)!;
        map.ClockOf(1).ShouldBe(new ClockTime(1000));
        map.ClockOf(3).ShouldBe(new ClockTime(6000));
        map.ClockOf(9).ShouldBe(new ClockTime(19000));
        map.ClockOf(11).ShouldBe(new ClockTime(23000));
        map.ClockOf(0).ShouldBeNull("a bar of the first tempo before the first mark is before the recording");
        (map.TempoAt(2), map.TempoAt(6), map.TempoAt(40)).ShouldBe((96, 120, 120));
        map.PlaceOf(new(12000)).ShouldBe(new BarPlace(5, 2));
    }

    [Fact]
    public void A_pause_takes_time_and_no_bars()
    {
        var form = Form.Parse("verse 2, pause of 3 s, verse 2", MeterCycle.CommonTime);
        var map = TempoMap.Of(new(MeterCycle.CommonTime, form.Sections), [new(1, new(0)), new(5, new(11000))], null)!;
        map.TempoAt(1).ShouldBe(120);
        (map.ClockOf(2), map.ClockOf(3), map.ClockOf(4)).ShouldBe((new ClockTime(2000), new ClockTime(7000), new ClockTime(9000)));
        map.PlaceOf(new(5500)).ShouldBe(new BarPlace(3, 0), "in the pause");
    }

    private static readonly Gen<(BarGrid Grid, TempoMap Map)> Maps =
        Gen.Select(Gen.OneOf(Gen.Const("4/4"), Gen.Const("7/8"), Gen.Const("5/8 7/8 5/8"), Gen.Const("12/8")), Gen.Int[1, 9].Array[1, 6],
            Gen.Double[40, 300].Array[6], Gen.Int[0, 5000],
            Gen.OneOf(Gen.Const(""), Gen.Const(Line), Gen.Const("verse 4, pause of 1.5 s, stop of 3 beats, verse 40")),
                (meters, gaps, tempos, start, form) =>
        {
            var usual = new MeterCycle([.. meters.Split(' ').Select(m => Meter.Parse(m)!)]);
            var grid = new BarGrid(usual, Form.Parse(form, usual).Sections);
            var (bar, at) = (1, (double)start);
            var marks = new List<BarMark> { new(1, new(start)) };
            foreach (var (gap, tempo) in gaps.Zip(tempos))
            {
                at += (grid.StartOf(bar + gap) - grid.StartOf(bar)) * 60_000 / tempo
                    + 1000 * (grid.PausesBefore(bar + gap) - grid.PausesBefore(bar));
                marks.Add(new(bar += gap, new((int)at)));
            }
            return (grid, TempoMap.Of(grid, marks, Bpm.Of(100))!);
        });

    [Fact]
    public void Bar_to_clock_and_back_is_the_identity() => Gen.Select(Maps, Gen.Int[1, 200]).Sample((m, bar) =>
    {
        var back = m.Map.PlaceOf(m.Map.ClockOf(bar)!.Value);
        back.Bar.ShouldBe(bar);
        back.InBar.ShouldBe(0, 0.02);
    });

    [Fact]
    public void Clock_to_bar_and_back_is_the_identity() => Gen.Select(Maps, Gen.Int[0, 300_000]).Sample((m, ms) =>
    {
        var at = new ClockTime(ms + m.Map.Marks[0].At.Milliseconds);
        var place = m.Map.PlaceOf(at);
        var back = m.Map.SecondsOf(place) * 1000;
        // In a pause the place is the bar after it.
        if (m.Grid.PausesBefore(place.Bar) == m.Grid.PausesBefore(place.Bar - 1)) back.Value.ShouldBe(at.Milliseconds, 1.5);
        else back.Value.ShouldBeGreaterThanOrEqualTo(at.Milliseconds - 1.5);
    });

    [Fact]
    public void A_map_is_exact_at_every_mark() => Maps.Sample(m =>
    {
        foreach (var mark in m.Map.Marks) m.Map.ClockOf(mark.Bar).ShouldBe(mark.At);
    });

    [Fact]
    public void A_miscounted_bar_stands_out_as_its_beats()
    {
        // The band plays nine bars of 2.5 s where the form has eight.
        var marks = new[] { (1, 0), (9, 20_000), (17, 40_000), (25, 62_500), (33, 82_500), (41, 102_500) }.Select(m =>
            new BarMark(m.Item1, new(m.Item2)));
        var doubt = TempoMap.Of(new(MeterCycle.CommonTime), marks, null)!.Doubts.ShouldHaveSingleItem();
        (doubt.Mark.Bar, doubt.Beats).ShouldBe((25, 4));
    }

    [Fact]
    public void A_slip_of_the_hand_stands_out_in_milliseconds()
    {
        var marks = Enumerable.Range(0, 9).Select(i => new BarMark(i + 1, new(i * 2000 + (i == 4 ? 60 : 0))));
        var doubts = TempoMap.Of(new(MeterCycle.CommonTime), marks, null)!.Doubts;
        var slip = doubts.ShouldHaveSingleItem();
        (slip.Mark, Math.Round(slip.Milliseconds), slip.Beats)
            .ShouldBe((new(5, new(8060)), 60, 0), "its neighbours are 30 ms off only because of it");
    }

    [Theory, InlineData(0.02), InlineData(-0.02), InlineData(0.05)]
    public void A_tempo_that_drifts_is_no_slip_and_no_odd_bar(double aMark)
    {
        // Every eighth bar is marked, and each stretch goes a little slower, or faster, than the one before.
        var (at, marks) = (0.0, new List<BarMark>());
        for (var i = 0; i < 14; i++)
        {
            marks.Add(new(8 * i + 1, new((int)Math.Round(at * 1000))));
            at += 16 * (1 + aMark * i);
        }
        TempoMap.Of(new(MeterCycle.CommonTime), marks, null)!.Doubts.ShouldBeEmpty();
        // A bar too many in the middle of it stands out all the same.
        var miscounted = marks.Select(m => m.Bar > 50 ? m with { Bar = m.Bar + 1 } : m);
        TempoMap.Of(new(MeterCycle.CommonTime), miscounted, null)!.Doubts.ShouldHaveSingleItem().Beats.ShouldBe(-4);
    }

    [Fact]
    public void Drift_is_told_with_its_largest_jump()
    {
        int[] at = [0, 2000, 4000, 6000, 8087, 10087, 12087];
        var drift = Drift.Of(TempoMap.Of(new(MeterCycle.CommonTime), at.Select((ms, i) => new BarMark(i + 1, new(ms))), null)!)!;
        (drift.Jump.Bar, Math.Round(drift.Jump.Change, 1)).ShouldBe((4, -5.0));
        (Math.Round(drift.Slowest, 1), drift.Fastest).ShouldBe((115.0, 120));
    }

    [Fact]
    public void One_fast_bar_is_no_drift_and_a_drift_has_an_interval()
    {
        static Drift Of(params int[] at) => Drift.Of(TempoMap.Of(new(MeterCycle.CommonTime),
            at.Select((ms, i) => new BarMark(i + 1, new(ms))), null)!)!;
        Of(0, 2000, 3800, 5800).ShouldSatisfyAllConditions(d => d.Slope.ShouldBeNull(), d => d.Words.ShouldBe(""));
        Of(0, 2000, 4000, 6000, 7600, 9600).ShouldSatisfyAllConditions(d => d.IsSteady.ShouldBeFalse(), d =>
            d.Words.ShouldBe("no steady drift"));
        int[] faster = [.. Enumerable.Range(0, 30).Select(bar => (int)Math.Round(2000.0 * bar - 4 * bar * bar))];
        Of(faster).ShouldSatisfyAllConditions(d => d.IsSteady.ShouldBeTrue(), d => d.Words.ShouldMatch(@"^\d+\.\d faster a minute \("),
            d => (d.Slope!.Value.Low < d.Slope.Value.Value && d.Slope.Value.Value < d.Slope.Value.High).ShouldBeTrue());
    }

    [Fact]
    public void Note_lengths_are_told_to_the_tempo_over_all_that_is_marked()
    {
        var map = TempoMap.Of(new(MeterCycle.CommonTime), [new(1, new(0)), new(2, new(1000)), new(11, new(19_000))], null)!;
        map.MeanTempo!.Value.ShouldBe(60 * 40 / 19.0, 1e-9);
        TempoMap.Of(new(MeterCycle.CommonTime), [new(1, new(0))], Bpm.Of(100)!.Value)!.MeanTempo.ShouldBeNull();
    }

    /// <summary>Bar 10 mistyped as bar 1000: a tempo nobody plays, but an answer for every clock time of a day.</summary>
    [Fact]
    public void Wild_marks_give_an_answer_for_every_clock_time() =>
        Gen.Select(Gen.Int[2, 100_000], Gen.Int[1, 60_000], Gen.Int[0, 86_399_999]).Sample((bar, ms, at) =>
    {
        var map = TempoMap.Of(new(new MeterCycle([Meter.Parse("5/8")!, Meter.Parse("7/8")!])), [new(1, new(0)), new(bar, new(ms))], null)!;
        var place = map.PlaceOf(new(at));
        place.Bar.ShouldBeGreaterThan(0);
        if (place.Bar < 1_000_000) Math.Abs(map.SecondsOf(place) - at / 1000.0).ShouldBeLessThan(0.01 + at / 1000.0 * 1e-6);
    });

    [Fact]
    public void Chart_bars_and_recording_bars_name_each_other() => Gen.Int[1, 200].Sample(bar =>
    {
        var chart = new Chart(3, Chart.ParseRepeats("9-16 x2, 25-32 x3")!);
        if (chart.ChartBarOf(bar) is { } printed) chart.BarsOf(printed.Bar)[printed.Time - 1].ShouldBe(bar);
        else bar.ShouldBeLessThan(3);
    });

    [Fact]
    public void A_repeat_is_printed_once_and_played_twice()
    {
        var chart = new Chart(3, Chart.ParseRepeats("9-16 x2")!);
        chart.BarsOf(10).ShouldBe([12, 20]);
        chart.BarsOf(17).ShouldBe([27]);
        chart.ChartBarOf(20).ShouldBe((10, 2));
        chart.ChartBarOf(2).ShouldBeNull();
        Chart.ParseRepeats("9-16 x2, 12-20 x2").ShouldBeNull("they overlap");
        Chart.SayRepeats(chart.Repeats).ShouldBe("9-16 x2");
    }

    [Fact]
    public void An_issue_that_runs_sharp_is_shorter_and_converts_back()
    {
        var sharp = new IssueClock(1.02, 1500);
        sharp.OnIssue(new(102_000)).ShouldBe(new ClockTime(101_500));
        sharp.OnRecording(new(1000)).ShouldBeNull("before the recording begins");
        Gen.Select(Gen.Double[0.8, 1.25], Gen.Int[0, 20_000], Gen.Int[0, 3_600_000]).Sample((speed, offset, ms) =>
        {
            var clock = new IssueClock(speed, offset);
            Math.Abs(clock.OnRecording(clock.OnIssue(new(ms))!.Value)!.Value.Milliseconds - ms).ShouldBeLessThanOrEqualTo(1);
        });
    }
}
