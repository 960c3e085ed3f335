using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <summary>Strokes that the ear hears, each at the nearest sixteenth of its bar, or triplet where those fit better.</summary>
public sealed class HeardGrid
{
    private const int Sixteenth = Tick.PerQuarter / 4, Triplet = Tick.PerQuarter / 3;

    private readonly SoundBars bars;
    private readonly IReadOnlyList<HeardStroke> heard;
    private readonly double[] times;
    private readonly int step;

    private HeardGrid(SoundBars bars, IReadOnlyList<HeardStroke> heard, double[] times, int step) =>
        (this.bars, this.heard, this.times, this.step) = (bars, heard, times, step);

    /// <param name="heard">In order of time.</param>
    /// <param name="chosen">Bars, from 0, that say which grid fits.</param>
    public static HeardGrid Of(SoundBars bars, IReadOnlyList<HeardStroke> heard, IReadOnlyList<int> chosen)
    {
        double[] times = [.. heard.Select(h => h.At.Value)];
        var (byFour, byThree) = (0.0, 0.0);
        static double Off(double tick, int step) => tick % step is var over ? Math.Min(over, step - over) / step : 0;
        foreach (var bar in chosen)
            for (var h = Lower(times, bars.At(bars.StartOf(bar))); h < times.Length
                && times[h] < bars.At(bars.StartOf(bar) + bars.MeterOf(bar).Length); h++)
            {
                var tick = bars.TickIn(bar, heard[h].At);
                (byFour, byThree) = (byFour + Off(tick, Sixteenth), byThree + Off(tick, Triplet));
            }
        // A coarser grid is farther by itself, so that triplets must be much nearer.
        return new(bars, heard, times, byThree < 0.6 * byFour ? Triplet : Sixteenth);
    }

    /// <summary>Voices and their ticks in a bar, from 0; what comes half a step before its line is in it.</summary>
    public HashSet<(Voice Voice, int Tick)> StruckIn(int bar)
    {
        var length = bars.MeterOf(bar).Length.Value;
        var (from, to) = (bars.At(bars.StartOf(bar)), bars.At(bars.StartOf(bar) + bars.MeterOf(bar).Length));
        var early = (to - from) * ((double)step / 2 / length);
        var struck = new HashSet<(Voice, int)>();
        for (var h = Lower(times, from - early); h < times.Length && times[h] < to - early; h++)
        {
            var tick = (int)Math.Round(Math.Max(0, bars.TickIn(bar, heard[h].At)) / step) * step;
            if (tick < length) struck.Add((heard[h].Voice, tick));
        }
        return struck;
    }

    private static int Lower(double[] ascending, double at)
    {
        var found = Array.BinarySearch(ascending, at);
        return found < 0 ? ~found : found;
    }
}
