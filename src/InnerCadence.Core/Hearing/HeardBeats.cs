using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <param name="Bar">A bar line is there.</param>
public readonly record struct HeardBeat(Seconds At, bool Bar);

/// <summary>Beats and bar lines as the ear takes them, and the tempos they may have.</summary>
/// <param name="Tempos">In beats a minute, the likeliest first; their weights add up to 1.</param>
public sealed record HeardBeats(ValueList<HeardBeat> Beats, ValueList<SoundTempo> Tempos)
{
    public static HeardBeats None { get; } = new([], []);

    private const double Slowest = 40, Fastest = 240;

    /// <summary>What a step costs that is not a period long: times the square of the octaves it is off.</summary>
    private const double Tightness = 12;

    /// <summary>A beat on which nothing is heard weighs more than what is heard between beats: an exponent, chosen on 90 made-up
    /// pieces.</summary>
    private const double BeatsCount = 1.7;
    private const int MostTempos = 4;

    /// <summary>What it costs that the first beat does not begin a bar: music begins with one more often than not.</summary>
    private const double Upbeat = 2;

    /// <summary>What it costs that a bar is not as long as the one before it, and where the recording's meters take turns.</summary>
    private const double Change = 8, InTurn = 1;

    /// <summary>
    /// Periods whose multiples the beat's strength repeats at are each tried: the path of steps about a period long on which the strength
    /// is greatest, by dynamic programming. The one stands that explains most of the strength with the fewest beats. Bar lines are the
    /// likeliest positions in bars of two to seven beats that seldom change.
    /// </summary>
    /// <param name="meters">What is known of the recording’s bars.</param>
    /// <param name="tempo">What is known of its quarters.</param>
    public static HeardBeats Of(Activations heard, IReadOnlyList<HeardStroke> strokes, MeterCycle? meters = null, Bpm? tempo = null)
    {
        if (heard.Pulses < 3 * Ear.PulsesPerSecond) return None;
        var strength = Enumerable.Range(0, heard.Pulses).Select(heard.Beat).ToArray();
        var peaks = Enumerable.Range(1, heard.Pulses - 2).Where(i => strength[i] >= strength[i - 1] && strength[i] > strength[i + 1])
            .Sum(i => strength[i]);
        var tried = Periods(strength).Select(period => (Period: period, Path: Path(strength, period)))
            .Where(t => t.Path.Count > 3)
            .Select(t => (t.Period, t.Path, Score: Score(t.Path, strength, peaks) * Known(t.Path, meters, tempo)))
            .OrderByDescending(t => t.Score).ToList();
        if (tried.Count == 0) return None;
        var best = tried[0];
        var beats = best.Path.Select(at => Near(strokes, new((Lean(strength, at) + 0.5) / Ear.PulsesPerSecond))).ToList();
        var bars = BarLines(best.Path, heard, Lengths(meters, InThrees(beats, strokes)), meters?.Meters.Count > 1 ? InTurn : Change);
        var own = Usual(beats);
        var tempos = new List<(double Bpm, double Score)> { (own, best.Score) };
        foreach (var other in tried.Skip(1))
            if (60.0 * Ear.PulsesPerSecond / other.Period is var bpm && tempos.TrueForAll(t => Math.Abs(t.Bpm / bpm - 1) > 0.06))
                tempos.Add((bpm, other.Score));
        foreach (var factor in (double[])[2, 0.5, 1.5, 2.0 / 3])
            if (own * factor is >= Slowest and <= Fastest && tempos.TrueForAll(t => Math.Abs(t.Bpm / (own * factor) - 1) > 0.06))
                tempos.Add((own * factor, best.Score * 0.1));
        var kept = tempos.Take(1).Concat(tempos.Skip(1).OrderByDescending(t => t.Score)).Take(MostTempos)
            .Select(t => (t.Bpm, W: t.Score * t.Score)).ToList();
        var sum = kept.Sum(t => t.W);
        return new([.. UnevenSevens.Of([.. beats.Zip(bars, (at, bar) => new HeardBeat(at, bar))], best.Path, heard)],
            [.. kept.Select(t => new SoundTempo(Math.Round(t.Bpm, 2), sum > 0 ? Math.Round(t.W / sum, 4) : 0))]);
    }

