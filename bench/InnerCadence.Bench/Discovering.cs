using BenchmarkDotNet.Attributes;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Music;

namespace InnerCadence.Bench;

/// <summary>Recurring cells: 10,000 bars under 5 s, 100,000 under 60 s; fingerprint of 10,000 bars under 0.3 s.</summary>
[ShortRunJob]
public class Discovering
{
    private IReadOnlyList<Source> sources = [];
    private IReadOnlyList<TitledBar> bars = [];

    [Params(1_000, 10_000, 100_000)]
    public int Bars { get; set; }

    [GlobalSetup]
    public void Generate()
    {
        // Thirty passages a recording.
        sources = [.. GeneratedBars.Passages(Bars).Select((p, i) => new Source(p, i, i / 30))];
        bars = [.. sources.SelectMany(s => Bar.Of(s.Passage, s.Reading).Select(b => new TitledBar(b, $"Title {s.Recording}")))];
    }

    [Benchmark]
    public int Cells() => Core.Discovery.Cells.Find(sources, CellFacets.Usual).Count;

    [Benchmark]
    public int Fingerprint() => Core.Discovery.Fingerprint.Of(bars.Where(b => b.Bar.Reading / 30 % 3 == 0), bars.Where(b => b.Bar.Reading / 30 % 3 != 0), Meter.CommonTime, 4).Cells.Count;

    /// <summary>Plants cells in random drumming and tells how many come back and how high they stand.</summary>
    public static void Recall()
    {
        var random = new Random(7);
        string[] planted = ["3e 3a 4&", "1 1e 1a 2&", "2& 2a 3e 3&", "1& 1a 2 2e 2a", "3 3& 3a 4a"];
        string[] places = [.. from beat in Enumerable.Range(1, 4) from sub in new[] { "", "e", "&", "a" } select $"{beat}{sub}"];
        var made = Enumerable.Range(0, 400).Select(i =>
        {
            var cell = i < 100 ? planted[i % planted.Length] : null;
            var noise = places.Where(_ => random.Next(3) == 0).Where(p => cell is null || !cell.Split(' ').Contains(p));
            return new Source(CountLines.Parse($"FT: {cell ?? places[random.Next(16)]}\nSN: {string.Join(' ', noise.Where(_ => cell is null))}").Passage, i, i);
        }).ToList();
        var found = Core.Discovery.Cells.Find(made, CellFacets.Usual with { Families = new HashSet<Family> { Family.Tom, Family.Snare } });
        var ranks = planted.Select(cell =>
        {
            var ticks = CountLines.Parse($"FT: {cell}").Passage.Strokes.Select(s => s.At.Value).ToList();
            return found.ToList().FindIndex(c => c.Moments == ticks.Count && c.Occurrences.Any(o => o.Start.Value == ticks[0] && o.End.Value == ticks[^1] && c.Occurrences.Count >= 15));
        }).ToList();
        Console.WriteLine($"recall {ranks.Count(r => r >= 0)} of {planted.Length}, ranks {string.Join(' ', ranks.Select(r => r + 1))} of {found.Count}");
    }
}
