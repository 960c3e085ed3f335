using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>From strokes that were heard to a proposal, and what is written against them; the strokes are made up, so no model is
/// asked.</summary>
public class WhatTheEarHas
{
    private static readonly Bpm Tempo = Bpm.Of(100)!.Value;

    private static HeardStroke Struck(double quarter, Voice voice, Dynamic dynamic = Dynamic.Normal, double? pitch = null,
        double strength = 0.95, double later = 0) =>
        new(new(1 + quarter * 0.6 + later), voice.Family, voice, voice == Voice.Hat ? Openness.Closed : null, strength,
            dynamic == Dynamic.Ghost ? 0.2 : 0.8, pitch)
        { Dynamic = dynamic, Confidence = strength };

    private static Passage Proposed(IEnumerable<HeardStroke> heard, Passage? written = null, int bars = 1) =>
        Transcript.Propose([.. heard.OrderBy(h => h.At.Value)], LaidBars.AtEvenPace(new(1), Tempo, MeterCycle.CommonTime, bars),
            written);

    private static Passage Read(string text) => CountLines.Parse(text).Passage;

    [Fact]
    public void Triplets_and_sixteenths_lie_where_all_drums_together_say()
    {
        var proposed = Proposed([
            Struck(0, Voice.Kick), Struck(0, Voice.Hat), Struck(1.0 / 3, Voice.Snare, Dynamic.Ghost), Struck(2.0 / 3, Voice.Hat),
            Struck(1, Voice.Snare), Struck(1, Voice.Hat), Struck(1.25, Voice.Kick), Struck(1.5, Voice.Hat)]);
        proposed.Strokes.Where(s => s.Voice == Voice.Snare).Select(s => (s.At.Value * 12 / Tick.PerQuarter, s.Dynamic))
            .ShouldBe([(4, Dynamic.Ghost), (12, Dynamic.Normal)]);
        proposed.Strokes.Where(s => s.Voice == Voice.Kick).Select(s => s.At.Value * 12 / Tick.PerQuarter).ShouldBe([0, 15]);
    }

    [Fact]
    public void A_flam_is_one_stroke_and_toms_come_in_the_order_of_their_pitches()
    {
        var proposed = Proposed([
            Struck(0, Voice.Snare, Dynamic.Ghost, later: -0.03), Struck(0, Voice.Snare),
            Struck(1, Voice.AnyTom, pitch: 0.8), Struck(1.5, Voice.AnyTom, pitch: 0.78), Struck(2, Voice.AnyTom, pitch: 0.5),
                Struck(3, Voice.AnyTom, pitch: 0.2)]);
        proposed.Strokes.Where(s => s.Voice == Voice.Snare).Single().Ornaments.ShouldBe(Ornaments.Flam);
        proposed.Strokes.Where(s => s.Voice.Family == Family.Tom).Select(s => s.Voice)
            .ShouldBe([Voice.Tom1, Voice.Tom1, Voice.Tom2, Voice.FloorTom]);
        Proposed([Struck(1, Voice.AnyTom, pitch: 0.8)]).Strokes.Single().Voice.ShouldBe(Voice.AnyTom);
    }

    private static IEnumerable<HeardStroke> Swung(double share, int bars) => Enumerable.Range(0, bars * 4).SelectMany(beat =>
        (HeardStroke[])[Struck(beat, Voice.Hat), Struck(beat + share, Voice.Hat), Struck(beat, beat % 2 == 0 ? Voice.Kick : Voice.Snare)]);

    /// <summary>The third of five bars: those around it tell too how it goes.</summary>
    private static void IsWritten(IEnumerable<HeardStroke> heard, string text, string feel)
    {
        var proposed = Transcript.Propose([.. heard.OrderBy(h => h.At.Value)],
            LaidBars.AtEvenPace(new(1 + 2 * 4 * 0.6), Tempo, MeterCycle.CommonTime, 1));
        proposed.Strokes.Select(s => (s.At, s.Voice)).ShouldBe(Read(text).Strokes.Select(s => (s.At, s.Voice)));
        proposed.Feel.ToString().ShouldBe(feel);
    }