    /// <summary>Periods in frames, the clearest first.</summary>
    private static IEnumerable<double> Periods(double[] strength)
    {
        var (shortest, longest) = (60 / Fastest * Ear.PulsesPerSecond, 60 / Slowest * Ear.PulsesPerSecond);
        var mean = strength.Average();
        var likeness = Enumerable.Range(0, Math.Min(strength.Length, (int)(longest * 4) + 3)).Select(lag =>
        {
            var sum = 0.0;
            for (var i = lag; i < strength.Length; i++) sum += (strength[i] - mean) * (strength[i - lag] - mean);
            return sum / (strength.Length - lag);
        }).ToArray();
        double At(double lag) => (int)lag + 1 < likeness.Length
            ? likeness[(int)lag] + (lag - Math.Floor(lag)) * (likeness[(int)lag + 1] - likeness[(int)lag]) : 0;
        const int Steps = 240;
        var comb = Enumerable.Range(0, Steps + 1).Select(step => shortest * Math.Pow(longest / shortest, (double)step / Steps))
            .Select(lag => (Lag: lag, Sum: At(lag) + 0.8 * At(2 * lag) + 0.6 * At(3 * lag) + 0.5 * At(4 * lag))).ToList();
        return [.. Enumerable.Range(1, Steps - 1).Where(i => comb[i].Sum > comb[i - 1].Sum && comb[i].Sum >= comb[i + 1].Sum)
            .OrderByDescending(i => comb[i].Sum).Take(8).Select(i => comb[i].Lag)];
    }

    /// <summary>Frames of the beats.</summary>
    private static List<int> Path(double[] strength, double period)
    {
        var (least, most) = (Math.Max(1, (int)(period * 0.6)), (int)(period * 1.6) + 1);
        var (sums, from) = (new double[strength.Length], new int[strength.Length]);
        for (var at = 0; at < strength.Length; at++)
        {
            var (best, before) = (0.0, -1);
            for (var step = least; step <= most && step <= at; step++)
            {
                var off = Math.Log2(step / period);
                var sum = sums[at - step] - Tightness * off * off;
                if (sum > best) (best, before) = (sum, at - step);
            }
            (sums[at], from[at]) = (strength[at] - 0.1 + best, before);
        }
        var path = new List<int>();
        for (var at = Array.IndexOf(sums, sums.Max()); at >= 0; at = from[at]) path.Add(at);
        path.Reverse();
        return path;
    }

    /// <summary>The share of beats that are strong times the share of strength that is on beats; slow and fast tempos are a little less
    /// likely.</summary>
    private static double Score(List<int> path, double[] strength, double peaks)
    {
        var on = path.Sum(at => strength[at]);
        var bpm = BeatsAMinute(path);
        var weakest = Math.Exp(0.5 * path.Average(at => Math.Log(Math.Max(0.05, strength[at]))));
        var usual = Math.Exp(-0.5 * Math.Pow(Math.Log2(bpm / 104), 2));
        return Math.Pow(on / path.Count, BeatsCount) * on / Math.Max(1e-9, peaks) * weakest * usual;
    }

    /// <summary>What a tempo is worth where another is known, which a record may leave by a fifth.</summary>
    private static double Known(List<int> path, MeterCycle? meters, Bpm? tempo)
    {
        if (tempo is not { } quarters) return 1;
        var beat = quarters.Value / SoundTempo.QuartersOfABeat(meters);
        return Math.Max(0.02, Math.Exp(-0.5 * Math.Pow(Math.Log2(BeatsAMinute(path) / beat) / 0.15, 2)));
    }

    private static double BeatsAMinute(List<int> path) => 60.0 * Ear.PulsesPerSecond * (path.Count - 1) / (path[^1] - path[0]);

    private static double Lean(double[] strength, int at)
    {
        if (at < 1 || at + 1 >= strength.Length || strength[at] <= 0) return at;
        return at + Math.Clamp((strength[at + 1] - strength[at - 1]) / (2 * strength[at]), -0.5, 0.5);
    }

    /// <summary>A beat lies where something is struck at it, where something is.</summary>
    private static Seconds Near(IReadOnlyList<HeardStroke> strokes, Seconds at)
    {
        var near = Between(strokes, at - 0.035, at + 0.035).ToList();
        var weight = near.Sum(s => s.Strength);
        return weight > 0 ? new(near.Sum(s => s.At * s.Strength) / weight) : at;
    }

