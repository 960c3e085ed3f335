using InnerCadence.Core.Counting;
using InnerCadence.Core.Music;
using MathNet.Numerics.Statistics;

namespace InnerCadence.Core.Timing;

/// <summary>A stroke that is played unlike the others of its voice.</summary>
/// <param name="Bar">Of the passage, from 0.</param>
/// <param name="Milliseconds">Against what is usual there, late positive.</param>
public sealed record OddStroke(Tick At, int Bar, Voice Voice, Tick InBar, double Milliseconds)
{
    /// <summary>bar 3, kick on the e of 3: 31 ms later than elsewhere</summary>
    /// <param name="first">Number of the passage's first bar.</param>
    public string Words(Passage passage, int first = 1) =>
        $"bar {first + Bar}, {Voice.Name} on {CountNames.Spoken(InBar, passage.Meters.MeterOf(Bar))}: "
        + FormattableString.Invariant($"{Math.Abs(Milliseconds):0} ms {(Milliseconds > 0 ? "later" : "earlier")} than elsewhere");
}

/// <summary>Which strokes stand out.</summary>
/// <remarks>time.md, "Micro-timing": over 15 ms and over 3.5 robust deviations (of all strokes, or of its voice where that is more) from
/// the median of its voice at the same place in the other bars, or of its voice in the whole passage where fewer than three other bars
/// have it.</remarks>
internal static class OddStrokes
{
    private const double Least = 15, Deviations = 3.5, MadToDeviation = 1.4826, LeastOthers = 3;

    /// <summary>Strokes of a voice from which its own spread is known.</summary>
    private const int LeastOfVoice = 4;

    /// <returns>In order of time.</returns>
    public static IReadOnlyList<OddStroke> In(Passage passage, IReadOnlyList<StrokeOffset> strokes)
    {
        var usual = strokes.Select(s => Usual(passage, strokes, s)).ToList();
        var off = strokes.Select((s, i) => usual[i] is { } there ? s.Milliseconds - there : 0).ToList();
        var known = Enumerable.Range(0, strokes.Count).Where(i => usual[i] is not null).ToList();
        if (known.Count < 4) return [];
        double Spread(IEnumerable<int> which) => MadToDeviation * which.Select(i => Math.Abs(off[i])).Median();
        var all = Spread(known);
        // A voice that is scattered as a whole has no odd stroke because the others are even.
        var deviations = known.GroupBy(i => strokes[i].Voice)
            .ToDictionary(v => v.Key, v => v.Count() < LeastOfVoice ? all : Math.Max(all, Spread(v)));
        return [.. strokes.Select((s, i) => (Stroke: s, Off: off[i], Place: passage.Meters.Locate(s.At)))
            .Where((o, i) => usual[i] is not null && Math.Abs(o.Off) > Least && Math.Abs(o.Off) > Deviations * deviations[o.Stroke.Voice])
            .Select(o => new OddStroke(o.Stroke.At, o.Place.Bar, o.Stroke.Voice, o.Place.InBar, o.Off)).OrderBy(o => o.At)
                .ThenBy(o => o.Voice)];
    }

    /// <summary>Nothing where no other stroke tells.</summary>
    private static double? Usual(Passage passage, IReadOnlyList<StrokeOffset> strokes, StrokeOffset of)
    {
        var (bar, inBar) = passage.Meters.Locate(of.At);
        var others = strokes.Where(s => s.Voice == of.Voice && s.At != of.At).ToList();
        var same = others.Where(s => passage.Meters.Locate(s.At) is var (b, p) && b != bar && p == inBar).ToList();
        var from = same.Count >= LeastOthers ? same : others;
        return from.Count < 2 ? null : from.Select(s => s.Milliseconds).Median();
    }
}
