using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>Passages measured against strokes whose times are made up, so that the truth is known.</summary>
public class MeasuredPassages
{
    private static readonly Passage Groove = CountLines.Parse("tempo 100\nHH: 8ths | %x7\nSN: 2 4 | %x7\nBD: 1 3& | %x7").Passage;

    /// <summary>Played at a tempo, each stroke some milliseconds off at random, and by what its voice or the stroke itself is
    /// late.</summary>
    private static List<HeardStroke> Played(Passage passage, double bpm, Func<Stroke, double> late, double error = 0, int seed = 1)
    {
        var random = new Random(seed);
        double Off() => error * (random.NextDouble() + random.NextDouble() + random.NextDouble() - 1.5) * 2;
        return [.. passage.Strokes.Select(s => new HeardStroke(new(2 + s.At.Value * 60 / bpm / Tick.PerQuarter + (late(s) + Off()) / 1000),
            s.Voice.Family, s.Voice,
            s.Voice == Voice.Hat ? Openness.Closed : null, 0.95, 0.7, null) { Confidence = 0.9 }).OrderBy(h => h.At.Value)];
    }

    private static Measured Of(IReadOnlyList<HeardStroke> heard, double at = 2.01) =>
        Measured.Of(Groove, new Seconds(at), Bpm.Of(101.5)!.Value, heard, null);

    [Fact]
    public void A_late_snare_is_late_and_makes_nothing_else_early()
    {
        var measured = Of(Played(Groove, 100, s => s.Voice == Voice.Snare ? 15 : 0));
        measured.Timekeeper.ShouldBe(Voice.Hat);
        foreach (var (voice, late) in new[] { (Voice.Hat, 0.0), (Voice.Snare, 15), (Voice.Kick, 0) })
            measured.Voices.Single(v => v.Voice == voice).Mean.ShouldBe(late, 0.7);
        foreach (var bpm in measured.Bars) bpm.ShouldBe(100, 0.4);
        (measured.Missing.Count, measured.Extra.Count, measured.Odd.Count).ShouldBe((0, 0, 0));
    }

    [Fact]
    public void One_late_stroke_among_many_is_named_and_no_other()
    {
        var late = Groove.Strokes.Where(s => s.Voice == Voice.Kick).ElementAt(5);
        var odd = Of(Played(Groove, 100, s => s == late ? 34 : 0, error: 3)).Odd.ShouldHaveSingleItem();
        (odd.At, odd.Voice).ShouldBe((late.At, late.Voice));
        odd.Milliseconds.ShouldBe(34, 6);
        odd.Words(Groove, 9).ShouldStartWith("bar 11, kick on the & of 3: ");
    }

    [Fact]
    public void A_voice_that_is_scattered_as_a_whole_has_no_odd_stroke() =>
        Of(Played(Groove, 100, s => s.Voice == Voice.Kick ? s.At.Value / (4 * Tick.PerQuarter) % 2 == 0 ? 18 : -18 : 0)).Odd
            .ShouldBeEmpty();

    [Fact]
    public void What_is_missing_or_not_written_is_told_and_the_rest_still_aligns()
    {
        var heard = Played(Groove, 100, s => s.Voice == Voice.Kick ? -8 : 0);
        var gone = Groove.Strokes.First(s => s.Voice == Voice.Snare);
        heard.RemoveAll(h => h.Voice == Voice.Snare && h.At < new Seconds(3));
        heard.Add(new(new(2 + 2.25 * 0.6), Family.Tom, Voice.AnyTom, null, 0.97, 0.8, 0.5) { Confidence = 0.95 });
        var measured = Of([.. heard.OrderBy(h => h.At.Value)]);
        measured.Missing.ShouldHaveSingleItem().ShouldBe(gone);
        measured.Extra.ShouldHaveSingleItem().Family.ShouldBe(Family.Tom);
        measured.Voices.Single(v => v.Voice == Voice.Kick).Mean.ShouldBe(-8, 0.7);
    }

