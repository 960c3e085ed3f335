using BenchmarkDotNet.Attributes;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;

namespace InnerCadence.Bench;

/// <summary>Five options for a figure of 64 strokes over four drums.</summary>
public class StickingSixtyFour
{
    private readonly Passage figure = CountLines.Parse(
        "tempo 110\nSN: 1 e & a 3 e & a | % | % | %\nT1: 2 e | % | % | %\nFT: 2& a | % | % | %\nHH: 4 e & a | % | % | %").Passage;

    [Benchmark]
    public StickingOptions Options() => Sticking.Of(figure, StickingSettings.Usual);
}
