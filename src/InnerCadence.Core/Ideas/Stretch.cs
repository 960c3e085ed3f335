using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>Passages of one recording that follow on one another without a bar between, read as one (ideas.md, "Judging").</summary>
/// <param name="Parts">Which passage, by the caller's number, from where to where in the stretch; in order.</param>
public sealed record Stretch(Passage Passage, ValueList<(int Index, Tick From, Tick To)> Parts)
{
    /// <summary>
    /// Each passage in one stretch. A passage joins the one that ends where it begins; not one that repeats, has a pickup or another feel,
    /// nor one whose first
    /// bar is not known.
    /// </summary>
    public static IReadOnlyList<Stretch> Of(IReadOnlyList<(Passage Passage, int? FirstBar)> passages)
    {
        var stretches = new List<Stretch>();
        var waiting = Enumerable.Range(0, passages.Count).OrderBy(i => passages[i].FirstBar ?? int.MaxValue).ThenBy(i => i).ToList();
        while (waiting.Count > 0)
        {
            var chain = new List<int> { waiting[0] };
            waiting.RemoveAt(0);
            while (true)
            {
                var last = passages[chain[^1]];
                var next = last.FirstBar is { } bar && last.Passage.Bars > 0 && !last.Passage.Looped
                    ? waiting.FindIndex(i => passages[i].FirstBar == bar + last.Passage.Bars && Joins(last.Passage, passages[i].Passage))
                    : -1;
                if (next < 0) break;
                chain.Add(waiting[next]);
                waiting.RemoveAt(next);
            }
            stretches.Add(chain.Count == 1 ? new(passages[chain[0]].Passage, [(chain[0], Tick.Zero, passages[chain[0]].Passage.Length)])
                : Joined(chain, passages));
        }
        return stretches;
    }

    /// <summary>Every sighting with the passage in which it starts, its places counted from that passage's start; its end may lie past that
    /// passage's.</summary>
    public IEnumerable<(int Index, Sighting Sighting)> Find(Matcher matcher) => matcher.FindIn(Passage).Select(s =>
    {
        var (index, from, _) = Parts.FirstOrDefault(p => s.Start < p.To, Parts[^1]);
        return (index, from == Tick.Zero ? s : s with
        {
            Start = s.Start - from,
            End = s.End - from,
            Edits = [.. s.Edits.Select(e => e with { PassageTick = e.PassageTick - from })],
        });
    });

    private static bool Joins(Passage first, Passage next) => !next.Looped && next.Bars > 0 && next.Pickup == Tick.Zero
        && next.Feel == first.Feel;

    private static Stretch Joined(List<int> chain, IReadOnlyList<(Passage Passage, int? FirstBar)> passages)
    {
        var (meters, strokes, unheard, parts) = (new List<Meter>(), new List<Stroke>(), new List<(int, Voice)>(),
            new List<(int, Tick, Tick)>());
        var (levels, tempos) = (new List<LevelMark>(), new List<TempoChange>());
        var (from, bars) = (Tick.Zero, 0);
        foreach (var index in chain)
        {
            var passage = passages[index].Passage;
            var at = from;
            meters.AddRange(Enumerable.Range(0, passage.Bars).Select(passage.Meters.MeterOf));
            strokes.AddRange(passage.Strokes.Select(s => s with { At = s.At + at }));
            unheard.AddRange(passage.Unheard.Select(u => (u.Bar + bars, u.Voice)));
            // Each passage is told from its own start, where nothing is said in mf.
            if (levels.Count > 0 && passage.Levels.Lines.All(l => !l[0].Voices.IsEmpty || l[0].At > Tick.Zero)) levels.Add(new(at, [],
                Level.Mf, false));
            levels.AddRange(passage.Levels.Cut(Tick.Zero, passage.Length).Marks.Where(m => m.At < passage.Length || index == chain[^1])
                .Select(m => m with { At = m.At + at }));
            tempos.AddRange(passage.Tempos.Select(t => t with { At = t.At + at }));
            parts.Add((index, from, from + passage.Length));
            (from, bars) = (from + passage.Length, bars + passage.Bars);
        }
        var first = passages[chain[0]].Passage;
        return new(first with
        {
            Meters = new([.. meters]),
            Bars = bars,
            Strokes = Passage.InOrder(strokes),
            Unheard = [.. unheard],
            TempoChanges = [.. tempos.Where(t => t.At > Tick.Zero)],
            Levels = levels.Count == 0 ? Levels.None : new(levels)
        }, parts);
    }
}
