using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Timing;

/// <summary>Offsets in, words out: only what is certain is said, and a stroke that stands out is found.</summary>
public class MicroTimings
{
    private const string Groove = "tempo 100\nHH: 8ths | %x4\nSN: 2 4 | %x4\nBD: 1 3& | %x4";
    private static readonly Passage Passage = CountLines.Parse(Groove).Passage;

    /// <summary>Every stroke up to 3 ms off, the snare late by some more.</summary>
    private static List<StrokeOffset> Offsets(double snareLate)
    {
        var random = new Random(11);
        return [.. Passage.Strokes.Select(s => new StrokeOffset(s.At, s.Voice,
            random.NextDouble() * 6 - 3 + (s.Voice == Voice.Snare ? snareLate : 0)))];
    }

    [Fact]
    public void A_late_snare_is_said_with_its_interval()
    {
        var timing = MicroTiming.Of(Passage, Offsets(12))!;
        timing.Certain.Single().ToString().ShouldMatch(@"^snare 1[0-4] ms \(\d+ to \d+\) behind the hat$");
        timing.Voices.Select(v => (v.Voice.Code, v.Strokes)).ShouldBe([("HH", 40), ("SN", 10), ("BD", 10)]);
        timing.Voices[1].Interval!.Value.ShouldSatisfyAllConditions(i => i.Low.ShouldBeLessThan(12), i => i.High.ShouldBeGreaterThan(12));
        MicroTiming.Of(Passage, Offsets(-9))!.Certain.Single().ToString().ShouldContain("ahead of the hat");
    }

    [Fact]
    public void What_is_not_certain_is_not_said()
    {
        MicroTiming.Of(Passage, Offsets(0))!.Certain.ShouldBeEmpty();
        // One stroke says nothing of how a voice is played, however late it is.
        var one = Offsets(30).Where(o => o.Voice != Voice.Snare || o.At < new Tick(2 * Tick.PerQuarter)).ToList();
        MicroTiming.Of(Passage, one)!.Gaps.Select(g => g.Voice).ShouldNotContain(Voice.Snare);
        MicroTiming.Of(Passage, []).ShouldBeNull();
        MicroTiming.Of(Passage, [new(new(7), Voice.Snare, 4)]).ShouldBeNull();
    }

    [Fact]
    public void Few_shared_moments_are_told_by_both_voices_on_their_own()
    {
        // Snare on 2 and 4 of two bars beside sixteenths that leave those places out: Welch's interval, by hand.
        var (two, sixteenths) = ((double[])[10, 14, 12, 12], (double[])[-1, 1, 0, 0, 2, -2]);
        var passage = CountLines.Parse("HH: 1 1& 3 | 1 1& 3\nSN: 2 4 | 2 4").Passage;
        var offsets = passage.Strokes.Where(s => s.Voice == Voice.Snare).Zip(two)
            .Concat(passage.Strokes.Where(s => s.Voice == Voice.Hat).Zip(sixteenths))
            .Select(s => new StrokeOffset(s.First.At, s.First.Voice, s.Second)).ToList();
        var gap = MicroTiming.Of(passage, offsets)!.Gaps.ShouldHaveSingleItem();
        // Variances 8/3 and 2, of 4 and 6 strokes: error 1, freedom (2/3 + 1/3)² / ((2/3)²/3 + (1/3)²/5) = 5.87.
        (gap.Mean, gap.Low, gap.High).ShouldSatisfyAllConditions(g => g.Mean.ShouldBe(12), g => g.Low.ShouldBe(12 - 2.46, 0.01),
            g => g.High.ShouldBe(12 + 2.46, 0.01));
    }

    [Fact]
    public void Each_place_in_the_bar_has_its_own_mean_and_what_is_hardly_heard_is_in_none()
    {
        var offsets = Passage.Strokes.Select(s => new StrokeOffset(s.At, s.Voice, s.Voice == Voice.Snare ? 8 : 0)).ToList();
        var at = new Tick(3 * Tick.PerQuarter);
        for (var i = 0; i < offsets.Count; i++) if (offsets[i].Voice == Voice.Snare && Passage.Meters.Locate(offsets[i].At).InBar == at)
            offsets[i] = offsets[i] with { Milliseconds = 14 };
        offsets.Add(new(Tick.Zero, Voice.Snare, 400, Sureness: 0.05));
        var snare = MicroTiming.Of(Passage, offsets)!.Places.Where(p => p.Voice == Voice.Snare).ToList();
        snare.Select(p => (p.InBar.Value / Tick.PerQuarter, p.Mean, p.Strokes)).ShouldBe([(1, 8, 5), (3, 14, 5)]);
    }

    [Fact]
    public void A_stroke_unlike_the_same_place_elsewhere_is_named_with_its_bar()
    {
        var offsets = Offsets(0);
        var at = Passage.Meters.StartOf(2) + new Tick(Tick.PerQuarter * 2 + Tick.PerQuarter / 2);
        var i = offsets.FindIndex(o => o.At == at && o.Voice == Voice.Kick);
        offsets[i] = offsets[i] with { Milliseconds = offsets[i].Milliseconds + 31 };
        var odd = MicroTiming.Of(Passage, offsets)!.Odd.ShouldHaveSingleItem();
        odd.Words(Passage, first: 9).ShouldMatch(@"^bar 11, kick on the & of 3: (29|3\d) ms later than elsewhere$");
    }

    [Fact]
    public void The_mean_moves_with_what_is_added_to_all() =>
        Gen.Double[-40, 40].Sample(late =>
        {
            var (before, after) = (MicroTiming.Of(Passage, Offsets(3))!,
                MicroTiming.Of(Passage, [.. Offsets(3).Select(o => o with { Milliseconds = o.Milliseconds + late })])!);
            after.Certain.Select(g => g.ToString()).ShouldBe(before.Certain.Select(g => g.ToString()));
            foreach (var (a, b) in after.Voices.Zip(before.Voices)) a.Mean.ShouldBe(b.Mean + late, 1e-9);
        }, iter: 200);

    [Fact]
    public void Offsets_are_heard_and_come_out_of_a_MIDI_file_again()
    {
        var offsets = Offsets(12);
        var (written, played) = (Rendition.Of(Passage), Rendition.Of(Passage, offsets: offsets));
        played.Notes.Sum(n => n.At).ShouldBe(written.Notes.Sum(n => n.At) + offsets.Sum(o => o.Milliseconds) / 1000, 1e-6);

        var read = MidiPassage.Read(MidiFile.Read(MidiPassage.Write(Passage, PercussionMap.General, offsets: offsets).Write(), out _)!,
            PercussionMap.General, out _)!;
        read.Passage.Strokes.Select(s => (s.At, s.Voice)).ShouldBe(Passage.Strokes.Select(s => (s.At, s.Voice)));
        var again = read.Offsets.ToDictionary(o => (o.At, o.Voice), o => o.Milliseconds);
        // The very first stroke cannot be early in a file that begins with it.
        foreach (var offset in offsets.Where(o => o.At > Tick.Zero)) again[(offset.At, offset.Voice)].ShouldBe(offset.Milliseconds, 0.2);
        MidiPassage.Read(MidiFile.Read(MidiPassage.Write(Passage, PercussionMap.General).Write(), out _)!, PercussionMap.General,
            out _)!.Offsets.ShouldBeEmpty();
    }
}
