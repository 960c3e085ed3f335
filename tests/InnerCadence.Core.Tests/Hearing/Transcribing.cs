using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>From sound to proposed count lines, where what was played is known.</summary>
public class Transcribing
{
    private static Passage Proposed(string text, double shift = 0)
    {
        var passage = CountLines.Parse(text).Passage;
        var mix = Mixdown.Render(Rendition.Of(passage), Synth.Render);
        var onsets = new Onsets(Synth.Rate);
        onsets.Add(new float[(int)(shift * Synth.Rate)]);
        onsets.Add([.. Enumerable.Range(0, mix.Length / 2).Select(i => (mix[2 * i] + mix[2 * i + 1]) / 2)]);
        return Transcript.Propose(RuleStrokes.Of(onsets.Found()),
            LaidBars.AtEvenPace(new(shift + 0.1), passage.Tempo!.Value, passage.Meters, passage.Bars));
    }

    private static HeardStroke Kick(double at, double confidence) =>
        new(new(at), Family.Kick, Voice.Kick, null, 1, null, null) { Confidence = confidence };

    [Theory]
    [InlineData("tempo 96\nHH: 8ths | %\nSN: 2 4 | %\nBD: 1 3& | 1 & 3")]
    [InlineData("tempo 120\nHH: 4ths | %\nSN: 2 4 | %\nBD: 1 3 | 1 3 3&")]
    [InlineData("meter 7/8\ntempo 110\nHH: 8ths | %\nSN: 3 | 3\nBD: 1 5 | 1 5 6")]
    public void A_plain_groove_comes_back_with_its_kicks_and_snares(string text)
    {
        var (written, proposed) = (CountLines.Parse(text).Passage, Proposed(text, shift: 1.3));
        foreach (var voice in (Voice[])[Voice.Kick, Voice.Snare])
            proposed.Strokes.Where(s => s.Voice == voice).Select(s => s.At)
                .ShouldBe(written.Strokes.Where(s => s.Voice == voice).Select(s => s.At), voice.Name);
        // A cymbal under a snare is hidden by it; every other is there.
        var cymbal = written.Voices[0];
        var alone = written.Strokes.Where(s => s.Voice == cymbal && !written.Strokes.Any(o => o.Voice == Voice.Snare && o.At == s.At))
            .Select(s => s.At).ToList();
        proposed.Strokes.Where(s => s.Voice == cymbal).Select(s => s.At).Intersect(alone).Count()
            .ShouldBeGreaterThanOrEqualTo(alone.Count - 1);
        // What is proposed can be written down and read again.
        CountLines.Parse(CountWriter.Write(proposed)).Passage.Strokes.Select(s => (s.At, s.Voice))
            .ShouldBe(proposed.Strokes.Select(s => (s.At, s.Voice)));
    }

    [Fact]
    public void A_ghost_is_proposed_as_one_and_nothing_outside_the_bars()
    {
        var proposed = Proposed("tempo 90\nSN: 2 (3e) 4 | 2 (3e) 4\nBD: 1 3 | 1 3");
        proposed.Strokes.Where(s => s.Voice == Voice.Snare).Select(s => s.Dynamic)
            .ShouldBe([Dynamic.Normal, Dynamic.Ghost, Dynamic.Normal, Dynamic.Normal, Dynamic.Ghost, Dynamic.Normal]);
        var bar = LaidBars.AtEvenPace(Seconds.Zero, Bpm.Of(100)!.Value, MeterCycle.CommonTime, 1);
        Transcript.Propose([], bar).Strokes.ShouldBeEmpty();
        Transcript.Propose([Kick(9, 1)], bar).Strokes.ShouldBeEmpty();
        // What may be another drum is unsure.
        Transcript.Propose([Kick(0, 0.5)], bar).Strokes.Single().Unsure.ShouldBeTrue();
    }
}
