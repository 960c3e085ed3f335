using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>From strengths of beats and bar lines to bars; the strengths are made up, so no model is asked.</summary>
public class BarsOfBeats
{
    private const int Beats = 48;

    /// <summary>A beat every half second from 0.5 s.</summary>
    /// <param name="line">How strong a bar line is on each beat, 0 to 1.</param>
    /// <param name="strong">How strong each beat is.</param>
    private static Activations Heard(Func<int, double> line, Func<int, double>? strong = null)
    {
        var pulse = new byte[2 * (Beats + 2) * 25];
        for (var beat = 0; beat < Beats; beat++)
            for (var step = -1; step <= 1; step++)
            {
                var at = 2 * ((beat + 1) * 25 + step);
                var height = step == 0 ? 1 : 0.4;
                (pulse[at], pulse[at + 1]) = ((byte)(250 * height * (strong?.Invoke(beat) ?? 1)), (byte)(255 * height * line(beat)));
            }
        return new([], pulse);
    }

    /// <summary>How many beats the bars have between their lines.</summary>
    private static int[] Lengths(Func<int, double> line, string? meters = null, double? between = null)
    {
        HeardStroke[] strokes = between is not { } place ? [] : [.. Enumerable.Range(0, Beats).Select(beat => new HeardStroke(
            new(0.5 + (beat + place) * 0.5), Family.Hat, Voice.Hat, null, 0.9, 0.5, null))];
        var heard = HeardBeats.Of(Heard(line), strokes, meters is null ? null : new([.. meters.Split(' ').Select(m => Meter.Parse(m)!)]));
        heard.Beats.Count.ShouldBe(Beats);
        int[] lines = [.. heard.Beats.Select((b, i) => (b.Bar, i)).Where(b => b.Bar).Select(b => b.i)];
        return [.. lines.Zip(lines.Skip(1), (a, b) => b - a)];
    }

    private static Func<int, double> Every(int beats, double on, double off = 0.03) => beat => beat % beats == 0 ? on : off;

    [Theory]
    [InlineData(3), InlineData(4), InlineData(5), InlineData(7)]
    public void Bars_are_as_long_as_their_lines_lie_apart(int beats) => Lengths(Every(beats, 0.8)).ShouldAllBe(n => n == beats);

    [Fact]
    public void Where_lines_say_nothing_else_a_sound_begins_with_a_bar()
    {
        static int First(Func<int, double> line) => HeardBeats.Of(Heard(line), []).Beats.Index().First(b => b.Item.Bar).Index;
        First(beat => beat % 2 == 0 ? 0.5 : 0.03).ShouldBe(0);
        First(beat => beat % 4 == 2 ? 0.55 : beat % 2 == 0 ? 0.5 : 0.03).ShouldBe(2, "what is heard weighs more");
    }

    /// <summary>Even beats over bars of seven eighths: every other line lies between two of them.</summary>
    [Theory]
    [InlineData(0.8, 0), InlineData(0.4, 0), InlineData(0.8, 3), InlineData(0.1, 0, false)]
    public void A_line_in_the_middle_of_seven_beats_makes_two_bars_of_seven_eighths(double middle, int upbeat, bool uneven = true)
    {
        var heard = Heard(beat => beat % 7 == upbeat ? 0.8 : 0.03);
        var pulse = heard.Pulse.ToArray();
        for (var beat = upbeat + 3; beat < Beats - 1; beat += 7) pulse[2 * ((beat + 1) * 25 + 12) + 1] = (byte)(255 * middle);
        var beats = HeardBeats.Of(new([], pulse), []).Beats;
        double[] lines = [.. beats.Where(b => b.Bar).Select(b => b.At.Value)];
        lines.Zip(lines.Skip(1), (a, b) => b - a).ShouldAllBe(bar => Math.Abs(bar - (uneven ? 1.75 : 3.5)) < 0.03);
        lines[0].ShouldBe(0.5 * (upbeat + 1), 0.03);
        lines.Length.ShouldBeInRange(uneven ? 12 : 6, uneven ? 14 : 7);
        if (!uneven) return;
        double[] bar = [.. beats.SkipWhile(b => !b.Bar).Skip(3).Take(4).Select(b => b.At.Value - lines[1])];
        bar.Zip([0, 0.5, 1.0, 1.75]).ShouldAllBe(b => Math.Abs(b.First - b.Second) < 0.03);
    }