    [Theory]
    [InlineData(0.5, "HH: 8ths\nSN: 2 4\nBD: 1 3", "straight")]
    [InlineData(0.53, "HH: 8ths\nSN: 2 4\nBD: 1 3", "straight")]
    [InlineData(0.58, "HH: 8ths\nSN: 2 4\nBD: 1 3", "swing 58%")]
    [InlineData(0.63, "HH: 1 l 2 l 3 l 4 l\nSN: 2 4\nBD: 1 3", "straight")]
    [InlineData(0.7, "HH: 1 l 2 l 3 l 4 l\nSN: 2 4\nBD: 1 3", "straight")]
    [InlineData(0.75, "HH: 1 a 2 a 3 a 4 a\nSN: 2 4\nBD: 1 3", "straight")]
    public void Off_beats_that_are_all_as_late_swing_a_little_or_are_lets(double share, string text, string feel) =>
        IsWritten(Swung(share, 5), text, feel);

    /// <summary>Sixteenths on the hat, those off the eighths at a share of the eighth.</summary>
    private static IEnumerable<HeardStroke> Shuffled(double share, int bars) => Enumerable.Range(0, bars * 4).SelectMany(beat =>
        (HeardStroke[])[.. ((double[])[0, share / 2, 0.5, 0.5 + share / 2]).Select(at => Struck(beat + at, Voice.Hat)),
            Struck(beat, beat % 2 == 0 ? Voice.Kick : Voice.Snare)]);

    [Theory]
    [InlineData(0.5, "HH: 16ths\nSN: 2 4\nBD: 1 3", "straight")]
    [InlineData(0.53, "HH: 16ths\nSN: 2 4\nBD: 1 3", "straight")]
    [InlineData(0.58, "HH: 16ths\nSN: 2 4\nBD: 1 3", "swing 16ths 58%")]
    [InlineData(0.62, "HH: 16ths\nSN: 2 4\nBD: 1 3", "swing 16ths 62%")]
    [InlineData(0.66, "HH: 16ths\nSN: 2 4\nBD: 1 3", "swing 16ths 66%")]
    public void Sixteenths_that_are_all_as_late_swing(double share, string text, string feel) =>
        IsWritten(Shuffled(share, 5), text, feel);

    [Fact]
    public void Sextuplets_stay_lets_and_sixteenths_a_hair_late_stay_straight()
    {
        var sextuplets = Enumerable.Range(0, 48).Select(sixth => Struck(sixth / 6.0, Voice.Snare)).ToList();
        Proposed(sextuplets, bars: 2).Strokes.Select(s => s.At.Value * 6 / Tick.PerQuarter).ShouldBe(Enumerable.Range(0, 48));
        // Of an eighth of 150 ms that is 8 ms.
        var fast = Transcript.Propose([.. Shuffled(0.55, 4).Select(h => h with { At = new(1 + (h.At - 1) / 2) }).OrderBy(h => h.At.Value)],
            LaidBars.AtEvenPace(new(1), Bpm.Of(200)!.Value, MeterCycle.CommonTime, 4));
        fast.Feel.ToString().ShouldBe("straight");
    }

    [Fact]
    public void Triplets_that_are_played_early_are_no_sixteenths_that_swing()
    {
        var proposed = Proposed(Enumerable.Range(0, 8).SelectMany(beat =>
            (HeardStroke[])[Struck(beat, Voice.Hat), Struck(beat + 0.31, Voice.Hat), Struck(beat + 0.66, Voice.Hat)]), bars: 2);
        proposed.Feel.ToString().ShouldBe("straight");
        proposed.Strokes.Select(s => s.At.Value * 3 / Tick.PerQuarter).ShouldBe(Enumerable.Range(0, 24));
    }

    [Fact]
    public void What_is_heard_and_not_written_lies_on_the_sixteenths_of_a_text_that_swings_in_them()
    {
        var written = Read("tempo 100\nfeel swing 16ths 62%\nHH: 16ths\nSN: 2 4");
        var agreement = EarAgreement.Of(written, LaidBars.AtEvenPace(new(1), Tempo, MeterCycle.CommonTime, 1),
            [.. Shuffled(0.62, 1).Where(h => h.Voice == Voice.Hat).Append(Struck(2.81, Voice.Kick)).OrderBy(h => h.At.Value)]);
        var kick = agreement.Differences.Single(d => d.IsHeard);
        (kick.Stroke.Voice, kick.Stroke.At.Value * 4 / Tick.PerQuarter).ShouldBe((Voice.Kick, 11));
    }

