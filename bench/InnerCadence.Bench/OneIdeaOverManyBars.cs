using BenchmarkDotNet.Attributes;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Bench;

/// <summary>One idea over 10,000 bars: under 0.25 s on two cores; ten times the bars, ten times the time.</summary>
[ShortRunJob]
public class OneIdeaOverManyBars
{
    private IReadOnlyList<Passage> passages = [];

    [Params(1_000, 10_000, 100_000)]
    public int Bars { get; set; }

    [GlobalSetup]
    public void Generate() => passages = GeneratedBars.Passages(Bars);

    [Benchmark]
    public int FillCell() => Scan("SN: 3 e & a\nFT: 4 e & a", 30240 - 10080, new());

    [Benchmark]
    public int GhostedCell() => Scan("SN: (2a) 4>\nBD: 3&", null, new());

    [Benchmark]
    public int WholeBarGroove() => Scan("HH: 8ths\nSN: 2> 4>\nBD: 1 3&", Tick.PerWhole, new());

    [Benchmark]
    public int FillCellByFamilyAndRate() => Scan("SN: 3 e & a\nFT: 4 e & a", 30240 - 10080,
        new() { Facets = new() { Voicing = VoicingRule.Family }, Rate = RateRule.Proportional });

    private int Scan(string exemplar, int? span, Rules rules)
    {
        var matcher = new Matcher(new(CountLines.Parse(exemplar).Passage, span is { } ticks ? new Tick(ticks) : null, null, rules));
        return passages.AsParallel().Sum(passage => matcher.FindIn(passage).Count);
    }
}
