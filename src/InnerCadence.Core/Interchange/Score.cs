using InnerCadence.Core.Music;

namespace InnerCadence.Core.Interchange;

/// <summary>A note, a chord or a rest of ordinary notation.</summary>
/// <param name="At">In the passage.</param>
/// <param name="Lasts">As it is written, until the next sign of its voice.</param>
/// <param name="Type">1 a whole note, 2 a half, 4 a quarter, to 64.</param>
/// <param name="Dots">0 or 1.</param>
/// <param name="Tuplet">Nothing where the note is plain.</param>
/// <param name="Beam">Signs of one voice and bar that share a number may share a beam.</param>
/// <param name="Strokes">Struck together, in canonical voice order; none for a rest.</param>
public sealed record Sign(Tick At, Tick Lasts, int Type, int Dots, Tuplet? Tuplet, int Beam, ValueList<Stroke> Strokes)
{
    public bool IsRest => Strokes.IsEmpty;
}

/// <summary>So many notes in the time of so many of the same kind; signs with the same number belong together.</summary>
public readonly record struct Tuplet(int Number, int Actual, int Normal);

/// <summary>One bar of notation: hands with stems up, feet with stems down.</summary>
/// <param name="AsBefore">Stroke for stroke as the bar before.</param>
/// <param name="Hands">Covers the bar from its start to its end; one rest of Type 1 where nothing is struck.</param>
/// <param name="Feet">Likewise.</param>
public sealed record ScoreBar(Tick At, Meter Meter, bool AsBefore, ValueList<Sign> Hands, ValueList<Sign> Feet);

/// <summary>A passage in ordinary drum notation: what is decided before an engraver draws it or a file is written.</summary>
public static class Score
{
    private static readonly int[] PlainTypes = [1, 2, 4, 8, 16, 32, 64];
    private static readonly int[] TupletSizes = [3, 2, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 18, 20, 21, 24, 28, 30, 32, 36, 40,
        42, 45, 48, 56, 60, 63, 64, 70, 72, 80, 84, 90, 96];

    public static ValueList<ScoreBar> Of(Passage passage)
    {
        var byBar = passage.Strokes.ToLookup(s => passage.Meters.Locate(s.At).Bar);
        var bars = new List<ScoreBar>();
        for (var bar = 0; bar < passage.Bars; bar++)
        {
            var (at, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
            var before = bar == 0 ? default : passage.Meters.StartOf(bar - 1);
            var asBefore = bar > 0 && meter.Equals(passage.Meters.MeterOf(bar - 1)) && byBar[bar].Any()
                && !(bar == 1 && passage.Pickup > Tick.Zero)
                && byBar[bar].Select(s => s with { At = s.At - at })
                    .SequenceEqual(byBar[bar - 1].Select(s => s with { At = s.At - before }))
                && passage.Unheard.Where(u => u.Bar == bar).Select(u => u.Voice).Order()
                    .SequenceEqual(passage.Unheard.Where(u => u.Bar == bar - 1).Select(u => u.Voice).Order());
            bars.Add(new(at, meter, asBefore, Signs(byBar[bar].Where(s => !s.Voice.IsFoot), at, meter),
                Signs(byBar[bar].Where(s => s.Voice.IsFoot), at, meter)));
        }
        return bars.ToValueList();
    }

    private static ValueList<Sign> Signs(IEnumerable<Stroke> strokes, Tick bar, Meter meter)
    {
        var moments = strokes.GroupBy(s => s.At - bar).ToDictionary(g => g.Key, g => g.OrderBy(s => s.Voice).ToValueList());
        if (moments.Count == 0) return [new(bar, meter.Length, 1, 0, null, 0, [])];
        var signs = new List<Sign>();
        var (at, number) = (Tick.Zero, 0);
        foreach (var counts in meter.Pulses)
        {
            var length = meter.Beat * counts;
            var inPulse = moments.Where(m => m.Key >= at && m.Key < at + length).ToDictionary(m => m.Key - at, m => m.Value);
            signs.AddRange(Pulse(bar + at, length, number++, inPulse));
            at += length;
        }
        return signs.ToValueList();
    }

    /// <summary>One pulse filled with signs: plain values where they reach every stroke, else the tuplet of fewest notes that
    /// does.</summary>
    private static IEnumerable<Sign> Pulse(Tick start, Tick length, int number, Dictionary<Tick, ValueList<Stroke>> moments)
    {
        var cuts = moments.Keys.Append(Tick.Zero).Distinct().Order().ToList();
        var tuplet = cuts.All(IsPlain) && IsPlain(length) ? null : TupletOf(length, cuts, number);
        for (var i = 0; i < cuts.Count; i++)
        {
            var (from, end) = (cuts[i], i + 1 < cuts.Count ? cuts[i + 1] : length);
            var strokes = moments.GetValueOrDefault(from, []);
            while (from < end)
            {
                var (lasts, type, dots) = Longest(end - from, tuplet);
                yield return new(start + from, lasts, type, dots, tuplet, number, strokes);
                (from, strokes) = (from + lasts, []);
            }
        }
    }

    private static bool IsPlain(Tick length) => length.Value % (Tick.PerQuarter / 16) == 0;

    private static Tuplet? TupletOf(Tick length, List<Tick> cuts, int number)
    {
        foreach (var size in TupletSizes)
        {
            if (length.Value % size != 0 || cuts.Any(c => c.Value % (length.Value / size) != 0)) continue;
            // The written notes: a power of two of them fills a plain pulse, three times that a dotted one.
            var normal = length.Value % 3 == 0 && IsPlain(new(length.Value / 3)) && !IsPlainValue(length) ? 3 : 1;
            while (normal * 2 <= size) normal *= 2;
            if (normal != size && IsPlainValue(new(length.Value / normal))) return new(number, size, normal);
        }
        return null;
    }

    private static bool IsPlainValue(Tick length) => PlainTypes.Any(t => 4 * Tick.PerQuarter / t == length.Value);

    /// <summary>The longest single sign that fits, as long as it sounds.</summary>
    private static (Tick Lasts, int Type, int Dots) Longest(Tick room, Tuplet? tuplet)
    {
        foreach (var type in PlainTypes)
        {
            for (var dots = 1; dots >= 0; dots--)
            {
                var written = 4 * Tick.PerQuarter / type * (dots == 1 ? 3 : 2) / 2;
                var sounding = tuplet is { } t ? (long)written * t.Normal / t.Actual : written;
                if (sounding <= room.Value && sounding > 0 && (tuplet is null
                    || (long)written * tuplet.Value.Normal % tuplet.Value.Actual == 0)) return (new((int)sounding), type, dots);
            }
        }
        // Shorter than a 64th: nothing plain is that short, the sign takes what room there is.
        return (room, 64, 0);
    }
}
