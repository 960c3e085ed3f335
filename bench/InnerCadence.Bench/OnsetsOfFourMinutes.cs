using BenchmarkDotNet.Attributes;
using InnerCadence.Core.Sound;

namespace InnerCadence.Bench;

/// <summary>What was struck in four minutes of stereo sound, and its tempo: under eight seconds (time.md, "Sound").</summary>
[ShortRunJob, MemoryDiagnoser]
public class OnsetsOfFourMinutes
{
    private readonly byte[] block = new byte[4 * 16384];
    private readonly float[] mono = new float[16384];
    private readonly WavHead head = new(2, 44100, 16, false, 44, 0);

    [GlobalSetup]
    public void Fill() => new Random(1).NextBytes(block);

    [Benchmark]
    public int Find()
    {
        var onsets = new Onsets(head.Rate);
        for (var frames = 0; frames < 240 * 44100; frames += 16384) onsets.Add(mono.AsSpan(0, head.Decode(block, mono)));
        return onsets.Found().Count + onsets.Tempos().Count;
    }
}
