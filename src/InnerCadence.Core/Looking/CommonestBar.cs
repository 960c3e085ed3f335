using InnerCadence.Core.Counting;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <summary>How often a voice is struck at a place of the pattern.</summary>
/// <param name="Bar">Of the pattern, from 1.</param>
/// <param name="Bars">That were folded over it.</param>
public readonly record struct FoldedPlace(int Bar, Voice Voice, Tick InBar, int Struck, int Bars)
{
    public double Share => (double)Struck / Bars;
}

/// <summary>A bar that departs from the commonest one: a fill, a set-up, a stop, or a bar that is marked wrongly.</summary>
/// <param name="Bar">From 1.</param>
/// <param name="OfPattern">Which bar of the pattern it would be, from 1.</param>
/// <param name="Surprise">In nats more than bars have on the whole: the higher, the less it is like the others.</param>
/// <param name="Words">Such as: tom on 3, 3&amp;, 4; without kick on 3&amp;; crash on the next 1.</param>
public sealed record DepartingBar(int Bar, int OfPattern, Seconds From, Seconds To, double Surprise, string Words);

/// <summary>What was written of a bar that is folded.</summary>
/// <param name="Bar">Of the recording, from 1.</param>
public sealed record WrittenBar(int Bar, ValueList<(Voice Voice, Tick InBar)> Strokes)
{
    /// <summary>The bars of a passage that begins at a bar; an echo is nothing that was struck.</summary>
    public static IEnumerable<WrittenBar> Of(Passage passage, int first)
    {
        var byBar = passage.Strokes.Where(s => !s.Echo).ToLookup(s => passage.Meters.Locate(s.At).Bar,
            s => (s.Voice, passage.Meters.Locate(s.At).InBar));
        return Enumerable.Range(0, passage.Bars).Select(bar => new WrittenBar(first + bar, [.. byBar[bar]]));
    }
}

/// <summary>A place of the pattern as it was written, beside what is heard there.</summary>
/// <param name="Written">In so many of the written bars.</param>
/// <param name="Struck">In so many bars its family is heard there.</param>
public readonly record struct BesideWritten(int Bar, Voice Voice, Tick InBar, int Written, int WrittenBars, int Struck, int Bars)
{
    private const double Hardly = 0.3, Usual = 0.7;

    /// <summary>It is written and hardly ever heard.</summary>
    public bool IsDoubted => 2 * Written >= WrittenBars && Written > 0 && Struck < Hardly * Bars;

    /// <summary>It is heard nearly always and written nowhere.</summary>
    public bool IsLeftOut => Written == 0 && Struck >= Usual * Bars;
}

