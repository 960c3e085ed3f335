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

    [Fact]
    public void Bars_that_alternate_are_a_pattern_of_two_and_every_fourth_one_of_four()
    {
        string[] two = [.. Enumerable.Range(0, 24).Select(bar => bar % 2 == 0 ? "HH: 8ths\nSN: 2 4\nBD: 1 3"
            : "HH: 8ths\nSN: 2 4\nBD: 2& 3&")];
        var common = CommonestBar.Of(Lines(24), Played(two), 1, 24)!;
        common.Pattern.ShouldBe(2);
        common.Nucleus.Strokes.Where(s => s.Voice == Voice.Kick).Select(s => s.At.Value / (Tick.PerQuarter / 2)).ShouldBe([0, 4, 11, 13]);
        common.Places.ShouldAllBe(p => p.Bars == 12);
        string[] four = [.. Enumerable.Range(0, 32).Select(bar => "HH: 8ths\nSN: 2 4\nBD: 1 3" + (bar % 4 == 3 ? " 4&" : ""))];
        CommonestBar.Of(Lines(32), Played(four), 1, 32)!.Pattern.ShouldBe(4);
        CommonestBar.Of(Lines(32), Played(Bars), 1, 32)!.Pattern.ShouldBe(1, "fills at every eighth bar are fills");
        CommonestBar.Of(Lines(4), Played(two[..4]), 1, 4)!.Pattern.ShouldBe(1, "too few to tell");
    }

    [Fact]
    public void What_was_written_stands_beside_what_is_heard()
    {
        var line = CountLines.Parse("HH: 8ths\nSN: 2 4\nBD: 1 2&").Passage;
        ValueList<(Voice, Tick)> strokes = [.. line.Strokes.Select(s => (s.Voice, s.At))];
        var common = CommonestBar.Of(Lines(32), Played(Bars, missed: 0), 1, 32, [new(2, strokes), new(3, strokes)])!;
        common.Written.Where(w => w.IsDoubted).Select(w => (w.Voice, w.InBar.Value * 2 / Tick.PerQuarter, w.Written, w.Struck))
            .ShouldBe([(Voice.Kick, 3, 2, 0)]);
        common.Written.Where(w => w.IsLeftOut).Select(w => (w.Voice, w.InBar.Value * 2 / Tick.PerQuarter, w.Struck))
            .ShouldBe([(Voice.Kick, 5, 28)]);
        common.Written.Single(w => w.Voice == Voice.Snare && w.InBar.Value == Tick.PerQuarter).Struck.ShouldBe(32);
        CommonestBar.Of(Lines(32), Played(Bars), 1, 32)!.Written.ShouldBeEmpty();
    }

    [Fact]
    public void Planted_fills_are_eight_of_the_first_ten_that_depart()
    {
        var random = new Random(5);
        var planted = new HashSet<int>();
        while (planted.Count < 10) planted.Add(random.Next(2, 90));
        string[] fills = ["SN: 1 2 3 3e 3& 3a\nFT: 4 4& 4a\nBD: 1", "SN: 1 e & a\nT1: 2 e & a\nFT: 3 e & a 4", "BD: 1\nHH: 1 1& 2",
            "HH: 8ths\nSN: 2 3a 4 4e 4& 4a\nBD: 1 3&"];
        string[] played = [.. Enumerable.Range(0, 96).Select(bar => planted.Contains(bar) ? fills[random.Next(fills.Length)]
            : $"HH: 8ths\nSN: 2 4{(random.Next(4) == 0 ? " 4a" : "")}\nBD: 1 3&{(random.Next(3) == 0 ? " 2&" : "")}")];
        var common = CommonestBar.Of(Lines(96), Played(played, missed: 0.08), 1, 96)!;
        common.Departing.Take(10).Count(d => planted.Contains(d.Bar - 1)).ShouldBeGreaterThanOrEqualTo(8);
    }
}
