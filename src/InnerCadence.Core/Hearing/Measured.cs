using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Hearing;

/// <summary>A written stroke as it was played.</summary>
/// <param name="At">In the sound.</param>
/// <param name="Offset">From the fitted grid, in milliseconds, late positive.</param>
/// <param name="Sureness">How clearly its start is heard, 0 to 1.</param>
/// <param name="Flam">Milliseconds from its grace stroke to it; nothing where none was heard.</param>
public sealed record MeasuredStroke(Stroke Stroke, Seconds At, double Offset, double Sureness, double? Flam, double? Loudness);

/// <param name="Against">Milliseconds against what is usual there, late positive.</param>
public readonly record struct MeasuredOdd(Stroke Stroke, double Against);

/// <summary>A passage measured against its sound.</summary>
/// <param name="Missing">Written and not in the sound.</param>
/// <param name="Extra">In the sound and not written.</param>
/// <param name="Bars">Quarters a minute of each bar of the fitted grid.</param>
/// <param name="Lines">The fitted bar lines.</param>
/// <param name="Timekeeper">The voice with most strokes, against which others are late; nothing where nothing was matched.</param>
/// <param name="Voices">Against the grid, the odd strokes left out.</param>
public sealed record Measured(IReadOnlyList<MeasuredStroke> Strokes, IReadOnlyList<Stroke> Missing, IReadOnlyList<HeardStroke> Extra,
    IReadOnlyList<double> Bars, IReadOnlyList<Seconds> Lines, Voice? Timekeeper, IReadOnlyList<VoiceTiming> Voices, IReadOnlyList<MeasuredOdd> Odd,
    MeasuredSwing? Swung)
{
    /// <summary>Strokes of a sound that are looked for far from the written place: of an ear that strains.</summary>
    public const double Eager = 0.12;

    /// <param name="at">Where its first bar line was heard, some 20 ms at most from where it is.</param>
    /// <param name="heard">Strokes of the sound, in order of time.</param>
    /// <param name="timeOf">When a stroke was struck, read from the sound; the ear's own time where there is none to read.</param>
    public static Measured Of(Passage passage, Seconds at, Bpm tempo, IReadOnlyList<HeardStroke> heard, RiseTimes? times)
    {
        var written = passage.Strokes.Where(s => !s.Echo).ToList();
        var grid = Coarse(passage, written, at, tempo, heard);
        var here = heard.Where(h => h.At > grid.Start - 0.12 && h.At < grid.End + 0.12).ToList();
        var exact = here.Select(h => times?.Of(h.At, h.Family) ?? (h.At, h.Confidence)).ToList();
        var matched = Match(passage, written, grid, here);
        for (var round = 0; round < 3; round++)
        {
            grid = Fitted(passage, grid, matched, exact, out _);
            matched = Match(passage, written, grid, here);
        }
        return Told(passage, written, grid, here, exact, matched);
    }

    /// <summary>Bar lines under the written tempo, some per cent slower or faster and some milliseconds off, where most strokes lie near
    /// what is heard of their family.</summary>
    private static LaidBars Coarse(Passage passage, List<Stroke> written, Seconds at, Bpm tempo, IReadOnlyList<HeardStroke> heard)
    {
        const double Widest = 0.026, Farthest = 0.035, Near = 0.014;
        var said = passage.Tempos is { Count: > 0 } own ? own : [new(Tick.Zero, tempo)];
        double[] lines = [.. Enumerable.Range(0, passage.Bars + 1).Select(b => TempoChange.SecondsTo(passage.Meters.StartOf(b), said).Value)];
        var places = written.Select(s => (TempoChange.SecondsTo(Swing.Played(s.At, passage), said).Value, s.Voice.Family)).ToList();
        var byFamily = heard.GroupBy(h => h.Family).ToDictionary(g => g.Key, g => g.Select(h => h.At.Value).ToArray());
        var (best, score) = ((Scale: 1.0, Off: 0.0), double.NegativeInfinity);
        for (var scale = 1 - Widest; scale <= 1 + Widest + 1e-9; scale += 0.001)
            for (var off = -Farthest; off <= Farthest + 1e-9; off += 0.005)
            {
                var sum = -2 * Math.Abs(off) - 4 * Math.Abs(scale - 1);
                foreach (var (place, family) in places)
                    if (byFamily.TryGetValue(family, out var there))
                    {
                        var distance = Nearest(there, at + off + place * scale) / Near;
                        if (distance < 4) sum += Math.Exp(-0.5 * distance * distance);
                    }
                if (sum > score) (score, best) = (sum, (scale, off));
            }
        return new([.. lines.Select(line => at + best.Off + line * best.Scale).Select(line => new Seconds(line))], passage, said);
    }

    private static double Nearest(double[] ascending, double at)
    {
        var next = Array.BinarySearch(ascending, at);
        if (next >= 0) return 0;
        next = ~next;
        return Math.Min(next < ascending.Length ? ascending[next] - at : double.MaxValue, next > 0 ? at - ascending[next - 1] : double.MaxValue);
    }

    /// <summary>A written stroke, the heard one it is, and its grace.</summary>
    private readonly record struct Pair(int Written, int Heard, int Grace);

    /// <summary>Each written stroke with the heard one that costs least: how far it lies, and how unlike its family is; none beyond 70 ms.
    /// </summary>
    private static List<Pair> Match(Passage passage, List<Stroke> written, LaidBars grid, List<HeardStroke> here)
    {
        const double Beyond = 0.07, WrongFamily = 0.055;
        var offers = new List<(double Cost, int Written, int Heard)>();
        for (var w = 0; w < written.Count; w++)
        {
            var place = grid.At(Swing.Played(written[w].At, passage));
            for (var h = 0; h < here.Count; h++)
            {
                var apart = Math.Abs(here[h].At - place);
                if (apart > Beyond) continue;
                var cost = apart + (here[h].Family == written[w].Voice.Family ? 0 : WrongFamily)
                    + (here[h].Voice == written[w].Voice ? 0 : 0.004) + 0.01 * (1 - here[h].Strength);
                if (cost < Beyond) offers.Add((cost, w, h));
            }
        }
        var (takenW, takenH, pairs) = (new HashSet<int>(), new HashSet<int>(), new List<Pair>());
        foreach (var (_, w, h) in offers.OrderBy(o => o.Cost))
        {
            if (takenW.Contains(w) || takenH.Contains(h)) continue;
            takenW.Add(w);
            takenH.Add(h);
            pairs.Add(new(w, h, -1));
        }
        for (var i = 0; i < pairs.Count; i++)
            if (written[pairs[i].Written].Ornaments.HasFlag(Ornaments.Flam)) pairs[i] = WithGrace(pairs[i], here, takenH);
        return pairs;
    }

    /// <summary>Of a flam the main stroke is the later and louder of two of its drum within 60 ms.</summary>
    private static Pair WithGrace(Pair pair, List<HeardStroke> here, HashSet<int> taken)
    {
        const double Widest = 0.06;
        var own = here[pair.Heard];
        var other = Enumerable.Range(0, here.Count).Where(h => h != pair.Heard && !taken.Contains(h) && here[h].Family == own.Family
            && Math.Abs(here[h].At - own.At) < Widest).Select(h => (int?)h).MinBy(h => Math.Abs(here[h!.Value].At - own.At));
        if (other is not { } found) return pair;
        taken.Add(found);
        return here[found].At < own.At ? pair with { Grace = found } : pair with { Heard = found, Grace = pair.Heard };
    }

    /// <summary>Bar lines by least squares over the matched strokes while each voice's mean is taken out and strokes far off are left out;
    /// the timekeeper's mean is 0.</summary>
    private static LaidBars Fitted(Passage passage, LaidBars grid, List<Pair> pairs, List<(Seconds At, double Sureness)> exact, out Voice? timekeeper)
    {
        var written = passage.Strokes.Where(s => !s.Echo).ToList();
        timekeeper = pairs.GroupBy(p => written[p.Written].Voice).OrderByDescending(g => g.Count()).ThenBy(g => g.Key).FirstOrDefault()?.Key;
        if (pairs.Count < 2 || timekeeper is not { } keeper) return grid;
        return GridFit.Of(passage, grid, [.. pairs.Select(p => new GridFit.Point(written[p.Written], exact[p.Heard].At, Math.Max(0.05, exact[p.Heard].Sureness)))],
            keeper);
    }

    private static Measured Told(Passage passage, List<Stroke> written, LaidBars grid, List<HeardStroke> here,
        List<(Seconds At, double Sureness)> exact, List<Pair> pairs)
    {
        grid = Fitted(passage, grid, pairs, exact, out var timekeeper);
        var strokes = pairs.Select(p => new MeasuredStroke(written[p.Written], exact[p.Heard].At,
                (exact[p.Heard].At - grid.At(Swing.Played(written[p.Written].At, passage))) * 1000, exact[p.Heard].Sureness,
                p.Grace >= 0 ? (exact[p.Heard].At - exact[p.Grace].At) * 1000 : null, here[p.Heard].Loudness))
            .OrderBy(s => s.Stroke.At).ThenBy(s => s.Stroke.Voice).ToList();
        var matched = pairs.Select(p => p.Written).ToHashSet();
        var used = pairs.SelectMany(p => (int[])[p.Heard, p.Grace]).ToHashSet();
        var odd = OddStrokes.In(passage, strokes);
        var usual = strokes.Where(s => !odd.Any(o => o.Stroke == s.Stroke)).ToList();
        Seconds[] lines = [.. Enumerable.Range(0, passage.Bars + 1).Select(b => grid.At(passage.Meters.StartOf(b)))];
        return new(strokes, [.. written.Where((_, w) => !matched.Contains(w))],
            [.. here.Where((h, i) => !used.Contains(i) && h.At > lines[0] - 0.03 && h.At < lines[^1] - 0.03 && IsExtra(h, here, used))],
            [.. Enumerable.Range(0, passage.Bars).Select(b => 60.0 * passage.Meters.MeterOf(b).Length.Value / Tick.PerQuarter / (lines[b + 1] - lines[b]))],
            lines, timekeeper, MicroTiming.Means(usual.Select(s => (s.Stroke.Voice, s.Offset))), odd, SwingOf(passage, grid, strokes));
    }

    /// <summary>Beside a stroke that is matched only what is as good as certain: one drum is easily heard as two.</summary>
    private static bool IsExtra(HeardStroke stroke, List<HeardStroke> here, HashSet<int> used)
    {
        const double Sure = 0.6, Certain = 0.9, OneMoment = 0.035;
        return stroke.Confidence >= Sure && (stroke.Strength >= Certain
            || !used.Any(i => i >= 0 && Math.Abs(here[i].At - stroke.At) < OneMoment));
    }

    /// <summary>Of the voice with most off-beats, each between its own strokes on the beat before and after.</summary>
    private static MeasuredSwing? SwingOf(Passage passage, LaidBars grid, List<MeasuredStroke> strokes)
    {
        var byVoice = strokes.GroupBy(s => s.Stroke.Voice).Select(of =>
        {
            var at = of.ToDictionary(s => s.Stroke.At.Value, s => s.At.Value);
            var half = Tick.PerQuarter / 2;
            return of.Where(s => s.Stroke.At.Value % Tick.PerQuarter == half || IsTriplet(s.Stroke.At))
                .Select(s => (On: s.Stroke.At.Value / Tick.PerQuarter * Tick.PerQuarter, Off: s.At.Value))
                .Where(s => at.ContainsKey(s.On) && at.ContainsKey(s.On + Tick.PerQuarter)).Select(s => (at[s.On], s.Off, at[s.On + Tick.PerQuarter]))
                .Where(b => b.Item1 < b.Off && b.Off < b.Item3).ToList();
        }).OrderByDescending(b => b.Count).FirstOrDefault();
        return byVoice is null ? null : MeasuredSwing.Of(byVoice);

        static bool IsTriplet(Tick at) => at.Value % Tick.PerQuarter == Tick.PerQuarter / 3 * 2;
    }
}