/// <summary>What stays under a groove that never repeats, and the bars that depart from it.</summary>
/// <param name="Pattern">Bars of it: one, two or four.</param>
/// <param name="Nucleus">What at least half of the bars have, <paramref name="Pattern"/> bars long.</param>
/// <param name="Departing">The farthest first.</param>
/// <param name="Written">What was written of them beside what is heard, in order of bar and place.</param>
/// <remarks>sound.md, "The commonest bar, and what departs from it": strokes that the ear hears are folded over the bars, each at the
/// nearest sixteenth, or triplet where those fit better; a bar's surprise is the sum over voices and places of -log of how many bars do as
/// it does, less what that is on the mean.</remarks>
public sealed record CommonestBar(Meter Meter, int Bars, int Pattern, ValueList<FoldedPlace> Places, Passage Nucleus,
    ValueList<DepartingBar> Departing, ValueList<BesideWritten> Written)
{
    private const int Fewest = 4;
    private const double InHalf = 0.5, Rare = 0.3, Usual = 0.7, Least = 0.04;

    /// <param name="from">First bar, from 1.</param>
    /// <param name="to">Last bar; of them those of the commonest meter are folded.</param>
    /// <param name="written">Bars of grooves that somebody wrote down: a fill is no part of what stays.</param>
    /// <returns>Nothing with fewer than four bars.</returns>
    public static CommonestBar? Of(SoundBars bars, IReadOnlyList<HeardStroke> heard, int from, int to,
        IReadOnlyList<WrittenBar>? written = null)
    {
        var inside = Enumerable.Range(Math.Max(0, from - 1), Math.Max(0, Math.Min(bars.Count, to) - Math.Max(0, from - 1))).ToList();
        if (inside.GroupBy(bars.MeterOf).OrderByDescending(g => g.Count()).FirstOrDefault() is not { } usual
            || usual.Count() < Fewest) return null;
        var (meter, chosen) = (usual.Key, usual.ToList());
        var grid = HeardGrid.Of(bars, heard, chosen);
        var struck = chosen.ToDictionary(bar => bar, grid.StruckIn);
        var pattern = PatternLength.Of(inside[0], struck);
        int Turn(int bar) => (bar - inside[0]) % pattern;
        var turns = chosen.GroupBy(Turn).ToDictionary(g => g.Key, g => g.Count());
        FoldedPlace[] places = [.. struck.SelectMany(s => s.Value.Select(p => (Turn: Turn(s.Key), Place: p))).GroupBy(s => s)
            .Select(g => new FoldedPlace(g.Key.Turn + 1, g.Key.Place.Voice, new(g.Key.Place.Tick), g.Count(), turns[g.Key.Turn]))
            .OrderBy(p => p.Bar).ThenBy(p => p.Voice).ThenBy(p => p.InBar)];
        var nucleus = new Passage(new([meter]), pattern, [.. places.Where(p => p.Share >= InHalf)
            .Select(p => new Stroke(meter.Length * (p.Bar - 1) + p.InBar, p.Voice)).OrderBy(s => s.At).ThenBy(s => s.Voice)]);
        var ofTurn = Enumerable.Range(0, pattern).Select(turn => places.Where(p => p.Bar == turn + 1).ToArray()).ToArray();
        var mean = chosen.Average(bar => Surprise(ofTurn[Turn(bar)], struck[bar]));
        return new(meter, chosen.Count, pattern, places, nucleus,
            [.. chosen.Select(bar => new DepartingBar(bar + 1, Turn(bar) + 1, bars.At(bars.StartOf(bar)),
                bars.At(bars.StartOf(bar) + meter.Length), Surprise(ofTurn[Turn(bar)], struck[bar]) - mean,
                Words(ofTurn[Turn(bar)], meter, struck[bar], struck.GetValueOrDefault(bar + 1), ofTurn[Turn(bar + 1)])))
                .Where(d => d.Surprise > 0 && d.Words.Length > 0).OrderByDescending(d => d.Surprise)],
            [.. Enumerable.Range(0, pattern).SelectMany(turn => Beside(turn,
                [.. chosen.Where(b => Turn(b) == turn).Select(b => struck[b])],
                [.. (written ?? []).Where(w => struck.ContainsKey(w.Bar - 1) && Turn(w.Bar - 1) == turn)]))]);
    }

    /// <summary>By family: which tom or cymbal it is the ear does not know well enough to contradict anybody.</summary>
    private static IEnumerable<BesideWritten> Beside(int turn, IReadOnlyList<HashSet<(Voice Voice, int Tick)>> struck,
        IReadOnlyList<WrittenBar> written)
    {
        if (written.Count == 0) return [];
        int Heard(Family family, int tick) => struck.Count(s => s.Any(p => p.Voice.Family == family && p.Tick == tick));
        var told = written.SelectMany(w => w.Strokes.Distinct()).GroupBy(s => s).Select(g => new BesideWritten(turn + 1, g.Key.Voice,
            g.Key.InBar, g.Count(), written.Count, Heard(g.Key.Voice.Family, g.Key.InBar.Value), struck.Count)).ToList();
        var known = told.Select(t => (t.Voice.Family, t.InBar)).ToHashSet();
        var more = struck.SelectMany(s => s).Distinct().Where(s => !known.Contains((s.Voice.Family, new(s.Tick))))
            .Select(s => new BesideWritten(turn + 1, s.Voice, new(s.Tick), 0, written.Count,
                struck.Count(b => b.Contains(s)), struck.Count)).Where(b => b.IsLeftOut);
        return told.Concat(more).OrderBy(b => b.Voice).ThenBy(b => b.InBar);
    }

    private static double Surprise(FoldedPlace[] places, HashSet<(Voice, int)> struck) =>
        places.Sum(p => -Math.Log(Math.Clamp(struck.Contains((p.Voice, p.InBar.Value)) ? p.Share : 1 - p.Share, Least, 1)));

    private static string Words(FoldedPlace[] places, Meter meter, HashSet<(Voice Voice, int Tick)> struck,
        HashSet<(Voice Voice, int Tick)>? after, FoldedPlace[] placesAfter)
    {
        if (struck.Count == 0) return "nothing is heard";
        var share = places.ToDictionary(p => (p.Voice, p.InBar.Value), p => p.Share);
        string Listed(IEnumerable<(Voice Voice, int Tick)> some) => string.Join(", ", some.OrderBy(s => s.Tick)
            .Select(s => CountNames.Place(new(s.Tick), meter) ?? CountNames.Spoken(new(s.Tick), meter)));
        var words = struck.Where(s => share[s] < Rare).GroupBy(s => s.Voice).OrderByDescending(g => g.Count()).ThenBy(g => g.Key)
            .Select(g => $"{g.Key.Name} on {Listed(g)}").Concat(places.Where(p => p.Share > Usual
                && !struck.Contains((p.Voice, p.InBar.Value)))
                .GroupBy(p => p.Voice).Select(g => g.Count() == places.Count(p => p.Voice == g.Key && p.Share > Usual)
                    ? $"without {g.Key.Name}"
                    : $"without {g.Key.Name} on {Listed(g.Select(p => (p.Voice, p.InBar.Value)))}")).ToList();
        if (after?.Contains((Voice.Crash, 0)) == true
            && !placesAfter.Any(p => p.Voice == Voice.Crash && p.InBar == Tick.Zero && p.Share >= Rare)) words.Add("crash on the next 1");
        return string.Join("; ", words);
    }
}
