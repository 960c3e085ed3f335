using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;

namespace InnerCadence.Core.Tests.Playing;

/// <summary>What can be measured of what is heard.</summary>
public class HearingIt
{
    public static TheoryData<string> Voices => [.. Voice.All.Select(v => v.Code)];

    [Theory, MemberData(nameof(Voices))]
    public void Every_voice_sounds_and_a_ghost_is_softer_than_an_accent(string code)
    {
        var (ghost, plain, accent) = (Level(code, Dynamic.Ghost), Level(code, Dynamic.Normal), Level(code, Dynamic.Accent));
        ghost.ShouldBeGreaterThan(0.005);
        plain.ShouldBeGreaterThan(ghost * 1.8);
        accent.ShouldBeGreaterThan(plain * 1.2);
        Samples(code, Dynamic.Accent).ShouldAllBe(s => Math.Abs(s) <= 1);
        Math.Abs(Samples(code, Dynamic.Accent)[^1]).ShouldBeLessThan(0.002f, "it ends without a click");
    }

    [Fact]
    public void Drums_are_low_and_cymbals_high()
    {
        var kick = Crossings("BD");
        Crossings("F2").ShouldBeLessThan(Crossings("T1"));
        kick.ShouldBeLessThan(Crossings("SN"));
        Crossings("SN").ShouldBeLessThan(Crossings("HH"));
        Crossings("T4").ShouldBeLessThan(Crossings("XS"));
    }

    [Fact]
    public void An_open_hat_rings_longer_than_a_loose_one_and_that_longer_than_a_closed_one()
    {
        double Ring(Touch touch) => RingOf(Synth.Render(new(Voice.Hat, Dynamic.Normal, touch, 0)));
        Ring(Touch.Open).ShouldBeGreaterThan(Ring(Touch.Loose) * 1.5);
        Ring(Touch.Loose).ShouldBeGreaterThan(Ring(Touch.Plain) * 2);
        RingOf(Synth.Render(new(Voice.HatFoot, Dynamic.Normal, Touch.Splash, 0)))
            .ShouldBeGreaterThan(RingOf(Synth.Render(new(Voice.HatFoot, Dynamic.Normal, Touch.Foot, 0))) * 3);
    }

    [Fact]
    public void The_same_sound_is_always_the_same_and_two_takes_differ()
    {
        var key = new SoundKey(Voice.Snare, Dynamic.Normal, Touch.Plain, 0);
        Synth.Render(key).ShouldBe(Synth.Render(key));
        Synth.Render(key with { Take = 1 }).ShouldNotBe(Synth.Render(key));
        Synth.Render(key with { Touch = Touch.Rimshot }).ShouldNotBe(Synth.Render(key));
    }

    [Fact]
    public void A_sound_is_found_by_its_name_again()
    {
        foreach (var voice in Voice.All.Append(Voice.Own(3, "", Family.Bell, false)))
        {
            var key = new SoundKey(voice, Dynamic.Accent, Touch.Plain, 2);
            SoundKey.Parse(key.ToString()).ShouldBe(key);
        }
        foreach (var bad in (string[])["", "SN", "SN-loud-plain-0", "ZZ-normal-plain-0", "SN-normal-plain-9", "P1.gong-normal-plain-0",
            "../SN-normal-plain-0"])
            SoundKey.Parse(bad).ShouldBeNull();
    }

    [Fact]
    public void Notes_fall_where_the_tempo_puts_them()
    {
        var notes = Play("tempo 120\nSN: 2 4 | 2").Notes;
        notes.Select(n => n.At.Value).ShouldBe([0.5, 1.5, 2.5]);
        Rendition.Of(CountLines.Parse("SN: 2").Passage, Bpm.Of(60)).Notes.Single().At.Value.ShouldBe(1);
        Play("SN: 2").Notes.Single().At.ShouldBe(Bpm.Usual.SecondsPerQuarter);
        Play("tempo 120\nSN: 2 | 2").Length.Value.ShouldBe(4);
    }

    [Theory]
    [InlineData("feel swing 66%", 0.66)]
    [InlineData("feel swing", 2.0 / 3)]
    [InlineData("feel swing 55%", 0.55)]
    [InlineData("feel straight", 0.5)]
    public void Swing_moves_the_off_beat(string feel, double share) =>
        Play($"tempo 60\n{feel}\nHH: 1 &").Notes[1].At.Value.ShouldBe(share, 1e-4);

    [Fact]
    public void Swing_leaves_triplets_and_sixteenths_where_they_are() =>
        Play("tempo 60\nfeel swing 60%\nHH: 1 t l 2 e a").Notes.Select(n => Math.Round(n.At, 4))
            .ShouldBe([0, 0.3333, 0.6667, 1, 1.25, 1.75]);

