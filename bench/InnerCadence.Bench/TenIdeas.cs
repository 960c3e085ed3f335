using BenchmarkDotNet.Attributes;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Bench;

/// <summary>Ten ideas, one with every transform, over 10,000 bars: under 1.5 s; and what a stroke takes in memory.</summary>
[ShortRunJob, MemoryDiagnoser]
public class TenIdeas
{
    private static readonly string[] Exemplars =
    [
        "SN: 3 e & a\nFT: 4 e & a", "SN: (2a) 4>\nBD: 3&", "SN: 1 e & a\nBD: 1", "HH: 4&o | 1\nBD: 4& | 1", "SN: 3a 4", "BD: 1 1& 3",
            "FT: 4 e & a", "SN: 2> (2a) 3a 4>", "SN: 3 & 4\nFT: 4&", "HH: 1 e & a 2 e & a",
    ];

    private IReadOnlyList<Passage> passages = [];

    [GlobalSetup]
    public void Generate() => passages = GeneratedBars.Passages(10_000);

    [Benchmark]
    public int Ten() => Exemplars.Sum(exemplar => Scan(exemplar, new()));

    [Benchmark]
    public int OneWithEveryTransform() => Scan(Exemplars[0],
        new()
        {
            Rate = RateRule.Proportional,
            Transforms = [Transform.Mirrored, Transform.Reversed, Transform.Substituted],
            Elision = 2,
            Facets = new() { Voicing = VoicingRule.Family }
        });

    private int Scan(string exemplar, Rules rules)
    {
        var matcher = new Matcher(new(CountLines.Parse(exemplar).Passage, null, null, rules));
        return passages.AsParallel().Sum(passage => matcher.FindIn(passage).Count);
    }

    /// <summary>Bytes that one stroke takes when 10,000 bars lie in memory.</summary>
    public static double BytesAStroke()
    {
        var before = GC.GetTotalMemory(true);
        var kept = GeneratedBars.Passages(10_000);
        var bytes = GC.GetTotalMemory(true) - before;
        return bytes / (double)kept.Sum(p => p.Strokes.Count);
    }
}
