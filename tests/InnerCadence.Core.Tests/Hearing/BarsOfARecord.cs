using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>Where a proposal's bars lie on a record that does not keep an even pace.</summary>
public class BarsOfARecord
{
    private const int Bars = 4;

    /// <summary>A record that slows down: its quarters last 0.5 s at first and a two-hundredth more each time.</summary>
    private static double Clock(double quarter) => 1 + 0.5 * (quarter + quarter * quarter / 400);

    private static HeardStretch Stretch(double tempo, string meter = "4/4", double start = 1) =>
        new(new ClockTime((int)Math.Round(start * 1000)), null, Bpm.Of(tempo)!.Value, new MeterCycle([Meter.Parse(meter)!]));

    /// <param name="every">Quarters from one heard beat to the next.</param>
    private static RecordPace Heard(double every = 1, Func<int, bool>? lacks = null) => new(null, [.. Enumerable.Range(0, (int)(18 / every))
        .Where(i => lacks?.Invoke(i) is not true).Select(i => new HeardBeat(new(Clock(i * every)), i % 4 == 0))]);

    /// <summary>Eighths on the hat, with a sixteenth before each back-beat.</summary>
    private static HeardStroke[] Struck(Func<double, double> clock) => [.. Enumerable.Range(0, 4 * Bars * 4)
        .Where(sixteenth => sixteenth % 2 == 0 || sixteenth % 8 == 3)
        .Select(sixteenth => new HeardStroke(new(clock(sixteenth / 4.0)), Family.Hat, Voice.Hat, Openness.Closed, 0.9, 0.7, null)
            { Confidence = 0.9 })];

    private static IEnumerable<int> Sixteenths(Passage proposal) => proposal.Strokes.Select(s => s.At.Value * 4 / Tick.PerQuarter);

    private static readonly int[] Played = [.. Enumerable.Range(0, 4 * Bars * 4).Where(s => s % 2 == 0 || s % 8 == 3)];

    [Theory]
    [InlineData(120)]
    [InlineData(107)]
    public void They_go_as_its_beats_were_heard(double told)
    {
        var strokes = Struck(Clock);
        var proposal = Transcript.Propose(strokes, Heard().Laid(Stretch(told), strokes, Bars));
        Sixteenths(proposal).ShouldBe(Played);
        proposal.Tempo!.Value.Value.ShouldBe(60 * 16 / (Clock(16) - 1), 0.1, "its tempo is that of these bars");
    }

    [Theory]
    [InlineData(0.5)]
    [InlineData(2)]
    [InlineData(1.5)]
    public void Beats_heard_half_or_twice_as_long_or_in_threes_say_it_too(double every)
    {
        var strokes = Struck(Clock);
        Sixteenths(Transcript.Propose(strokes, Heard(every).Laid(Stretch(112), strokes, Bars))).ShouldBe(Played);
    }

    [Fact]
    public void So_do_those_of_which_some_were_not_heard()
    {
        var strokes = Struck(Clock);
        Sixteenths(Transcript.Propose(strokes, Heard(lacks: i => i is 5 or 9 or 10).Laid(Stretch(112), strokes, Bars))).ShouldBe(Played);
    }

    [Fact]
    public void A_start_between_two_beats_stays_between_them() =>
        Heard().Laid(Stretch(112, start: Clock(2.5)), [], 2).At(new(4 * Tick.PerQuarter)).Value.ShouldBe(Clock(6.5), 0.01);

    [Theory]
    [InlineData(120, 1, "too few beats are heard")]
    [InlineData(135, 18, "they go at another tempo")]
    public void Else_the_pace_is_even(double told, int heard, string because)
    {
        var beats = new RecordPace(null, [.. Heard().Beats.Take(heard)]);
        var laid = beats.Laid(Stretch(told), [], 2);
        laid.End.Value.ShouldBe(1 + 8 * 60 / told, 1e-6, because);
    }

    /// <summary>Marked are bars 1 and 5, on the clock or at an even pace between.</summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void Marked_bars_stand_unless_heard_beats_fit_what_is_struck_clearly_better(bool drifts)
    {
        double Even(double quarter) => 1 + (Clock(16) - 1) * quarter / 16;
        var map = TempoMap.Of(new BarGrid(MeterCycle.CommonTime),
            [new BarMark(1, new(1000)), new BarMark(5, new((int)Math.Round(Clock(16) * 1000)))], null)!;
        var strokes = Struck(drifts ? Clock : Even);
        var laid = (Heard() with { Map = map }).Laid(Stretch(110), strokes, Bars);
        laid.At(new(8 * Tick.PerQuarter)).Value.ShouldBe(drifts ? Clock(8) : Even(8), 0.005);
    }

    private static Passage Written(string head = "") => CountLines.Parse($"{head}SN: 2 4 | 2 4 | 2 4 | 2 4").Passage;

    [Theory]
    [InlineData("tempo 112\n", LinesBy.Beats)]
    [InlineData("", LinesBy.Beats)]
    [InlineData("tempo 58\n", LinesBy.Beats)]
    [InlineData("tempo 140\n", LinesBy.Tempo)]
    [InlineData("tempo 112 @2 100\n", LinesBy.Tempo)]
    public void A_passage_with_a_clock_time_lies_as_the_beats_go_at_its_tempo(string head, LinesBy by)
    {
        var clock = Heard().ClockOf(Written(head), null, new(1000), Bpm.Of(110))!;
        clock.By.ShouldBe(by);
        // Two heard beats are one of a tempo half as fast.
        var beats = head == "tempo 58\n" ? 8 : 4;
        if (by == LinesBy.Beats) Lies(clock, 1e-6, beats);
        if (head == "tempo 140\n") clock.End.Value.ShouldBe(1 + 16 * 60 / 140.0, 1e-6);
    }

    /// <param name="beats">Of the record, in a bar.</param>
    private static void Lies(PassageClock clock, double tolerance, int beats = 4)
    {
        foreach (var (line, bar) in clock.Lines.Select((line, bar) => (line, bar)).Where(l => l.bar * beats <= 16))
            line.Value.ShouldBe(Clock(beats * bar), tolerance);
    }

    [Fact]
    public void Where_nobody_told_a_tempo_the_likeliest_one_says_which_beats_are_meant()
    {
        Heard().ClockOf(Written(), null, new(1000), null).ShouldBeNull();
        Lies((Heard() with { Likeliest = Bpm.Of(115) }).ClockOf(Written(), null, new(1000), null)!, 1e-6);
    }

    [Fact]
    public void A_clock_time_among_marked_bars_goes_on_as_they_go()
    {
        var map = TempoMap.Of(new BarGrid(MeterCycle.CommonTime),
            [.. Enumerable.Range(0, 6).Select(bar => new BarMark(bar + 1, new((int)Math.Round(Clock(bar * 4) * 1000))))], null)!;
        var clock = (RecordPace.Unknown with { Map = map }).ClockOf(Written(), null, new(1000), null)!;
        clock.By.ShouldBe(LinesBy.Marks);
        Lies(clock, 0.001);
    }

    [Fact]
    public void Bars_that_are_marked_one_by_one_lie_where_they_are_marked()
    {
        var map = TempoMap.Of(new BarGrid(MeterCycle.CommonTime),
            [.. Enumerable.Range(0, 5).Select(bar => new BarMark(bar + 1, new((int)Math.Round(Clock(bar * 4) * 1000))))], null)!;
        var strokes = Struck(Clock);
        var laid = (RecordPace.Unknown with { Map = map }).Laid(Stretch(120), strokes, Bars);
        Sixteenths(Transcript.Propose(strokes, laid)).ShouldBe(Played);
    }
}
