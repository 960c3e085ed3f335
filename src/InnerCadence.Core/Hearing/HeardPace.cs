using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>How fast a record goes from beat to beat, as its beats were heard.</summary>
/// <remarks>sound.md, "A proposal".</remarks>
internal sealed class HeardPace
{
    /// <summary>Quarters that a heard beat may be long: half and twice the felt beat too, of two or three eighths.</summary>
    private static readonly double[] Lengths = [0.5, 0.75, 1, 1.5, 2, 3];

    /// <summary>Shares by which beats may be longer or shorter than the tempo has them, and one of them than the middle one
    /// around it.</summary>
    private const double OffTheTempo = 0.12, OffTheMiddle = 0.15;

    private readonly IReadOnlyList<(Seconds At, double Quarters)> beats;

    private HeardPace(IReadOnlyList<(Seconds At, double Quarters)> beats) => this.beats = beats;

    /// <summary>Where a beat is missing or one too many, the beats around it say how much time goes by.</summary>
    /// <param name="heard">In order; the first of them is zero quarters.</param>
    /// <param name="tempo">What the record goes at about.</param>
    /// <returns>Nothing where there are fewer than four, or where they go at another tempo.</returns>
    public static HeardPace? Of(IReadOnlyList<Seconds> heard, Bpm tempo)
    {
        if (heard.Count < 4) return null;
        double[] gaps = [.. heard.Zip(heard.Skip(1), (from, to) => to - from)];
        var told = Middle(gaps) / tempo.SecondsPerQuarter;
        var length = Lengths.MinBy(quarters => Math.Abs(Math.Log(told / quarters)));
        if (!Goes(told / length)) return null;
        var beats = new List<(Seconds At, double Quarters)> { (heard[0], 0) };
        for (var i = 0; i < gaps.Length; i++)
        {
            var (gap, middle) = (gaps[i], Middle(gaps[Math.Max(0, i - 3)..Math.Min(gaps.Length, i + 4)]));
            var several = Math.Max(1, Math.Round(gap / middle));
            var steady = Math.Abs(gap / (several * middle) - 1) <= OffTheMiddle;
            beats.Add((heard[i + 1], beats[^1].Quarters + length * (steady ? several : gap / middle)));
        }
        return new(beats);
    }

    /// <summary>Whether what goes so many times as fast as a tempo goes at it.</summary>
    public static bool Goes(double times) => Math.Abs(times - 1) <= OffTheTempo;

    private static double Middle(double[] gaps) => gaps.Order().ElementAt(gaps.Length / 2);

    /// <summary>From the first beat; before it and after the last as near by.</summary>
    public double QuartersAt(Seconds at)
    {
        var (from, to) = Around(beat => beat.At <= at);
        return from.Quarters + (to.Quarters - from.Quarters) * ((at - from.At) / (to.At - from.At));
    }

    public Seconds At(double quarters)
    {
        var (from, to) = Around(beat => beat.Quarters <= quarters);
        return from.At + (to.At - from.At) * ((quarters - from.Quarters) / (to.Quarters - from.Quarters));
    }

    private ((Seconds At, double Quarters) From, (Seconds At, double Quarters) To) Around(
        Func<(Seconds At, double Quarters), bool> isBefore)
    {
        var from = 0;
        while (from + 2 < beats.Count && isBefore(beats[from + 1])) from++;
        return (beats[from], beats[from + 1]);
    }
}
