using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;

namespace InnerCadence.Core.Tests.Playing;

/// <summary>What levels, changes of tempo, grace drums and echoes do to what sounds.</summary>
public class LevelsAndTempos
{
    private static Passage Read(string text) => CountLines.Parse(text).Passage;

    [Fact]
    public void Each_step_of_level_makes_a_stroke_a_quarter_louder()
    {
        var gains = Rendition.Of(Read("SN: 1 2 3\nLV: 1 mp 2 mf 3 ff")).Notes.Select(n => n.Gain).ToList();
        (gains[1] / gains[0]).ShouldBe(1.25, 1e-9);
        (gains[2] / gains[1]).ShouldBe(1.25 * 1.25, 1e-9);
        MidiPassage.Write(Read("SN: 1 2 3>\nLV: 1 mp 2 mf 3 ff"), PercussionMap.General).Notes.Select(n => n.Velocity)
            .ShouldBe([64, 80, 127]);
    }

    [Fact]
    public void A_bar_at_twice_the_tempo_lasts_half_as_long()
    {
        var passage = Read("tempo 60 @2 120 @2.3 60\nSN: 4ths | %");
        Rendition.Of(passage).Notes.Select(n => n.At.Value).ShouldBe([0, 1, 2, 3, 4, 4.5, 5, 6], 1e-9);
        Rendition.Of(passage).Length.Value.ShouldBe(7, 1e-9);
        MidiPassage.Read(MidiPassage.Write(passage, PercussionMap.General), PercussionMap.General,
            out _)!.Passage.Tempos.ShouldBe(passage.Tempos);
    }

    [Fact]
    public void The_grace_stroke_sounds_on_its_own_drum_and_an_echo_sounds_too()
    {
        Rendition.Of(Read("SN: 2fT1")).Notes.Select(n => n.Sound.Voice.Code).ShouldBe(["T1", "SN"]);
        Rendition.Of(Read("SN: 2 2e=")).Notes.Count.ShouldBe(2);
        MidiPassage.Write(Read("SN: 2fT1"), PercussionMap.General).Notes.Select(n => n.Note)
            .ShouldBe([PercussionMap.General.NoteOf(new(Tick.Zero, Voice.Tom1))!.Value,
            PercussionMap.General.NoteOf(new(Tick.Zero, Voice.Snare))!.Value]);
    }

    [Fact]
    public void A_cut_keeps_the_tempo_and_the_level_it_has_there()
    {
        var cut = Excerpt.Cut(Read("tempo 60 @2 120 @2.3 90\nSN: 4ths | % | %\nLV: 1 pp < | - | 1 ff"), Tick.OfQuarter(4, 1),
            Tick.OfQuarter(8, 1));
        cut.Tempos.Select(t => (t.At.Value, t.Tempo.Value)).ShouldBe([(0, 120), (20160, 90)]);
        cut.Levels.Marks.Select(m => (m.At.Value, m.Level, m.Hairpin)).ShouldBe([(0, Level.Mf, true), (40320, Level.Ff, false)]);
    }
}