    [Fact]
    public void Of_lines_that_say_little_seven_eighths_make_sevens()
    {
        double Unclear(int beat) => beat % 7 == 0 ? 0.40 : beat % 4 == 0 ? 0.42 : 0.30;
        Lengths(Unclear, "7/8").ShouldAllBe(n => n == 7);
        Lengths(Unclear).ShouldAllBe(n => n == 4);
    }

    [Fact]
    public void Lines_that_are_as_likely_at_half_a_bar_are_bars_of_the_meter_that_the_recording_has()
    {
        var halves = Every(2, 0.95);
        Lengths(halves).ShouldAllBe(n => n == 2);
        Lengths(halves, "4/4").ShouldAllBe(n => n == 4);
        Lengths(halves, "6/8").ShouldAllBe(n => n == 2);
        Lengths(halves, "2/2").ShouldAllBe(n => n == 4, "halves are heard as two quarters each");
    }

    [Fact]
    public void Bars_of_two_are_likelier_where_beats_go_in_threes()
    {
        // A little more on every fourth beat than on those between: in twos it is a bar of four, in threes two bars of 6/8.
        double Line(int beat) => beat % 4 == 0 ? 0.75 : beat % 4 == 2 ? 0.6 : 0.03;
        Lengths(Line, between: 1.0 / 2).ShouldAllBe(n => n == 4);
        Lengths(Line, between: 1.0 / 3).ShouldAllBe(n => n == 2);
        Lengths(Line, "4/4", 1.0 / 3).ShouldAllBe(n => n == 4);
    }

    [Fact]
    public void Lines_in_pairs_of_bars_are_still_bars_of_the_recordings_meter() =>
        Lengths(Every(4, 0.8), "6/8").ShouldAllBe(n => n == 2);

    [Fact]
    public void A_meter_that_somebody_chose_stands_against_lines_that_say_little()
    {
        double Unclear(int beat) => beat % 3 == 0 ? 0.30 : beat % 4 == 0 ? 0.34 : 0.25;
        Lengths(Unclear, "3/4").ShouldAllBe(n => n == 3);
        Lengths(Every(3, 0.9), "4/4").ShouldAllBe(n => n == 3, "4/4 is what a recording has that nobody chose a meter for");
    }

    [Fact]
    public void Meters_that_take_turns_are_heard_in_turn()
    {
        double Line(int beat) => beat % 7 is 0 or 4 ? 0.7 : 0.1;
        Lengths(Line, "4/4 3/4").ShouldBe([.. Enumerable.Range(0, 13).Select(i => i % 2 == 0 ? 4 : 3)]);
    }

    [Theory]
    [InlineData("4/4", 60, 60), InlineData("4/4", 122, 120), InlineData("12/8", 90, 60)]
    public void The_tempo_that_is_known_is_beaten(string meter, double known, double told)
    {
        // Every other beat is stronger, so that half the tempo is nearly as good.
        var heard = HeardBeats.Of(Heard(Every(4, 0.8), Every(2, 0.95, 0.6)), [], new([Meter.Parse(meter)!]), Bpm.Of(known));
        heard.Tempos[0].Bpm.ShouldBe(told, 0.6);
    }

    [Fact]
    public void Uneven_pulses_say_nothing_of_how_many_beats_are_heard() =>
        Lengths(Every(3, 0.8), "7/8(2+2+3)").ShouldBe(Lengths(Every(3, 0.8)));
}
