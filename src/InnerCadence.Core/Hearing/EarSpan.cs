using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>What is read of a sound so that a span of it, heard alone, is what the whole file gives.</summary>
/// <remarks>sound.md, "Windows".</remarks>
public readonly record struct EarSpan
{
    /// <summary>At whole steps of these seconds a frame begins, and the thinned sound and every usual rate have a sample.</summary>
    private const int Step = 4;

    /// <summary>Frames that are read beyond those that are heard: what a frame sees, and what a change of rate takes to settle.</summary>
    private const int Margin = 20;

    private EarSpan(int firstWindow, int lastWindow) => (FirstWindow, LastWindow) = (firstWindow, lastWindow);

    internal int FirstWindow { get; }
    internal int LastWindow { get; }

    /// <summary>Every window of the fixed grid that the span touches.</summary>
    public static EarSpan Over(Seconds from, Seconds to) => new(WindowAt(from), Math.Max(WindowAt(from), WindowAt(to)));

    public int Windows => LastWindow - FirstWindow + 1;

    /// <summary>Where the samples begin that the pass is given.</summary>
    public Seconds From => new(Math.Max(0, (FirstWindow * EarPass.Window - EarPass.Side - Margin) / Ear.FramesPerSecond / Step * Step));

    /// <summary>Where they end, if the sound does not end before.</summary>
    public Seconds To => new((double)((LastWindow + 1) * EarPass.Window + EarPass.Side + Margin) / Ear.FramesPerSecond);

    /// <summary>No sound is longer than some days: a place beyond is its end.</summary>
    private const double Longest = 1_000_000;

    private static int WindowAt(Seconds at) => (int)(Math.Clamp(at.Value, 0, Longest) * Ear.FramesPerSecond) / EarPass.Window;
}
