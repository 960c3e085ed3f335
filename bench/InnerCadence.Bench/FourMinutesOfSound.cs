using BenchmarkDotNet.Attributes;
using InnerCadence.Core.Hearing;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Bench;

/// <summary>Four minutes of stereo sound: their picture under a second, what was struck in them under eight (time.md, "Sound"). The
/// picture’s memory does not grow but for fifty bytes a second.</summary>
[ShortRunJob, MemoryDiagnoser]
public class FourMinutesOfSound
{
    private readonly byte[] block = new byte[4 * 16384];
    private readonly float[] mono = new float[16384];
    private readonly SidesAsOne sides = new();
    private readonly WavHead head = new(2, 44100, 16, false, 44, 0);

    /// <summary>By the trained ear: strokes, beats and all (sound.md, "Windows").</summary>
    [Benchmark]
    public int HearByEar()
    {
        var ear = ShippedEar.Find()!;
        var pass = new EarPass(ear, head.Rate);
        for (var frames = 0; frames < 240 * 44100; frames += 16384) pass.Add(mono.AsSpan(0, head.Decode(block, mono, sides)));
        var heard = pass.End();
        var strokes = HeardStrokes.In(heard, ear);
        return strokes.Count + HeardBeats.Of(heard, strokes).Beats.Count;
    }

    [GlobalSetup]
    public void Fill() => new Random(1).NextBytes(block);

    [Benchmark]
    public int MakeOverview()
    {
        var overview = new Overview(head.Rate);
        for (var frames = 0; frames < 240 * 44100; frames += 16384) overview.Add(mono.AsSpan(0, head.Decode(block, mono, sides)));
        return overview.Columns().Length;
    }

    [Benchmark]
    public int FindOnsets()
    {
        var onsets = new Onsets(head.Rate);
        for (var frames = 0; frames < 240 * 44100; frames += 16384) onsets.Add(mono.AsSpan(0, head.Decode(block, mono, sides)));
        return onsets.Found().Count + onsets.Tempos().Count;
    }
}
