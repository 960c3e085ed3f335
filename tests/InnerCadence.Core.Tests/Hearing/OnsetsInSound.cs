using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>Onsets in sounds whose truth is known, since the core made them.</summary>
public class OnsetsInSound
{
    private static float[] Sound(string text)
    {
        var mix = Mixdown.Render(Rendition.Of(CountLines.Parse(text).Passage), key => Synth.Render(key));
        return [.. Enumerable.Range(0, mix.Length / 2).Select(i => (mix[2 * i] + mix[2 * i + 1]) / 2)];
    }

    private static Onsets Heard(float[] samples, int rate = Synth.Rate)
    {
        var onsets = new Onsets(rate);
        // In pieces of any size, as they come.
        foreach (var piece in samples.Chunk(1777)) onsets.Add(piece);
        return onsets;
    }

    /// <summary>Mixdowns begin with so much silence.</summary>
    private const double Lead = 0.1;

    [Theory]
    [InlineData("BD", SoundBand.Low, Family.Kick)]
    [InlineData("SN", SoundBand.Middle, Family.Snare)]
    [InlineData("SN", SoundBand.High, Family.Snare)]
    [InlineData("T1", SoundBand.Middle, Family.Tom)]
    [InlineData("T4", SoundBand.Low, Family.Tom)]
    [InlineData("FT", SoundBand.Middle, Family.Tom)]
    [InlineData("HH", SoundBand.High, Family.Hat)]
    [InlineData("HF", SoundBand.High, Family.Hat)]
    public void A_drum_alone_is_heard_on_every_count_and_called_by_its_family(string voice, SoundBand band, Family family)
    {
        var found = Heard(Sound($"tempo 100\n{voice}: 1 2 3 4")).Found().Where(o => o.Band == band && o.At < 2.2).ToList();
        found.Count.ShouldBe(4, string.Join(" ", found));
        for (var i = 0; i < 4; i++) found[i].At.Value.ShouldBe(Lead + i * 0.6, 0.012);
        found.Count(o => o.Family == family).ShouldBeGreaterThanOrEqualTo(3);
        found.ShouldAllBe(o => o.Confidence >= 0 && o.Confidence <= 1 && o.Strength > 0 && o.Strength <= 1);
    }

    /// <summary>Which of them it is the rules cannot tell; the ear can.</summary>
    [Theory]
    [InlineData("RD", "1 2 3 4", 0.6)]
    [InlineData("RB", "1 2 3 4", 0.6)]
    [InlineData("CR", "1 | 1 | 1 | 1", 2.4)]
    public void A_cymbal_that_rings_is_heard_on_every_count_and_called_one(string voice, string counts, double apart)
    {
        var found = Heard(Sound($"tempo 100\n{voice}: {counts}")).Found().Where(o => o.Band == SoundBand.High).ToList();
        found.Count.ShouldBe(4, string.Join(" ", found));
        for (var i = 0; i < 4; i++) found[i].At.Value.ShouldBe(Lead + i * apart, 0.012);
        found.ShouldAllBe(o => o.Family == Family.Ride || o.Family == Family.Bell || o.Family == Family.Crash);
    }

    [Fact]
    public void A_groove_is_taken_apart_by_its_bands()
    {
        const string groove = "tempo 100\nHH: 8ths | %x3\nSN: 2 (2a) 4 | %x3\nBD: 1 3& | %x3";
        var found = Heard(Sound(groove)).Found();
        var written = CountLines.Parse(groove).Passage;
        double[] Times(Voice voice) => [.. written.Strokes.Where(s => s.Voice == voice)
            .Select(s => Lead + written.Tempo!.Value.SecondsOf(s.At))];
        Score(Times(Voice.Kick), found.Where(o => o.Band == SoundBand.Low)).ShouldBe((8, 0, 0));
        Score(Times(Voice.Snare), found.Where(o => o.Band == SoundBand.Middle)).ShouldBe((12, 0, 0));
        // Where a snare is struck with a hat, its wires are the louder; every hat is still an onset.
        Score([.. Times(Voice.Hat), .. written.Strokes.Where(s => s.Dynamic == Dynamic.Ghost)
            .Select(s => Lead + written.Tempo!.Value.SecondsOf(s.At))], found.Where(o => o.Band == SoundBand.High)).ShouldBe((36, 0, 0));
        found.Where(o => o.Band == SoundBand.Low).ShouldAllBe(o => o.Family == Family.Kick);
        found.Where(o => o.Band == SoundBand.Middle).ShouldAllBe(o => o.Family == Family.Snare);
    }

    /// <summary>How many are found within 15 ms, how many are missed, how many are too many.</summary>
    private static (int Found, int Missed, int TooMany) Score(IReadOnlyList<double> truth, IEnumerable<Onset> heard)
    {
        var left = heard.Select(o => o.At).ToList();
        var found = truth.Count(t => left.RemoveAll(at => Math.Abs(at - t) < 0.015) > 0);
        return (found, truth.Count - found, left.Count);
    }

    [Theory]
    [InlineData(72)]
    [InlineData(96)]
    [InlineData(133.5)]
    [InlineData(168)]
    public void The_tempo_is_among_the_octaves_that_are_shown(double bpm)
    {
        var tempos = Heard(Sound(FormattableString.Invariant($"tempo {bpm}\nHH: 8ths | %x7\nSN: 2 4 | %x7\nBD: 1 3 3& | %x7"))).Tempos();
        tempos.ShouldContain(t => Math.Abs(t.Bpm - bpm) < bpm * 0.005);
        tempos.Sum(t => t.Weight).ShouldBe(1, 0.001);
    }

    [Fact]
    public void Silence_noise_and_nothing_have_no_strokes()
    {
        Heard([]).Found().ShouldBeEmpty();
        Heard([]).Tempos().ShouldBeEmpty();
        Heard(new float[Synth.Rate * 3]).Found().ShouldBeEmpty();
        var random = new Random(4);
        var noise = Heard([.. Enumerable.Range(0, Synth.Rate * 3).Select(_ => (float)(random.NextDouble() - 0.5) * 0.2f)]).Found();
        noise.Count(o => o.Band != SoundBand.Low).ShouldBeLessThanOrEqualTo(2, "a steady noise has no attack but its own beginning");
        noise.Count.ShouldBeLessThan(30, "deep noise comes and goes");
    }

    [Theory]
    [InlineData(8000)]
    [InlineData(22050)]
    [InlineData(96000)]
    public void Any_rate_is_heard(int rate)
    {
        var source = Sound("tempo 100\nBD: 1 2 3 4");
        var samples = Enumerable.Range(0, (int)((long)source.Length * rate / Synth.Rate))
            .Select(i => source[(int)((long)i * Synth.Rate / rate)]).ToArray();
        Score([.. Enumerable.Range(0, 4).Select(i => Lead + i * 0.6)], Heard(samples, rate).Found().Where(o => o.Band == SoundBand.Low))
            .ShouldBe((4, 0, 0));
    }
}
