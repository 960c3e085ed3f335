using System.Diagnostics;
using InnerCadence.Core.Counting.Reading;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>Texts made to be slow or endless: reading them is bounded, and they still say what is wrong.</summary>
public class WildTexts
{
    public static TheoryData<string, string> Texts => new()
    {
        { "", "SN: |" }, { "", "SN: ? | %x63\n" }, { "", "HH: 32nds | %x63\n" }, { "meter 4/4 3/4 5/4\n", "HH: 16ths | %x63\n" },
            { "meter 32/1\n", "HH: 32nds | %x63\n" },
        { "SN: ", "8ths " }, { "SN: ", "(" }, { "SN: ", "() " }, { "SN: 1", "{a}" }, { "SN: 1[", "1," }, { "SN: ", "1[16] " },
            { "SN: ", "1" }, { "", "SN: zz 9 && (1\n" },
        { "meter ", "4/4 " }, { "", "voice P1 gong, crash\n" }, { "", "tempo 96\n" }, { "", "#" }, { "", "\0" }, { "", "\u202E" },
            { "", "𝄞" }, { "SN:", " " },
    };

    [Theory, MemberData(nameof(Texts))]
    public void Reading_is_bounded(string head, string repeated)
    {
        var text = head + string.Concat(Enumerable.Repeat(repeated, 64 * 1024 / repeated.Length));
        var watch = Stopwatch.StartNew();
        var read = CountLines.Parse(text);
        // Far above what it takes; without its bounds some of these take minutes.
        watch.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(20));
        read.Problems.Count.ShouldBeLessThanOrEqualTo(201);
        read.Passage.Bars.ShouldBeLessThanOrEqualTo(CountLines.MostBars);
        read.Passage.Strokes.Count.ShouldBeLessThanOrEqualTo(CountLines.MostStrokes);
    }
}
