using InnerCadence.Core.Counting;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <summary>How often a voice is struck at a place of the bar.</summary>
public readonly record struct FoldedPlace(Voice Voice, Tick InBar, int Struck, int Bars)
{
    public double Share => (double)Struck / Bars;
}

/// <summary>A bar that departs from the commonest one: a fill, a set-up, a stop, or a bar that is marked wrongly.</summary>
/// <param name="Bar">From 1.</param>
/// <param name="Surprise">In nats more than bars have on the whole: the higher, the less it is like the others.</param>
/// <param name="Words">Such as: tom on 3, 3&amp;, 4; without kick on 3&amp;; crash on the next 1.</param>
public sealed record DepartingBar(int Bar, Seconds From, Seconds To, double Surprise, string Words);

/// <summary>What stays under a groove that never repeats, and the bars that depart from it.</summary>
/// <param name="Nucleus">What at least half of the bars have.</param>
/// <param name="Departing">The farthest first.</param>
/// <remarks>sound.md, "The commonest bar, and what departs from it": strokes that the ear hears are folded over the bars, each at the
/// nearest sixteenth, or triplet where those fit better; a bar's surprise is the sum over voices and places of -log of how many bars do as
/// it does, less what that is on the mean.</remarks>
public sealed record CommonestBar(Meter Meter, int Bars, ValueList<FoldedPlace> Places, Passage Nucleus,
    ValueList<DepartingBar> Departing)
{
    private const int Fewest = 4;
    private const double InHalf = 0.5, Rare = 0.3, Usual = 0.7, Least = 0.04;

    /// <param name="from">First bar, from 1.</param>
    /// <param name="to">Last bar; of them those of the commonest meter are folded.</param>
    /// <returns>Nothing with fewer than four bars.</returns>
    public static CommonestBar? Of(SoundBars bars, IReadOnlyList<HeardStroke> heard, int from, int to)
    {
        var inside = Enumerable.Range(Math.Max(0, from - 1), Math.Max(0, Math.Min(bars.Count, to) - Math.Max(0, from - 1))).ToList();
        if (inside.GroupBy(bars.MeterOf).OrderByDescending(g => g.Count()).FirstOrDefault() is not { } usual
            || usual.Count() < Fewest) return null;
        var (meter, chosen) = (usual.Key, usual.ToList());
        var length = meter.Length.Value;
        var step = Finer(bars, heard, chosen);
        var struck = chosen.ToDictionary(bar => bar, bar => StruckIn(bars, heard, bar, step, length));
        FoldedPlace[] places = [.. struck.Values.SelectMany(s => s).GroupBy(s => s)
            .Select(g => new FoldedPlace(g.Key.Voice, new(g.Key.Tick), g.Count(), chosen.Count)).OrderBy(p => p.Voice)
                .ThenBy(p => p.InBar)];
        var nucleus = new Passage(new([meter]), 1, [.. places.Where(p => p.Share >= InHalf).Select(p => new Stroke(p.InBar, p.Voice))
            .OrderBy(s => s.At).ThenBy(s => s.Voice)]);
        var mean = chosen.Average(bar => Surprise(places, struck[bar]));
        return new(meter, chosen.Count, places, nucleus, [.. chosen.Select(bar => new DepartingBar(bar + 1, bars.At(bars.StartOf(bar)),
            bars.At(bars.StartOf(bar) + meter.Length),
                Surprise(places, struck[bar]) - mean, Words(places, meter, struck[bar], struck.GetValueOrDefault(bar + 1))))
            .Where(d => d.Surprise > 0 && d.Words.Length > 0).OrderByDescending(d => d.Surprise)]);
    }

    private static double Surprise(FoldedPlace[] places, HashSet<(Voice, int)> struck) =>
        places.Sum(p => -Math.Log(Math.Clamp(struck.Contains((p.Voice, p.InBar.Value)) ? p.Share : 1 - p.Share, Least, 1)));

    /// <summary>Sixteenths or triplets, whichever the strokes of these bars lie nearer to.</summary>
    private static int Finer(SoundBars bars, IReadOnlyList<HeardStroke> heard, List<int> chosen)
    {
        double Off(int step) => chosen.Sum(bar => heard.Where(h => h.At >= bars.At(bars.StartOf(bar))
            && h.At < bars.At(bars.StartOf(bar) + bars.MeterOf(bar).Length))
            .Sum(h => bars.TickIn(bar, h.At) % step is var over ? Math.Min(over, step - over) : 0));
        const int Sixteenth = Tick.PerQuarter / 4, Triplet = Tick.PerQuarter / 3;
        // A finer grid is nearer by itself: as if strokes were spread evenly, by the share of its steps.
        return Off(Triplet) / Triplet < 0.6 * Off(Sixteenth) / Sixteenth ? Triplet : Sixteenth;
    }

    private static HashSet<(Voice Voice, int Tick)> StruckIn(SoundBars bars, IReadOnlyList<HeardStroke> heard, int bar, int step,
        int length)
    {
        var (from, to) = (bars.At(bars.StartOf(bar)), bars.At(bars.StartOf(bar) + bars.MeterOf(bar).Length));
        var early = (to - from) * ((double)step / 2 / length);
        return [.. heard.Where(h => h.At >= from - early && h.At < to - early)
            .Select(h => (h.Voice, (int)Math.Round(Math.Max(0, bars.TickIn(bar, h.At)) / step) * step)).Where(s => s.Item2 < length)];
    }

    private static string Words(FoldedPlace[] places, Meter meter, HashSet<(Voice Voice, int Tick)> struck,
        HashSet<(Voice Voice, int Tick)>? after)
    {
        var share = places.ToDictionary(p => (p.Voice, p.InBar.Value), p => p.Share);
        string Listed(IEnumerable<(Voice Voice, int Tick)> some) => string.Join(", ", some.OrderBy(s => s.Tick)
            .Select(s => CountNames.Place(new(s.Tick), meter) ?? CountNames.Spoken(new(s.Tick), meter)));
        var words = struck.Where(s => share[s] < Rare).GroupBy(s => s.Voice).OrderByDescending(g => g.Count()).ThenBy(g => g.Key)
            .Select(g => $"{g.Key.Name} on {Listed(g)}").Concat(places.Where(p => p.Share > Usual
                && !struck.Contains((p.Voice, p.InBar.Value)))
                .GroupBy(p => p.Voice).Select(g => g.Count() == places.Count(p => p.Voice == g.Key && p.Share > Usual)
                    ? $"without {g.Key.Name}"
                    : $"without {g.Key.Name} on {Listed(g.Select(p => (p.Voice, p.InBar.Value)))}")).ToList();
        if (after?.Contains((Voice.Crash, 0)) == true && share.GetValueOrDefault((Voice.Crash, 0)) < Rare) words.Add("crash on the next 1");
        return string.Join("; ", words);
    }
}
