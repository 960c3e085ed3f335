using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Editing;

/// <summary>The common moves of a transcriber's hand, on the strokes of a passage.</summary>
public static class Move
{
    /// <summary>A stroke where there is none, none where there is one.</summary>
    public static Passage Toggle(Passage passage, Tick at, Voice voice) =>
        Find(passage, at, voice) is { } stroke ? passage with { Strokes = [.. passage.Strokes.Where(s => s != stroke)] }
            : With(WithBars(passage, passage.Meters.Locate(at).Bar + 1),
                new Stroke(at, voice) { Openness = voice == Voice.Hat ? Openness.Closed : null });

    /// <summary>A stroke where there is none.</summary>
    public static Passage Set(Passage passage, Tick at, Voice voice) =>
        Find(passage, at, voice) is null ? Toggle(passage, at, voice) : passage;

    /// <summary>A silent bar after the last.</summary>
    public static Passage AddBar(Passage passage) => WithBars(passage, passage.Bars + 1);

    /// <summary>Without its last bar and what sounds in it; what rings into it ends there.</summary>
    public static Passage DropBar(Passage passage)
    {
        if (passage.Bars == 0) return passage;
        var (last, end) = (passage.Bars - 1, passage.Meters.StartOf(passage.Bars - 1));
        return passage with
        {
            Bars = last,
            Strokes = [.. passage.Strokes.Where(s => s.At < end).Select(s => s.Length is { } length && s.At + length > end
                ? s with { Length = end - s.At } : s)],
            TempoChanges = [.. passage.TempoChanges.Where(t => t.At < end)],
            Levels = last == 0 ? Levels.None : passage.Levels.Cut(Tick.Zero, end),
            Unheard = [.. passage.Unheard.Where(u => u.Bar < last)],
        };
    }

    /// <summary>Bars from one on, from 0, go in another meter, until the meter changes by itself; strokes keep their places in their
    /// bars.</summary>
    /// <returns>Nothing where a stroke, a level or a tempo has no place in the shorter bar.</returns>
    public static Passage? InMeter(Passage passage, int bar, Meter meter)
    {
        var bars = Math.Max(passage.Bars, 1);
        var old = Enumerable.Range(0, bars).Select(passage.Meters.MeterOf).ToList();
        var until = old.FindIndex(bar, m => m != old[bar]);
        var meters = new MeterCycle(Shortest([.. old.Select((m, i) => i >= bar && (until < 0 || i < until) ? meter : m)]));

        Tick? Moved(Tick at)
        {
            var (own, inBar) = passage.Meters.Locate(at);
            return own < 0 || own >= bars || inBar < meters.MeterOf(own).Length ? meters.StartOf(own) + inBar : null;
        }

        var placed = passage.Strokes.Select(s => s.At).Concat(passage.TempoChanges.Select(t => t.At))
            .Concat(passage.Levels.Marks.Select(m => m.At)).Append(passage.Pickup).Distinct().ToDictionary(at => at, Moved);
        if (placed.Values.Any(at => at is null)) return null;
        return passage with
        {
            Meters = meters,
            Strokes = [.. passage.Strokes.Select(s => s with { At = placed[s.At]!.Value })],
            Pickup = placed[passage.Pickup]!.Value,
            TempoChanges = [.. passage.TempoChanges.Select(t => t with { At = placed[t.At]!.Value })],
            Levels = new(passage.Levels.Marks.Select(m => m with { At = placed[m.At]!.Value })),
        };
    }

    /// <summary>Takes the strokes out that are named; what is not there is passed over.</summary>
    public static Passage Remove(Passage passage, IReadOnlyCollection<(Tick At, Voice Voice)> chosen) =>
        passage with { Strokes = [.. passage.Strokes.Where(s => !chosen.Contains((s.At, s.Voice)))] };

    /// <summary>A press on a place: a stroke, then with an accent, as a ghost, none.</summary>
    public static Passage Turn(Passage passage, Tick at, Voice voice) => Find(passage, at, voice)?.Dynamic switch
    {
        Dynamic.Normal => Change(passage, [(at, voice)], StrokeMark.Accent.On),
        Dynamic.Accent => Change(passage, [(at, voice)], StrokeMark.Ghost.On),
        _ => Toggle(passage, at, voice),
    };

