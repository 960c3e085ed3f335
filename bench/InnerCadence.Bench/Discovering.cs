using BenchmarkDotNet.Attributes;
using InnerCadence.Core.Counting.Reading;
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
    public int Fingerprint() => Core.Discovery.Fingerprint.Of(bars.Where(b => b.Bar.Reading / 30 % 3 == 0),
        bars.Where(b => b.Bar.Reading / 30 % 3 != 0), Meter.CommonTime, 4).Cells.Count;

    /// <summary>Plants five cells in made-up drumming, random bars and grooves with fills, and tells how many of them stand among the first
    /// ten rows.</summary>
    public static void Recall()
    {
        string[] planted = ["3e 3a 4&", "1 1e 1a 2&", "2& 2a 3e 3&", "1& 1a 2 2e 2a", "3 3& 3a 4a"];
        foreach (var grooves in new[] { false, true })
        {
            var (all, ten) = (0, 0);
            for (var seed = 1; seed <= 20; seed++)
            {
                var random = new Random(seed);
                var made = Enumerable.Range(0, 200).Select(i =>
                    new Source(CountLines.Parse(BarWith(random, i < 50 ? planted[i % planted.Length] : null, grooves)).Passage, i, i))
                    .ToList();
                var facets = CellFacets.Usual with { Families = new HashSet<Family> { Family.Tom, Family.Snare } };
                var rows = CellRanking.Of(made, facets, Core.Discovery.Cells.Find(made, facets), 200);
                foreach (var (cell, k) in planted.Select((cell, k) => (cell, k)))
                {
                    var ticks = CountLines.Parse($"FT: {cell}").Passage.Strokes.Select(s => s.At.Value).ToList();
                    // Shown as itself or as the shortest part that carries its places.
                    var rank = rows.ToList().FindIndex(r => r.Cell.Occurrences.Count(o => o.Start.Value >= ticks[0]
                        && o.End.Value <= ticks[^1] && o.Source < 50 && o.Source % planted.Length == k) >= 8);
                    if (rank >= 0) all++;
                    if (rank is >= 0 and < 10) ten++;
                }
            }
            Console.WriteLine($"{(grooves ? "grooves with fills" : "random bars")}: {100.0 * ten / (20 * planted.Length):0} % of "
                + $"planted cells among the first ten rows, {100.0 * all / (20 * planted.Length):0} % found");
        }
    }

    private static string BarWith(Random random, string? cell, bool groove)
    {
        string[] places = [.. from beat in Enumerable.Range(1, 4) from sub in new[] { "", "e", "&", "a" } select $"{beat}{sub}"];
        if (groove) return $"FT: {cell ?? "-"}\nSN: {(cell is null ? "2 4" + (random.Next(3) == 0 ? " 4a" : "") : "-")}\nBD: "
            + $"1{(random.Next(2) == 0 ? " 2&" : "")} 3&";
        var noise = places.Where(_ => random.Next(3) == 0).ToList();
        return cell is null ? $"FT: {places[random.Next(16)]}\nSN: {(noise.Count > 0 ? string.Join(' ', noise) : "-")}" : $"FT: {cell}";
    }
}
