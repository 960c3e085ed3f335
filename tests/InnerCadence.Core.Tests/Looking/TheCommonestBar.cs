using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Looking;

/// <summary>Bars folded over one another, from strokes that are made up.</summary>
public class TheCommonestBar
{
    private const double Bar = 2.4;

    private static List<HeardStroke> Played(IReadOnlyList<string> bars, int seed = 1, double missed = 0.03)
    {
        var random = new Random(seed);
        return [.. bars.SelectMany((text, bar) => CountLines.Parse(text).Passage.Strokes.Where(_ => random.NextDouble() > missed)
            .Select(s => new HeardStroke(new(1 + Bar * bar + s.At.Value * 0.6 / Tick.PerQuarter + (random.NextDouble() - 0.5) * 0.02),
                s.Voice.Family, s.Voice, null, 0.9, 0.7, null)))
            .OrderBy(h => h.At.Value)];
    }

    private static SoundBars Lines(int bars) => SoundBars.Marked([.. Enumerable.Range(0, bars + 1)
        .Select(b => (b + 1, new Seconds(1 + Bar * b)))], new([Meter.CommonTime]), null,
        new(1 + Bar * bars))!;

    private static readonly string[] Bars = [.. Enumerable.Range(1, 32).Select(bar => bar % 8 == 0
        ? "HH: 1 1& 2 2&\nSN: 2 3 3e\nFT: 3& 3a 4 4e 4& 4a\nBD: 1"
        : bar % 8 == 1 && bar > 1 ? "CR: 1\nHH: 1& 2 2& 3 3& 4 4&\nSN: 2 4\nBD: 1 3&" : "HH: 8ths\nSN: 2 4\nBD: 1 3&")];

    [Fact]
    public void Misheard_strokes_and_all_the_groove_stays_and_the_fills_stand_out_first()
    {
        var common = CommonestBar.Of(Lines(32), Played(Bars), 1, 32)!;
        CountWriter.Write(common.Nucleus).ReplaceLineEndings("\n").Trim()
            .ShouldBe(CountWriter.Write(CountLines.Parse("HH: 8ths\nSN: 2 4\nBD: 1 3&").Passage).ReplaceLineEndings("\n").Trim());
        common.Departing.Take(4).Select(d => d.Bar).Order().ShouldBe([8, 16, 24, 32]);
        common.Departing[0].Words.ShouldStartWith("floor tom on 3&, ");
        common.Departing.First(d => d.Bar == 8).Words.ShouldEndWith("crash on the next 1");
        common.Places.Single(p => p.Voice == Voice.Kick && p.InBar.Value == 5 * Tick.PerQuarter / 2).Share.ShouldBe(28 / 32.0, 0.1);
    }

    [Fact]
    public void Triplets_are_folded_as_triplets_and_a_part_of_the_bars_can_be_chosen()
    {
        string[] shuffle = [.. Enumerable.Repeat("HH: 1 1l 2 2l 3 3l 4 4l\nSN: 2 4\nBD: 1 3", 12)];
        var common = CommonestBar.Of(Lines(12), Played(shuffle, missed: 0), 3, 10)!;
        common.Bars.ShouldBe(8);
        common.Nucleus.Strokes.Where(s => s.Voice == Voice.Hat).Select(s => s.At.Value % Tick.PerQuarter).Distinct().Order()
            .ShouldBe([0, Tick.PerQuarter / 3 * 2]);
        common.Departing.ShouldBeEmpty();
        CommonestBar.Of(Lines(12), Played(shuffle), 1, 3).ShouldBeNull();
    }
}
