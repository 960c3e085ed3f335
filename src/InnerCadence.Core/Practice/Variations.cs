using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Practice;

/// <summary>A change of a figure made by rule, to practise it and to ask whether it would still be the idea.</summary>
public sealed record Variation(string Rule, string Words, Passage Passage);

/// <summary>Variations by rule and seed (hands.md, "Practice"): the same seed gives the same ones. They are never sightings.</summary>
public static class Variations
{
    public static IReadOnlyList<Variation> Of(Passage passage, int seed)
    {
        passage = passage.Played();
        if (passage.Strokes.IsEmpty) return [];
        var random = new Random(seed);
        var made = new List<Variation?>
        {
            Displaced(passage, random.Next(1, 4) * (Tick.PerQuarter / 4)), Orchestrated(passage, random), Substituted(passage, random),
                Inverted(passage), OnAndOff(passage), OnOff(passage, random.Next(2, 4), random.Next(1, 3)), WithGhosts(passage),
        };
        return [.. made.OfType<Variation>().Where(v => !v.Passage.Strokes.SequenceEqual(passage.Strokes)).DistinctBy(v => v.Rule)];
    }

    /// <summary>Everything later by so much; what goes over the end comes round to the beginning.</summary>
    private static Variation Displaced(Passage passage, int by) => new("displaced", $"{CountNames.Length(new(by))} later", passage with
    {
        Strokes = Passage.InOrder(passage.Strokes.Select(s => s with { At = new((s.At.Value + by) % passage.Length.Value) })),
        Levels = passage.Length - new Tick(by) is var turn && turn > Tick.Zero
            ? Levels.Joined([(passage.Levels.Cut(turn, passage.Length), new(by)), (passage.Levels.Cut(Tick.Zero, turn), turn)])
            : passage.Levels,
    });

    private static Variation? Orchestrated(Passage passage, Random random)
    {
        var drums = passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand && s.Voice.Family is Family.Snare or Family.Tom)
            .Select(s => s.Voice).Distinct().ToList();
        if (drums.Count == 0) return null;
        Voice[] toms = [Voice.Snare, Voice.Tom1, Voice.Tom2, Voice.FloorTom];
        var map = drums.ToDictionary(d => d, d => toms.Where(t => t != d).ElementAt(random.Next(3)));
        return new("orchestrated", string.Join(", ", map.Select(m => $"{m.Key.Name} on the {m.Value.Name}")),
            passage with
            {
                Strokes = Passage.InOrder(passage.Strokes.Select(s => map.TryGetValue(s.Voice, out var to)
            ? s with { Voice = to } : s).DistinctBy(s => (s.At, s.Voice)))
            });
    }

    /// <summary>A kick in place of every so many hand strokes that stand alone.</summary>
    private static Variation? Substituted(Passage passage, Random random)
    {
        var alone = passage.Strokes.GroupBy(s => s.At).Where(g => g.Count() == 1 && g.First().Voice.Limbs == LimbClass.Hand)
            .Select(g => g.Key).ToList();
        if (alone.Count < 2) return null;
        var every = random.Next(2, 4);
        var kicked = alone.Where((_, i) => i % every == every - 1).ToHashSet();
        return new("kick substituted", $"a kick for every {CountNames.Ordinal(every)} hand stroke that stands alone",
            passage with { Strokes = [.. passage.Strokes.Select(s => kicked.Contains(s.At) ? new Stroke(s.At, Voice.Kick) : s)] });
    }

    /// <summary>High toms low and low ones high; hands swapped.</summary>
    private static Variation Inverted(Passage passage)
    {
        Voice Turned(Voice v) => v == Voice.Tom1 ? Voice.FloorTom : v == Voice.FloorTom ? Voice.Tom1 : v == Voice.Tom2 ? Voice.Snare : v;
        return new("inverted", "high for low, and the hands swapped", passage with
        {
            Strokes = Passage.InOrder(passage.Strokes.Select(s =>
                s with { Voice = Turned(s.Voice), Side = s.Side is { } side ? side == Side.Right ? Side.Left : Side.Right : null })
                .DistinctBy(s => (s.At, s.Voice))),
        });
    }

    /// <summary>Twice as long: as it is, then half a beat later.</summary>
    private static Variation OnAndOff(Passage passage)
    {
        var by = Tick.PerQuarter / 2;
        var length = passage.Length.Value;
        return new("on and off the beat", "once as it is, then half a beat later", passage with
        {
            Bars = passage.Bars * 2,
            Strokes = Passage.InOrder(passage.Strokes.Concat(passage.Strokes.Where(s => s.At.Value + by < length)
                .Select(s => s with { At = new(s.At.Value + by + length) }))),
            Levels = Levels.Joined([(passage.Levels, new(length + by)),
                (passage.Levels.Cut(Tick.Zero, new(length - by)), new(length - by))]),
            Unheard = [],
        });
    }

    private static Variation? OnOff(Passage passage, int on, int off)
    {
        var hands = passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand).Select(s => s.At).Distinct().ToList();
        if (hands.Count <= on) return null;
        var silent = hands.Where((_, i) => i % (on + off) >= on).ToHashSet();
        return new("strokes on and off", $"{CountNames.Number(on)} strokes of the hands on, {CountNames.Number(off)} off",
            passage with { Strokes = [.. passage.Strokes.Where(s => s.Voice.Limbs != LimbClass.Hand || !silent.Contains(s.At))] });
    }

    /// <summary>Ghosts on the snare on every empty sixteenth between the first hand stroke and the last.</summary>
    private static Variation? WithGhosts(Passage passage)
    {
        var hands = passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand).ToList();
        if (hands.Count < 2) return null;
        var step = hands.Any(s => s.At.Value % (Tick.PerQuarter / 3) == 0 && s.At.Value % (Tick.PerQuarter / 4) != 0) ? Tick.PerQuarter / 3
            : Tick.PerQuarter / 4;
        var taken = hands.Select(s => s.At.Value).ToHashSet();
        var ghosts = Enumerable.Range(hands[0].At.Value / step + 1, Math.Max(0, (hands[^1].At.Value - hands[0].At.Value) / step))
            .Select(i => i * step).Where(at => at < hands[^1].At.Value && !taken.Contains(at));
        return new("connecting ghosts", "ghosts on the snare between the strokes of the hands",
            passage with
            {
                Strokes = Passage.InOrder(passage.Strokes.Concat(ghosts.Select(at =>
            new Stroke(new(at), Voice.Snare) { Dynamic = Dynamic.Ghost })))
            });
    }
}
