namespace InnerCadence.Core.Hearing;

/// <summary>The beat is heard from the strokes' strengths as they go by.</summary>
/// <remarks>sound.md, "Windows". A window is given with as much on each side as the network sees, so that where it is cut makes no
/// difference.</remarks>
internal sealed class PulsePass(Ear ear)
{
    /// <summary>Pulse frames of a window, and how far the network sees each way, both a multiple of the four that it takes as one moment:
    /// the first layer's two, dilations of 1 to 256, and in moments those of 1 to 64.</summary>
    private const int Window = 3000, Side = 1040;

    private readonly List<float> strengths = [];
    private readonly List<byte> heard = [];
    private float[] window = [], beats = [];
    private int first, given, done;

    /// <summary>Takes the families' strengths of the next pulse frame.</summary>
    public void Add(ReadOnlySpan<float> families)
    {
        strengths.AddRange(families);
        if (++given >= done + Window + Side) Hear(done + Window);
    }

    /// <returns>Beat and bar line a pulse frame, as they are kept.</returns>
    public byte[] End()
    {
        while (done < given) Hear(Math.Min(done + Window, given));
        return [.. heard];
    }

    private void Hear(int until)
    {
        var (width, from, to) = (Ear.Families.Count, Math.Max(0, done - Side), Math.Min(given, until + Side));
        var count = (to - from) * width;
        if (window.Length < count) (window, beats) = (new float[count], new float[(to - from) * Ear.PulseOutputs]);
        strengths.CopyTo((from - first) * width, window, 0, count);
        ear.Beats(window.AsMemory(0, count), beats);
        foreach (var value in beats.AsSpan((done - from) * Ear.PulseOutputs, (until - done) * Ear.PulseOutputs))
            heard.Add(Activations.Kept(value));
        done = until;
        var keep = Math.Max(first, done - Side);
        strengths.RemoveRange(0, (keep - first) * width);
        first = keep;
    }
}