    private static IEnumerable<HeardStroke> Between(IReadOnlyList<HeardStroke> strokes, double from, double to)
    {
        var (low, high) = (0, strokes.Count);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (strokes[middle].At < from) low = middle + 1;
            else high = middle;
        }
        for (var i = low; i < strokes.Count && strokes[i].At <= to; i++) yield return strokes[i];
    }

    /// <summary>Beats a minute: of the middle half of the gaps.</summary>
    private static double Usual(List<Seconds> beats)
    {
        double[] gaps = [.. beats.Zip(beats.Skip(1), (a, b) => b - a).Order()];
        var middle = gaps[(gaps.Length / 4)..(gaps.Length - gaps.Length / 4)];
        return 60 / middle.Average();
    }

    /// <summary>Beats are divided in three: more is struck a third after them than at halves and quarters.</summary>
    private static bool InThrees(List<Seconds> beats, IReadOnlyList<HeardStroke> strokes)
    {
        var (threes, twos) = (0.0, 0.0);
        foreach (var (from, to) in beats.Zip(beats.Skip(1)))
            foreach (var stroke in Between(strokes, from, to))
            {
                var place = (stroke.At - from) / (to - from);
                if (Math.Abs(place - 1.0 / 3) < 0.055) threes += stroke.Strength;
                else if (Math.Abs(place - 0.5) < 0.055 || Math.Abs(place - 0.25) < 0.03) twos += stroke.Strength;
            }
        return threes > twos;
    }

    /// <param name="Cost">How unlikely a bar has so many beats, before anything is heard; told once.</param>
    /// <param name="EachCost">Told for every such bar.</param>
    private readonly record struct BarLength(int Beats, double Cost, double EachCost = 0);

    /// <summary>Bars of two beats are those of 6/8 where beats are divided in three; in common time they are half a bar more often. Where
    /// somebody chose meters bars are of those, in 6/8 and its like of single counts too; beside 4/4, which a recording has that nobody
    /// chose a meter for, all may be but halves of it.</summary>
    private static List<BarLength> Lengths(MeterCycle? meters, bool inThrees)
    {
        BarLength[] usual = [new(4, 0), new(3, 2), inThrees ? new(2, 2) : new(2, 3, 0.3), new(5, 4), new(6, 4), new(7, 5)];
        // Of seven eighths two bars together, over which the beat is even: UnevenSevens.
        if (meters?.Meters.All(m => m is { Counts: 7, Lower: 8 }) == true)
            return [new(7, 0), .. usual.Where(u => u.Beats < 7).Select(u => u with { Cost = u.Cost + 4 })];
        if (meters is null || meters.Meters.Select(BeatsOf).Distinct().ToList() is var own && own.Contains(0)) return [.. usual];
        if (own is [4]) return [.. usual.Where(u => u.Beats != 2)];
        return [.. own.Select(n => new BarLength(n, 0)), .. meters.Meters.Where(m => m.Pulses[0] == 3).Select(m => m.Counts).Distinct()
            .Select(n => new BarLength(n, 2, 3))];
    }

    /// <summary>Of a bar, as the ear takes beats; 0 where they are of several lengths or so quick that it takes others.</summary>
    private static int BeatsOf(Meter meter) => meter.Pulses.Distinct().Count() > 1 || (meter.Lower > 4 && meter.Pulses[0] == 1) ? 0
        : meter.Lower < 4 ? meter.Counts * 4 / meter.Lower : meter.Pulses.Count;

    /// <summary>Which beats begin a bar: the likeliest path through bars of these lengths.</summary>
    /// <param name="change">What it costs that a bar is not as long as the one before it.</param>
    private static bool[] BarLines(List<int> path, Activations heard, IReadOnlyList<BarLength> lengths, double change)
    {
        var states = lengths.SelectMany(m => Enumerable.Range(0, m.Beats)
            .Select(position => (m.Beats, Position: position, m.Cost, m.EachCost))).ToArray();
        var cost = states.Select(s => s.Cost).ToArray();
        var came = new int[path.Count, states.Length];
        for (var beat = 0; beat < path.Count; beat++)
        {
            var line = Math.Clamp(heard.BarLineNear(path[beat]), 0.02, 0.98);
            var next = new double[states.Length];
            var cheapest = Enumerable.Range(0, states.Length).MinBy(i => states[i].Position == states[i].Beats - 1 ? cost[i]
                : double.MaxValue);
            for (var i = 0; i < states.Length; i++)
            {
                var (beats, position, _, each) = states[i];
                var before = position > 0 ? i - 1 : i + beats - 1;
                var stay = beat == 0 ? cost[i] + (position == 0 ? 0 : Upbeat) : cost[before];
                came[beat, i] = before;
                if (beat > 0 && position == 0 && cost[cheapest] + change < stay) (stay, came[beat, i]) =
                    (cost[cheapest] + change, cheapest);
                next[i] = stay + (position == 0 ? each - Math.Log(line) : -Math.Log(1 - line));
            }
            cost = next;
        }
        var lines = new bool[path.Count];
        for (var (beat, at) = (path.Count - 1, Array.IndexOf(cost, cost.Min())); beat >= 0; at = came[beat, at], beat--)
            lines[beat] = states[at].Position == 0;
        return lines;
    }
}
