using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Editing;

/// <summary>The common moves of a transcriber's hand, on the strokes of a passage.</summary>
public static class Move
{
    /// <summary>A stroke where there is none, none where there is one.</summary>
    public static Passage Toggle(Passage passage, Tick at, Voice voice) =>
        Find(passage, at, voice) is { } stroke ? passage with { Strokes = [.. passage.Strokes.Where(s => s != stroke)] }
            : With(passage, new Stroke(at, voice) { Openness = voice == Voice.Hat ? Openness.Closed : null });

    /// <summary>Takes the strokes out that are named; what is not there is passed over.</summary>
    public static Passage Remove(Passage passage, IReadOnlyCollection<(Tick At, Voice Voice)> chosen) =>
        passage with { Strokes = [.. passage.Strokes.Where(s => !chosen.Contains((s.At, s.Voice)))] };

    /// <summary>All chosen strokes get the dynamic; where all have it already they become normal.</summary>
    public static Passage Play(Passage passage, IReadOnlyCollection<(Tick At, Voice Voice)> chosen, Dynamic dynamic)
    {
        var all = passage.Strokes.Where(s => chosen.Contains((s.At, s.Voice))).All(s => s.Dynamic == dynamic);
        return Change(passage, chosen, s => s with { Dynamic = all ? Dynamic.Normal : dynamic });
    }

    /// <summary>Opens the hats among the chosen strokes; where all are open already they close.</summary>
    public static Passage Open(Passage passage, IReadOnlyCollection<(Tick At, Voice Voice)> chosen)
    {
        var all = passage.Strokes.Where(s => chosen.Contains((s.At, s.Voice)) && s.Voice == Voice.Hat)
            .All(s => s.Openness == Openness.Open);
        return Change(passage, chosen, s => s.Voice != Voice.Hat ? s
            : s with { Openness = all ? Openness.Closed : Openness.Open, Length = all ? null : s.Length });
    }

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
        var bars = Math.Max(passage.Bars, bar + 2);
        var (from, to) = (passage.Meters.StartOf(bar), passage.Meters.StartOf(bar + 1));
        var (until, end) = (passage.Meters.StartOf(bar + 1), passage.Meters.StartOf(bar + 2));
        var copied = passage.Strokes.Where(s => s.At >= from && s.At < to && s.At - from < end - until)
            .Select(s => s with { At = s.At - from + until });
        return passage with
        {
            Bars = bars,
            Strokes = Passage.InOrder(passage.Strokes.Where(s => s.At < until || s.At >= end).Concat(copied)),
            Unheard = [.. passage.Unheard.Where(u => u.Bar != bar + 1)
                .Concat(passage.Unheard.Where(u => u.Bar == bar).Select(u => (bar + 1, u.Voice)))],
        };
    }

    private static Stroke? Find(Passage passage, Tick at, Voice voice) =>
        passage.Strokes.FirstOrDefault(s => s.At == at && s.Voice == voice);

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
