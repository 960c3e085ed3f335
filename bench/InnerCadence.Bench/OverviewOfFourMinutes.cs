using BenchmarkDotNet.Attributes;
using InnerCadence.Core.Sound;

namespace InnerCadence.Bench;

/// <summary>The picture of four minutes of stereo sound: under a second; its memory does not grow with the sound but for fifty bytes a second.</summary>
[ShortRunJob, MemoryDiagnoser]
public class OverviewOfFourMinutes
{
    private readonly byte[] block = new byte[4 * 16384];
    private readonly float[] mono = new float[16384];
    private readonly WavHead head = new(2, 44100, 16, false, 44, 0);

    [GlobalSetup]
    public void Fill() => new Random(1).NextBytes(block);

    [Benchmark]
    public int Make()
    {
        var overview = new Overview(head.Rate);
        for (var frames = 0; frames < 240 * 44100; frames += 16384) overview.Add(mono.AsSpan(0, head.Decode(block, mono)));
        return overview.Columns().Length;
    }
}