    [Fact]
    public void Bars_that_slow_down_all_the_way_are_followed()
    {
        // One per cent a bar, eight in the end; half of the hats are not heard.
        var lines = new double[9];
        for (var bar = 0; bar < lines.Length; bar++) lines[bar] = bar == 0 ? 2 : lines[bar - 1] + 2.4 * Math.Pow(1.01, bar - 1);
        var heard = Played(Groove, 100, _ => 0).Zip(Groove.Strokes.OrderBy(s => s.At).ThenBy(s => s.Voice)).Select(h => h.First with
        {
            At = new(InBars(lines, h.Second.At)),
            Family = h.Second.Voice.Family,
            Voice = h.Second.Voice,
        }).Where((h, i) => h.Voice != Voice.Hat || i % 4 < 2).ToList();
        var measured = Measured.Of(Groove, new(2.01), Bpm.Of(98)!.Value, heard, null);
        measured.Bars.Zip(lines.Zip(lines.Skip(1), (a, b) => 240 / (b - a))).ShouldAllBe(b => Math.Abs(b.First / b.Second - 1) < 0.004);
        measured.Strokes.Count.ShouldBe(heard.Count);

        static double InBars(double[] lines, Tick at)
        {
            var (bar, part) = ((int)(at.Value / (4 * Tick.PerQuarter)), at.Value % (4 * Tick.PerQuarter) / (4.0 * Tick.PerQuarter));
            return lines[bar] + part * (lines[bar + 1] - lines[bar]);
        }
    }

    [Fact]
    public void A_drum_that_sounds_with_another_every_time_is_no_extra_stroke_and_one_that_does_once_is()
    {
        var heard = Played(Groove, 100, _ => 0);
        HeardStroke Snare(HeardStroke with) => with with { Family = Family.Snare, Voice = Voice.Snare, Strength = 0.95, Confidence = 0.95 };
        var buzzing = heard.Concat(heard.Where(h => h.Voice == Voice.Kick).Select(Snare)).OrderBy(h => h.At.Value).ToList();
        Of(buzzing).Extra.ShouldBeEmpty();
        var once = heard.Append(Snare(heard.Where(h => h.Voice == Voice.Kick).ElementAt(3))).OrderBy(h => h.At.Value).ToList();
        Of(once).Extra.ShouldHaveSingleItem().Family.ShouldBe(Family.Snare);
    }

    [Fact]
    public void A_stroke_is_not_read_from_the_rise_of_another()
    {
        var heard = Played(Groove, 100, _ => 0);
        var (random, sound) = (new Random(3), new float[44_100 * 22]);
        void Hiss(double at, float loud)
        {
            for (var i = 0; i < 900; i++)
                sound[(int)(at * 44_100) + i] += loud * (float)((random.NextDouble() - 0.5) * Math.Exp(-i / 200.0));
        }
        var covered = heard.Where(h => h.Voice == Voice.Hat).ElementAt(9);
        foreach (var hat in heard.Where(h => h.Voice == Voice.Hat)) Hiss(hat.At + (hat == covered ? 0.021 : 0), hat == covered ? 1 : 0.3f);
        var measured = Measured.Of(Groove, new(2.01), Bpm.Of(101.5)!.Value, heard, new RiseTimes(sound, 44_100, Seconds.Zero, []));
        measured.Strokes.Where(s => s.Stroke.Voice == Voice.Hat).ShouldAllBe(s => Math.Abs(s.Offset) < 2);
        measured.Odd.ShouldBeEmpty();
    }

    [Theory]
    [InlineData(0)]
    [InlineData(0.012)]
    [InlineData(0.02)]
    public void A_snare_beside_a_kick_is_read_where_its_own_sound_begins(double after)
    {
        var (random, sound) = (new Random(5), new float[44_100]);
        void Strike(double at, float tone, double hertz, float hiss, double falls)
        {
            for (var i = 0; i < 9000; i++)
            {
                var t = i / 44_100.0;
                sound[(int)(at * 44_100) + i] += tone * (float)(Math.Sin(2 * Math.PI * hertz * t) * Math.Exp(-8 * t))
                    + hiss * (float)((random.NextDouble() - 0.5) * Math.Exp(-t * falls));
            }
        }
        Strike(0.5, 0.5f, 60, 0.4f, 500);
        Strike(0.5 + after, 0.3f, 190, 0.5f, 25);
        // The ear takes both for one moment.
        HeardStroke Heard(Voice voice) => new(new(0.502), voice.Family, voice, null, 0.9, 0.8, null) { Confidence = 0.9 };
        var read = new RiseTimes(sound, 44_100, Seconds.Zero, []).Of(Heard(Voice.Snare), [Heard(Voice.Kick), Heard(Voice.Snare)]).At;
        read.Value.ShouldBe(0.5 + after, 0.003);
    }

