using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Bench;

/// <summary>Bars of grooves and fills as a researcher would have them: about twenty strokes each, varied from a seed.</summary>
public static class GeneratedBars
{
    private const int BarsAPassage = 8;

    public static IReadOnlyList<Passage> Passages(int bars)
    {
        var random = new Random(20240229);
        return [.. Enumerable.Range(0, bars / BarsAPassage).Select(_ => CountLines.Parse(Text(random)).Passage)];
    }

    private static string Text(Random random)
    {
        var (hat, snare, kick, toms) = (new List<string>(), new List<string>(), new List<string>(), new List<string>());
        for (var bar = 0; bar < BarsAPassage; bar++)
        {
            var fill = bar % 4 == 3 && random.Next(2) == 0;
            hat.Add(fill ? "8ths@1-2" : random.Next(4) == 0 ? "8ths 4&o" : random.Next(3) == 0 ? "16ths" : "8ths");
            snare.Add(fill ? "2> 3 e & a" : "2> 4>" + Some(random, " (2a)", " (3e)", " (4a)", " 3a"));
            kick.Add("1" + Some(random, " 1&", " 2&", " 3", " 3&", " 4&"));
            toms.Add(fill ? "4 e & a" : "-");
        }
        return $"HH: {Join(hat)}\nFT: {Join(toms)}\nSN: {Join(snare)}\nBD: {Join(kick)}";
    }

    private static string Some(Random random, params string[] words) => string.Concat(words.Where(_ => random.Next(5) < 2));

    private static string Join(IEnumerable<string> bars) => string.Join(" | ", bars);
}
