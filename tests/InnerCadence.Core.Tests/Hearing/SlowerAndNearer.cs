using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>A record in a loop: slower with its pitch, its drums forward, and what is written in time with it.</summary>
public class SlowerAndNearer
{
    private const int Rate = 44100;

    private static float[] Strokes(params double[] at)
    {
        var random = new Random(3);
        var sound = new float[4 * Rate];
        foreach (var second in at)
            for (var i = 0; i < 2000; i++) sound[(int)(second * Rate) + i] += (float)((random.NextDouble() * 2 - 1) * Math.Exp(-i / 300.0));
        return sound;
    }

    private static float[] Tone(double hz, double seconds = 2) =>
        [.. Enumerable.Range(0, (int)(seconds * Rate)).Select(i => (float)(0.5 * Math.Sin(2 * Math.PI * hz * i / Rate)))];

    private static double Loudness(IEnumerable<float> sound) => Math.Sqrt(sound.Average(s => (double)s * s));

    private static List<double> Rises(float[] sound)
    {
        var found = new List<double>();
        for (var i = 0; i < sound.Length; i++)
            if (Math.Abs(sound[i]) > 0.25 && (found.Count == 0 || i - found[^1] * Rate > 0.2 * Rate)) found.Add((double)i / Rate);
        return found;
    }

    [Theory, InlineData(0.25), InlineData(0.5), InlineData(0.7), InlineData(0.95), InlineData(1), InlineData(1.5)]
    public void A_stretched_loop_has_its_length_to_the_sample_and_its_strokes_in_their_places(double speed)
    {
        double[] at = [0.25, 0.75, 1.25, 1.75, 2.25, 2.75, 3.25];
        var slow = TimeStretch.Of([Strokes(at), Strokes(at)], Rate, speed);
        slow.ShouldAllBe(channel => channel.Length == (int)Math.Round(4 * Rate / speed));
        var rises = Rises(slow[0]);
        rises.Count.ShouldBe(at.Length);
        foreach (var (rise, stroke) in rises.Zip(at)) (rise * speed).ShouldBe(stroke, 0.025);
    }

    [Theory, InlineData(0.25), InlineData(0.6)]
    public void The_pitch_stays_and_so_does_the_loudness(double speed)
    {
        var slow = TimeStretch.Of([Tone(440)], Rate, speed)[0];
        var crossings = slow.Zip(slow.Skip(1)).Count(p => p.First < 0 && p.Second >= 0);
        (crossings / ((double)slow.Length / Rate)).ShouldBe(440, 5);
        Loudness(slow.Skip(Rate / 4).SkipLast(Rate / 4)).ShouldBe(Loudness(Tone(440)), 0.03);
    }

    [Fact]
    public void An_empty_or_tiny_sound_is_stretched_too()
    {
        TimeStretch.Of([[]], Rate, 0.5)[0].ShouldBeEmpty();
        TimeStretch.Of([[0.5f, 0.5f]], Rate, 0.5)[0].Length.ShouldBe(4);
        Should.Throw<ArgumentOutOfRangeException>(() => TimeStretch.Of([[0.5f]], Rate, 0));
    }

    [Fact]
    public void The_drums_come_forward_from_a_tone_that_rings()
    {
        var (strokes, tone) = (Strokes(0.5, 1, 1.5, 2, 2.5), Tone(330, 4));
        var mixed = strokes.Zip(tone, (a, b) => a + b).ToArray();
        var drums = SoundParts.Of([mixed], Rate, SoundPart.Drums)[0];
        drums.Length.ShouldBe(mixed.Length);
        // Where only the tone sounds little is left of it; of a stroke most is.
        Loudness(drums[(int)(0.8 * Rate)..(int)(0.95 * Rate)]).ShouldBeLessThan(0.15 * Loudness(tone));
        Loudness(drums[(Rate / 2)..(Rate / 2 + 1000)]).ShouldBeGreaterThan(0.6 * Loudness(strokes[(Rate / 2)..(Rate / 2 + 1000)]));
    }

    [Fact]
    public void Low_middle_and_high_together_are_the_whole_and_each_has_its_own()
    {
        var (bass, whole) = (Tone(80), Tone(80).Zip(Tone(8000), (a, b) => a + b).ToArray());
        float[] Part(SoundPart part) => SoundParts.Of([whole], Rate, part)[0];
        Loudness(Part(SoundPart.Low).Skip(Rate / 4)).ShouldBe(Loudness(bass), 0.02);
        Loudness(Part(SoundPart.Middle).Skip(Rate / 4).SkipLast(Rate / 4)).ShouldBeLessThan(0.01);
        var sum = Part(SoundPart.Low).Zip(Part(SoundPart.Middle), (a, b) => a + b).Zip(Part(SoundPart.High), (a, b) => a + b).ToArray();
        for (var i = 0; i < whole.Length; i += 97)
            sum[i].ShouldBe(whole[i], 0.002f);
    }