    [Fact]
    public void A_flam_has_one_grace_a_drag_two_and_a_buzz_many()
    {
        Play("SN: 2f").Notes.Count.ShouldBe(2);
        Play("SN: 2d").Notes.Count.ShouldBe(3);
        Play("SN: 2z").Notes.Count.ShouldBeGreaterThan(5);
        var flam = Play("tempo 60\nSN: 2f").Notes;
        flam[0].At.Value.ShouldBeLessThan(1);
        flam[0].Sound.Dynamic.ShouldBe(Dynamic.Ghost);
        flam[1].At.Value.ShouldBe(1);
    }

    [Fact]
    public void A_buzz_lasts_as_long_as_it_is_written() => Play("tempo 60\nSN: 1z_3").Notes[^1].At.Value.ShouldBeInRange(1.9, 2.0);

    [Fact]
    public void An_open_hat_is_cut_off_by_the_next_stroke_of_hand_or_foot_and_a_choke_soon()
    {
        (Play("tempo 60\nHH: 1o 3\nHF: 2").Notes[0].Until?.Value).ShouldBe(1);
        Play("tempo 60\nHH: 1o").Notes[0].Until.ShouldBeNull();
        (Play("tempo 60\nHH: 1o_2&").Notes[0].Until?.Value).ShouldBe(1.5);
        Play("tempo 60\nCR: 1c").Notes[0].Until!.Value.Value.ShouldBeInRange(0.05, 0.2);
    }

    [Theory]
    [InlineData("meter 4/4", 4)]
    [InlineData("meter 6/8", 2)]
    [InlineData("meter 7/8(2+2+3)", 3)]
    [InlineData("feel half-time", 2)]
    [InlineData("feel double-time", 8)]
    public void The_click_goes_by_the_pulse_and_the_feel(string head, int beats)
    {
        var performance = Play($"{head}\nSN: 1");
        performance.Beats.Count.ShouldBe(beats);
        performance.Beats.Count(b => b.First).ShouldBe(1);
    }

    [Fact]
    public void A_passage_comes_out_as_stereo_sound_with_its_strokes_in_time()
    {
        var mix = Mixdown.Render(Play("tempo 60\nBD: 1 3"), Synth.Render, lead: 0.1);
        Loud(mix, 0.1).ShouldBeGreaterThan(0.05);
        Loud(mix, 1.4).ShouldBeLessThan(0.01);
        Loud(mix, 2.1).ShouldBeGreaterThan(0.05);
        mix.Max(Math.Abs).ShouldBeLessThanOrEqualTo(1);

        static double Loud(float[] mix, double at) => mix.Skip((int)(at * Synth.Rate) * 2).Take(Synth.Rate / 10).Max(Math.Abs);
    }

    [Fact]
    public void A_wav_file_says_what_it_holds()
    {
        var file = Wav.Write([0f, 0.5f, -1f, 2f], 2);
        System.Text.Encoding.ASCII.GetString(file, 0, 4).ShouldBe("RIFF");
        BitConverter.ToInt32(file, 4).ShouldBe(file.Length - 8);
        BitConverter.ToInt16(file, 22).ShouldBe((short)2);
        BitConverter.ToInt32(file, 24).ShouldBe(44100);
        BitConverter.ToInt16(file, 46).ShouldBe((short)16384);
        BitConverter.ToInt16(file, 50).ShouldBe(short.MaxValue, "what is too loud is cut off");
    }

    private static Rendition Play(string text) => Rendition.Of(CountLines.Parse(text).Passage);

    private static float[] Samples(string code, Dynamic dynamic)
    {
        var voice = Voice.Find(code)!;
        return Synth.Render(new(voice, dynamic, voice == Voice.HatFoot ? Touch.Foot : Touch.Plain, 0));
    }

    private static double Level(string code, Dynamic dynamic) => Math.Sqrt(Samples(code, dynamic).Take(4410).Average(s => s * s));

    private static int Crossings(string code)
    {
        var samples = Samples(code, Dynamic.Normal).Take(1100).ToArray();
        return samples.Zip(samples.Skip(1)).Count(pair => pair.First < 0 != pair.Second < 0);
    }

    private static double RingOf(float[] samples)
    {
        var floor = samples.Max(Math.Abs) * 0.03f;
        return Array.FindLastIndex(samples, s => Math.Abs(s) > floor) / (double)Synth.Rate;
    }

    [Theory]
    [InlineData(true, 4.0)]
    [InlineData(false, null)]
    public void An_open_hat_at_the_end_is_closed_by_the_start_only_where_the_passage_repeats(bool looped, double? until)
    {
        var passage = CountLines.Parse("tempo 60\nHH: 1 4&o\n").Passage with { Looped = looped };
        (Rendition.Of(passage).Notes[^1].Until?.Value).ShouldBe(until);
    }

    [Fact]
    public void A_click_of_another_pulse_runs_over_the_bar_lines_and_marks_where_it_meets_them()
    {
        var beats = Rendition.Of(CountLines.Parse("tempo 60\nSN: 1 | 1 | 1\n").Passage, click: new Tick(3 * Tick.PerQuarter)).Beats;
        beats.Select(b => b.At.Value).ShouldBe([0, 3, 6, 9]);
        beats.Select(b => b.First).ShouldBe([true, false, false, false]);
    }
}