    [Fact]
    public void Sixteenths_and_triplets_among_off_beats_that_swing_stay_what_they_are()
    {
        var fill = Enumerable.Range(0, 4).Select(sixteenth => Struck(15 + sixteenth / 4.0, Voice.Snare));
        var proposed = Proposed(Swung(0.58, 4).Where(h => h.At < 1 + 15 * 0.6 - 0.01).Concat(fill), bars: 4);
        proposed.Feel.ToString().ShouldBe("swing 58%");
        proposed.Strokes.Where(s => s.At.Value >= 15 * Tick.PerQuarter).Select(s => s.At.Value * 4 / Tick.PerQuarter)
            .ShouldBe([60, 61, 62, 63]);
        Proposed(Swung(0.58, 2).Where(h => h.Voice != Voice.Hat)).Feel.ToString().ShouldBe("straight", "nothing is late");
    }

    [Fact]
    public void What_is_heard_and_not_written_lies_on_the_off_beats_of_a_text_that_swings()
    {
        var written = Read("tempo 100\nfeel swing 66%\nHH: 8ths\nSN: 2 4");
        var agreement = EarAgreement.Of(written, LaidBars.AtEvenPace(new(1), Tempo, MeterCycle.CommonTime, 1),
            [.. Swung(0.66, 1).Where(h => h.Voice == Voice.Hat).Append(Struck(2.66, Voice.Kick)).OrderBy(h => h.At.Value)]);
        var kick = agreement.Differences.Single(d => d.IsHeard);
        (kick.Stroke.Voice, kick.Stroke.At.Value * 4 / Tick.PerQuarter).ShouldBe((Voice.Kick, 10));
        kick.At.Value.ShouldBe(1 + 2.66 * 0.6, 0.001);
    }

    [Fact]
    public void What_is_written_stays_and_only_what_is_between_is_proposed()
    {
        var written = Read("SN: 2? 4\nBD: 1");
        var proposed = Proposed([Struck(0, Voice.Kick), Struck(1, Voice.Snare), Struck(2.5, Voice.Kick), Struck(3, Voice.Snare)], written);
        proposed.Strokes.Count(s => s.Voice == Voice.Snare).ShouldBe(2);
        proposed.Strokes.First(s => s.Voice == Voice.Snare).Unsure.ShouldBeTrue();
        proposed.Strokes.Count(s => s.Voice == Voice.Kick).ShouldBe(2);
    }

    [Fact]
    public void Written_and_heard_are_told_apart_stroke_by_stroke()
    {
        var written = Read("tempo 100\nHH: 1 2 3 4\nSN: 2 (2a) 4\nBD: 1 3");
        // The second half of the bar is slower on the record than it is written.
        var laid = new LaidBars([new(1), new(3.4), new(5.8)], written);
        HeardStroke[] heard = [
            Struck(0, Voice.Kick), Struck(0, Voice.Hat), Struck(1, Voice.Snare, later: 0.02), Struck(1, Voice.Hat), Struck(2, Voice.Hat),
            Struck(2.5, Voice.Kick, strength: 0.6), Struck(3, Voice.Hat), Struck(3, Voice.Snare)];
        var agreement = EarAgreement.Of(written, laid, heard);
        agreement.Voices.Select(v => (v.Voice.Code, v.Found, v.Written)).ShouldBe([("HH", 4, 4), ("SN", 2, 3), ("BD", 1, 2)]);
        agreement.Ghosts.ShouldBe((0, 1));
        agreement.Differences.Select(d => (d.IsHeard, d.Stroke.Voice.Code, d.Stroke.At.Value * 4 / Tick.PerQuarter, d.Strength))
            .ShouldBe([(false, "SN", 7, 0), (false, "BD", 8, 0), (true, "BD", 10, 0.6)]);
    }

    [Fact]
    public void A_place_on_the_record_and_in_the_text_are_found_from_each_other()
    {
        var written = Read("meter 3/4\nSN: 1 | 2 | 3");
        var laid = new LaidBars([new(10), new(12), new(13)], written);
        foreach (var (quarter, second) in ((double, double)[])[(0, 10), (1.5, 11), (3, 12), (4.5, 12.5), (6, 13), (7.5, 13.5)])
        {
            laid.At(new((int)(quarter * Tick.PerQuarter))).Value.ShouldBe(second, 1e-9);
            laid.TickAt(new(second)).ShouldBe(quarter * Tick.PerQuarter, 1e-3);
        }
        laid.End.Value.ShouldBe(14, 1e-9);
    }
}
