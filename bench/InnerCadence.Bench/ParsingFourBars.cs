using BenchmarkDotNet.Attributes;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;

namespace InnerCadence.Bench;

/// <summary>Four bars of count lines: under 1 ms, so that typing is seen at once.</summary>
[MemoryDiagnoser]
public class ParsingFourBars
{
    private const string Text = """
        tempo 96
        HH: 8ths 4&o | %  | 16ths -2 4&o | 8ths@1-3
        SN: 2> (2a 3e) 4> | % (1a) | 2> 4> | 2> 3R e& a
        T1: - | - | - | 4 e
        BD: 1 3& | 1 & 3& | % | 1 3& 4a?
        """;

    [Benchmark]
    public CountText Read() => CountLines.Parse(Text);

    [Benchmark]
    public IReadOnlyList<string> SayInWords() => ReadBack.Of(CountLines.Parse(Text).Passage);
}