    [Fact]
    public void Sides_are_told_apart()
    {
        float[][] stereo = [[1, 0, 0.5f], [0, 1, 0.5f]];
        SoundParts.Of(stereo, Rate, SoundPart.Left).ShouldBe([[1, 0, 0.5f]]);
        SoundParts.Of(stereo, Rate, SoundPart.Right).ShouldBe([[0, 1, 0.5f]]);
        SoundParts.Of(stereo, Rate, SoundPart.Mid).ShouldBe([[0.5f, 0.5f, 0.5f]]);
        SoundParts.Of(stereo, Rate, SoundPart.Side).ShouldBe([[0.5f, -0.5f, 0]]);
        SoundParts.Of([[1f, 2]], Rate, SoundPart.Side).ShouldBe([[0f, 0]], "one channel has no side");
    }

    private static Passage Read(string text) => CountLines.Parse(text).Passage;
    private static TempoMap Map(params (int Bar, int Ms)[] marks) =>
        TempoMap.Of(new BarGrid(MeterCycle.CommonTime), marks.Select(m => new BarMark(m.Bar, new(m.Ms))), null)!;

    [Fact]
    public void Bar_lines_come_from_the_marks_round_a_passage()
    {
        var clock = PassageClock.Of(Map((1, 0), (3, 4000), (4, 7000)), Read("SN: 2 4 | 2 4"), 2, null, null)!;
        clock.Lines.Select(l => l.Value).ShouldBe([2, 4, 7]);
        (clock.By, clock.IsDoubtful).ShouldBe((LinesBy.Marks, false));
    }

    [Fact]
    public void A_start_that_was_heard_elsewhere_moves_them_and_is_told()
    {
        var map = Map((1, 0), (3, 4000));
        var near = PassageClock.Of(map, Read("SN: 2 4"), 2, new(2020), null)!;
        (near.Start.Value, near.IsDoubtful).ShouldBe((2, false));
        var off = PassageClock.Of(map, Read("SN: 2 4"), 2, new(2050), null)!;
        (off.Start.Value, off.End.Value, off.IsDoubtful).ShouldBe((2.05, 4.05, true));
        off.Off.Milliseconds.ShouldBe(50, 1e-6);
    }

    [Fact]
    public void Without_bars_the_start_and_a_tempo_say_it_and_without_either_nothing_does()
    {
        var clock = PassageClock.Of(null, Read("tempo 120\nSN: 2 4 | 2"), null, new(10_000), Bpm.Of(60))!;
        clock.Lines.Select(l => l.Value).ShouldBe([10, 12, 14]);
        PassageClock.Of(null, Read("SN: 2 4"), null, new(10_000), Bpm.Of(60))!.End.Value.ShouldBe(14);
        PassageClock.Of(null, Read("SN: 2 4"), null, new(10_000), null).ShouldBeNull();
        PassageClock.Of(null, Read("SN: 2 4"), 3, null, Bpm.Of(60)).ShouldBeNull();
        PassageClock.Of(null, Read(""), 3, new(0), Bpm.Of(60)).ShouldBeNull("there is no bar yet");
    }

    [Fact]
    public void Along_a_record_each_bar_lasts_as_long_as_there_and_bars_beyond_as_the_last()
    {
        var played = Rendition.Of(Read("tempo 120\nBD: 1 3 | 1 3 | 1"), lines: [new(0), new(2), new(5)]);
        played.Notes.Select(n => Math.Round(n.At, 6)).ShouldBe([0, 1, 2, 3.5, 5]);
        played.Length.Value.ShouldBe(8, 1e-9);
        played.Line.Select(l => l.At.Value).ShouldBe([0, 2, 5, 8]);
        played.Beats.Count.ShouldBe(12);
    }

    [Fact]
    public void A_grace_note_before_the_first_bar_line_keeps_its_distance()
    {
        var played = Rendition.Of(Read("tempo 120\nSN: 1f"), lines: [new(0), new(4)]);
        played.Notes[0].At.Value.ShouldBe(-0.03, 1e-9);
    }

    [Fact]
    public void Within_a_bar_a_change_of_tempo_shares_its_time_out()
    {
        var played = Rendition.Of(Read("tempo 120 @1.3 60\nBD: 1 3"), lines: [new(0), new(6)]);
        // Two beats of 0.5 s and two of 1 s: a third and two thirds of the bar.
        played.Notes.Select(n => Math.Round(n.At, 6)).ShouldBe([0, 2]);
    }
}