    /// <summary>The chosen strokes that can have it get the mark; where all have it already they lose it.</summary>
    public static Passage Mark(Passage passage, IReadOnlyCollection<(Tick At, Voice Voice)> chosen, StrokeMark mark)
    {
        var able = passage.Strokes.Where(s => chosen.Contains((s.At, s.Voice)) && mark.Fits(s.Voice)).ToList();
        return Change(passage, [.. able.Select(s => (s.At, s.Voice))], able.All(mark.IsOn) ? mark.Off : mark.On);
    }

    /// <summary>On which drum the grace strokes of the chosen flams and drags fall; what has neither becomes a flam.</summary>
    public static Passage GraceOn(Passage passage, IReadOnlyCollection<(Tick At, Voice Voice)> chosen, Voice drum) =>
        Change(passage, chosen, s => (s.Ornaments.HasFlag(Ornaments.Drag) ? s : StrokeMark.Flam.On(s)) with
        {
            Grace = drum == s.Voice ? null : drum
        });

    /// <summary>Moves the chosen strokes by a time, each to the voice that is given if one is; nothing where one would leave the passage or
    /// land on another.</summary>
    public static Passage? Shift(Passage passage, IReadOnlyCollection<(Tick At, Voice Voice)> chosen, Tick by, Voice? voice = null)
    {
        var kept = Remove(passage, chosen);
        var moved = passage.Strokes.Where(s => chosen.Contains((s.At, s.Voice)))
            .Select(s => s with { At = s.At + by }).Select(s => voice is null || voice == s.Voice ? s : OnVoice(s, voice)).ToList();
        if (moved.Any(s => s.At < passage.Pickup || s.At >= passage.Length || Find(kept, s.At, s.Voice) is not null)) return null;
        if (moved.DistinctBy(s => (s.At, s.Voice)).Count() < moved.Count) return null;
        return passage with { Strokes = Passage.InOrder(kept.Strokes.Concat(moved)) };
    }

    /// <summary>The bar after a bar, from 0, becomes like it, in all voices; a bar is added after the last.</summary>
    public static Passage RepeatBar(Passage passage, int bar)
    {
        passage = WithBars(passage, bar + 2);
        var (from, to) = (passage.Meters.StartOf(bar), passage.Meters.StartOf(bar + 1));
        var (until, end) = (passage.Meters.StartOf(bar + 1), passage.Meters.StartOf(bar + 2));
        var copied = passage.Strokes.Where(s => s.At >= from && s.At < to && s.At - from < end - until)
            .Select(s => s with { At = s.At - from + until });
        return passage with
        {
            Strokes = Passage.InOrder(passage.Strokes.Where(s => s.At < until || s.At >= end).Concat(copied)),
            Unheard = [.. passage.Unheard.Where(u => u.Bar != bar + 1)
                .Concat(passage.Unheard.Where(u => u.Bar == bar).Select(u => (bar + 1, u.Voice)))],
        };
    }

    private static Stroke? Find(Passage passage, Tick at, Voice voice) =>
        passage.Strokes.FirstOrDefault(s => s.At == at && s.Voice == voice);

    private static Passage WithBars(Passage passage, int least) => passage with { Bars = Math.Max(passage.Bars, least) };

    /// <summary>Meters that come back all the time are said once.</summary>
    private static ValueList<Meter> Shortest(IReadOnlyList<Meter> bars)
    {
        for (var size = 1; ; size++)
            if (bars.Select((m, i) => m == bars[i % size]).All(same => same)) return [.. bars.Take(size)];
    }

    private static Passage With(Passage passage, Stroke stroke) => passage with
    {
        Strokes = Passage.InOrder(passage.Strokes.Append(stroke)),
        // Where a stroke is heard, its voice is.
        Unheard = passage.Unheard.Remove((passage.Meters.Locate(stroke.At).Bar, stroke.Voice)),
    };

    private static Passage Change(Passage passage, IReadOnlyCollection<(Tick At, Voice Voice)> chosen, Func<Stroke, Stroke> change) =>
        passage with { Strokes = [.. passage.Strokes.Select(s => chosen.Contains((s.At, s.Voice)) ? change(s) : s)] };

    /// <summary>The same stroke on another drum, without the marks that only its own could have.</summary>
    internal static Stroke OnVoice(Stroke stroke, Voice voice) => stroke with
    {
        Voice = voice,
        Openness = voice == Voice.Hat ? stroke.Openness ?? Openness.Closed : null,
        Side = voice.Limbs == stroke.Voice.Limbs ? stroke.Side : null,
        SideUnsure = voice.Limbs == stroke.Voice.Limbs && stroke.SideUnsure,
    };
}
