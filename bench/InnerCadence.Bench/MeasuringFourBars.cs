using BenchmarkDotNet.Attributes;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Bench;

/// <summary>Four bars against their sound after the ear has heard it: 150 ms are wished for (sound.md, "Measured against the
/// sound").</summary>
[ShortRunJob]
public class MeasuringFourBars
{
    private static readonly Passage Written = CountLines.Parse(
        "tempo 104\nHH: 8ths | % | % | %\nSN: 2 (2a) (3e) 4 | % | % | %\nBD: 1 2& 3& | % | % | %").Passage;

    private float[] mono = [];
    private Activations heard = null!;

    [GlobalSetup]
    public void Hear()
    {
        mono = [.. Mixdown.Render(Rendition.Of(Written), Synth.Render).Chunk(2).Select(pair => (pair[0] + pair[1]) / 2)];
        var pass = new EarPass(ShippedEar.Find()!, Synth.Rate);
        pass.Add(mono);
        heard = pass.End();
    }

    [Benchmark]
    public int Measure() => Measured.Of(Written, new(0.1), Written.Tempo!.Value, HeardStrokes.In(heard, ShippedEar.Find()!, Measured.Eager),
        new RiseTimes(mono, Synth.Rate, Seconds.Zero, [])).Strokes.Count;
}
