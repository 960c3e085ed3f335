namespace InnerCadence.Core.Hearing;

/// <summary>Bars of seven eighths, over which steady quarters go: two of them are heard as one of seven beats.</summary>
/// <remarks>sound.md, "Beats".</remarks>
internal static class UnevenSevens
{
    /// <summary>A line is as strong in the middle of such bars as at their ends, but for this.</summary>
    private const double AsStrong = 0.35;
    private const int Double = 7;

    /// <param name="beats">Steady.</param>
    /// <param name="path">The pulse frames they lie at.</param>
    /// <returns>The beats, or where a line is heard between the fourth and the fifth of seven, three a bar, the last half as long
    /// again.</returns>
    public static IReadOnlyList<HeardBeat> Of(IReadOnlyList<HeardBeat> beats, IReadOnlyList<int> path, Activations heard)
    {
        int[] lines = [.. Enumerable.Range(0, beats.Count).Where(i => beats[i].Bar)];
        var doubles = lines.Zip(lines.Skip(1)).Where(bar => bar.Second - bar.First == Double).Select(bar => bar.First).ToHashSet();
        if (2 * doubles.Count < lines.Length - 1 || doubles.Count == 0) return beats;
        var (ends, middles) = (doubles.Sum(i => heard.BarLineNear(path[i])),
            doubles.Sum(i => heard.BarLineNear((path[i + 3] + path[i + 4]) / 2)));
        if (middles < AsStrong * ends) return beats;

        // What is left after the last line is the beginning of another.
        if (doubles.Contains(lines[^1] - Double)) doubles.Add(lines[^1]);
        var uneven = new List<HeardBeat>();
        for (var i = 0; i < beats.Count;)
        {
            if (!doubles.Contains(i))
            {
                uneven.Add(beats[i++]);
                continue;
            }
            var next = Math.Min(i + Double, beats.Count);
            for (var beat = 0; beat < 3 && i + beat < next; beat++) uneven.Add(beats[i + beat]);
            for (var beat = 3; beat < 6 && i + beat + 1 < next; beat++)
                uneven.Add(new((beats[i + beat].At + beats[i + beat + 1].At) / 2, beat == 3));
            i = next;
        }
        return uneven;
    }
}