    [Fact]
    public void The_interval_of_a_voice_holds_the_truth_as_often_as_it_says()
    {
        var (held, all) = (0, 0);
        for (var seed = 0; seed < 200; seed++)
        {
            var measured = Of(Played(Groove, 100, s => s.Voice == Voice.Snare ? 12 : 0, error: 5, seed));
            var gap = MicroTiming.Of(Groove, [.. measured.Strokes.Select(s => s.AsOffset)])!.Gaps.Single(g => g.Voice == Voice.Snare);
            (held, all) = (held + (gap.Low <= 12 && 12 <= gap.High ? 1 : 0), all + 1);
        }
        (held / (double)all).ShouldBeInRange(0.9, 0.99);
    }

    [Fact]
    public void Swing_is_measured_between_a_voice_s_own_strokes()
    {
        // Nothing in the text says that it swings: by 60 ms of 600, and as a triplet.
        foreach (var late in (double[])[60, 100])
        {
            var measured = Of(Played(Groove, 100, s => s.At.Value % Tick.PerQuarter == 0 ? s.Voice == Voice.Snare ? 10 : 0 : late));
            measured.Swung!.Ratio.ShouldBe((300 + late) / (300 - late), 0.05);
            // What swings is on time by the swing that was found.
            measured.Voices.Single(v => v.Voice == Voice.Hat).Interval!.Value.ShouldSatisfyAllConditions(i => i.Low.ShouldBe(0, 1),
                i => i.High.ShouldBe(0, 1));
            measured.Voices.Single(v => v.Voice == Voice.Snare).Mean.ShouldBe(10, 1);
        }
    }

    /// <summary>Nothing else says where the off-beats are.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(100)]
    public void A_hat_that_the_ear_takes_for_a_bell_throughout_keeps_the_time_all_the_same(double late)
    {
        var plain = CountLines.Parse("tempo 100\nHH: 8ths | %x7\nSN: 2 4 | %x7\nBD: 1 3 | %x7").Passage;
        var heard = Played(plain, 100, s => s.At.Value % Tick.PerQuarter == 0 ? 0 : late)
            .Select(h => h.Voice == Voice.Hat ? h with { Family = Family.Bell, Voice = Voice.RideBell, Openness = null } : h).ToList();
        var measured = Measured.Of(plain, new Seconds(2.01), Bpm.Of(101.5)!.Value, heard, null);
        (measured.Timekeeper, measured.Missing.Count, measured.Extra.Count).ShouldBe((Voice.Hat, 0, 0));
        measured.Swung!.Ratio.ShouldBe((300 + late) / (300 - late), 0.05);
        foreach (var bpm in measured.Bars) bpm.ShouldBe(100, 0.4);
    }

    [Fact]
    public void Recordings_of_one_title_are_one_way_to_play_it()
    {
        var readings = new[] { (1, "a", 10.0), (2, "a", 14), (3, "b", 6),
            (4, "c", 9) }.Select(r => new MeasuredReading(r.Item1, $"take {r.Item1}", r.Item2, 7, 1970, 100, r.Item1,
            Groove, [.. Groove.Strokes.Select(s => new StrokeOffset(s.At, s.Voice, s.Voice == Voice.Snare ? r.Item3 : 0))]));
        var snare = Lateness.Of(RecordedGap.Of(readings)).Single(f => f.Voice == Voice.Snare);
        // Of the titles' means 12, 6 and 9: mean 9, deviation 3, Student's t of two degrees of freedom 4.303.
        snare.Mean.ShouldBe(9, 1e-9);
        snare.Interval!.Value.Low.ShouldBe(9 - 4.303 * 3 / Math.Sqrt(3), 0.01);
        snare.ToString().ShouldBe("the snare is 9 ms (2 to 16) behind the hat on 4 of 4 recordings");
    }
}
