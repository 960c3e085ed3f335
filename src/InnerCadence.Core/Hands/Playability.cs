using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hands;

/// <summary>What one limb has to do.</summary>
/// <param name="Peak">Strokes a second over the fastest four in a row, or over all where there are fewer.</param>
/// <param name="Sustained">The same over the fastest ten in a row; nothing where there are fewer.</param>
/// <param name="ShortestGap">In seconds.</param>
/// <param name="Limit">Strokes a second that it can keep up.</param>
/// <param name="BurstLimit">For four in a row.</param>
/// <param name="DoubleLimit">For two.</param>
public sealed record LimbLoad(string Limb, int Strokes, double Peak, double? Sustained, double ShortestGap, double Limit,
    double BurstLimit, double DoubleLimit, string Where)
{
    public bool IsTooFast => Peak > BurstLimit || Sustained > Limit || ShortestGap < 1 / DoubleLimit;
}

/// <summary>Whether a passage can be played at a tempo, limb by limb, and what to leave out where it cannot (hands.md,
/// "Playability").</summary>
public sealed record Playability(ValueList<LimbLoad> Limbs, bool NeedsTwoFeet, ValueList<string> Conflicts, Passage? SinglePedal,
    ValueList<Stroke> DropFirst)
{
    /// <summary>Hands that the text does not say are those of the cheapest sticking.</summary>
    public static Playability Of(Passage passage, StickingSettings settings)
    {
        passage = passage.Played();
        var stuck = passage.HasUnknownHands && Sticking.Of(passage, settings, 1).Options is [var best, ..] ? best.In(passage) : passage;
        var limits = settings.Limits;
        var loads = new List<LimbLoad>();
        foreach (var (limb, strokes) in new (string, List<Stroke>)[]
        {
            ("right hand", [.. stuck.Strokes.Where(s => s.Limb == "RH")]), ("left hand", [.. stuck.Strokes.Where(s => s.Limb == "LH")]),
            ("kick foot", [.. stuck.Strokes.Where(s => s.Voice == Voice.Kick)]),
                ("hat foot", [.. stuck.Strokes.Where(s => s.Voice == Voice.HatFoot)]),
        })
        {
            var foot = limb.EndsWith("foot", StringComparison.Ordinal);
            if (LoadOf(stuck, limb, strokes, settings.Tempo, foot ? (limits.Foot, limits.Foot, limits.FootDouble)
                : (limits.Hand, limits.HandBurst, limits.Doubles)) is { } load) loads.Add(load);
        }
        var kick = loads.FirstOrDefault(l => l.Limb == "kick foot");
        var twoFeet = kick is not null && kick.IsTooFast;
        var single = twoFeet ? SinglePedalOf(stuck, settings) : null;
        return new(loads, twoFeet, ConflictsOf(stuck, twoFeet, settings), single, loads.Any(l => l.IsTooFast) ? DropOf(stuck) : []);
    }

    private static LimbLoad? LoadOf(Passage passage, string limb, List<Stroke> strokes, Bpm tempo,
        (double Kept, double Burst, double Double) limit)
    {
        if (strokes.Count < 2) return strokes.Count == 0 ? null
            : new(limb, 1, 0, null, double.PositiveInfinity, limit.Kept, limit.Burst, limit.Double, Count(passage, strokes[0]));
        var at = strokes.Select(s => tempo.SecondsOf(s.At)).ToList();
        (double Speed, Stroke Where) Fastest(int window) =>
            Enumerable.Range(0, at.Count - window).Select(i => (window / (at[i + window] - at[i]), strokes[i])).MaxBy(x => x.Item1);
        var (peak, where) = Fastest(Math.Min(3, at.Count - 1));
        return new(limb, strokes.Count, peak, at.Count >= 10 ? Fastest(9).Speed : null, at.Zip(at.Skip(1), (a, b) => b - a).Min(),
            limit.Kept, limit.Burst, limit.Double, Count(passage, where));
    }

    private static string Count(Passage passage, Stroke stroke)
    {
        var (bar, inBar) = passage.Meters.Locate(stroke.At);
        return $"{(passage.Bars > 1 ? $"bar {bar + 1}, " : "")}{CountNames.Spoken(inBar, passage.Meters.MeterOf(bar))}";
    }

    private static List<string> ConflictsOf(Passage passage, bool twoFeet, StickingSettings settings)
    {
        if (!twoFeet) return [];
        var kicks = passage.Strokes.Where(s => s.Voice == Voice.Kick).ToList();
        // The left foot takes every other stroke of a run; it cannot hold the hat then.
        var taken = new List<Stroke>();
        for (var i = 1; i < kicks.Count; i++)
            if (settings.Tempo.SecondsOf(kicks[i].At - kicks[i - 1].At) < 1 / settings.Limits.Foot
                && !taken.Contains(kicks[i - 1])) taken.Add(kicks[i]);
        return [.. passage.Strokes.Where(s => s.Voice == Voice.HatFoot
            && taken.Any(t => Math.Abs(settings.Tempo.SecondsOf(t.At) - settings.Tempo.SecondsOf(s.At)) < 1 / settings.Limits.Foot))
            .Select(s => string.Create(CultureInfo.InvariantCulture,
                $"the hat foot on {Count(passage, s)} while the left foot helps with the kick"))];
    }

    /// <summary>Of each run that is too fast for one foot every second kick stays, or every fourth, so that it stays even; those that fall
    /// on most beats.</summary>
    private static Passage SinglePedalOf(Passage passage, StickingSettings settings)
    {
        var least = 1 / settings.Limits.Foot;
        var kicks = passage.Strokes.Where(s => s.Voice == Voice.Kick).ToList();
        var kept = new HashSet<Stroke>();
        for (var from = 0; from < kicks.Count;)
        {
            var run = kicks.Skip(from).TakeWhile((kick, i) => i == 0 || Seconds(kicks[from + i - 1], kick) < least).ToList();
            kept.UnionWith(Thinned(run));
            from += run.Count;
        }
        return passage with { Strokes = [.. passage.Strokes.Where(s => s.Voice != Voice.Kick || kept.Contains(s))] };

        Seconds Seconds(Stroke one, Stroke next) => settings.Tempo.SecondsOf(next.At - one.At);

        IEnumerable<Stroke> Thinned(List<Stroke> run)
        {
            for (var step = 1; ; step *= 2)
            {
                var even = Enumerable.Range(0, Math.Min(step, run.Count)).Select(phase => run.Where((_, i) => i % step == phase).ToList())
                    .Where(left => left.Zip(left.Skip(1), Seconds).All(gap => gap >= least)).OrderByDescending(left => left.Count(OnBeat))
                        .FirstOrDefault();
                if (even is not null) return even;
            }
        }

        bool OnBeat(Stroke s)
        {
            var (bar, inBar) = passage.Meters.Locate(s.At);
            return inBar.Value % passage.Meters.MeterOf(bar).Beat.Value == 0;
        }
    }

    /// <summary>What to leave out first: optional strokes, then unsure ones, then ghosts.</summary>
    private static List<Stroke> DropOf(Passage passage) =>
        [.. passage.Strokes.Where(s => s.Optional || s.Unsure || s.Dynamic == Dynamic.Ghost).OrderBy(s => s.Optional ? 0 : s.Unsure ? 1 : 2)
            .ThenBy(s => s.At)];
}
