using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Words;

/// <summary>What a passage comes to when somebody says something of it.</summary>
internal static class SpokenPassage
{
    /// <summary>Nothing where a mark does not belong to its drum, or a place is in none of the bars.</summary>
    public static Passage? With(Passage passage, IReadOnlyList<SpokenPart> parts)
    {
        var named = parts.SelectMany(p => p.Bars ?? []).Append(-1).Max() + 1;
        var bars = Math.Max(Math.Max(passage.Bars, named), 1);
        if (bars > Reading.CountLines.MostBars) return null;
        var made = passage with { Bars = bars };
        foreach (var part in parts)
        {
            if (Say(made, part, part.Bars ?? [.. Enumerable.Range(0, bars)]) is not { } next) return null;
            made = next;
        }
        return made;
    }

    private static Passage? Say(Passage passage, SpokenPart part, IReadOnlyList<int> bars)
    {
        var strokes = passage.Strokes.ToDictionary(s => (s.At, s.Voice));
        foreach (var bar in bars)
        {
            var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
            bool InBar(Stroke s) => s.At >= start && s.At < start + meter.Length;
            switch (part)
            {
                case Struck struck:
                    var places = struck.At(meter).Select(at => start + at).ToList();
                    if (places.Count == 0) return null;
                    // A pickup sounds from its place on; what holds for the whole bar begins there.
                    if (bar == 0) places.RemoveAll(at => at < passage.Pickup);
                    foreach (var at in places)
                    {
                        var stroke = strokes.GetValueOrDefault((at, struck.Voice)) ?? New(at, struck.Voice);
                        strokes[(at, struck.Voice)] = struck.Marked is { } mark ? mark(stroke) : stroke;
                    }
                    break;
                case TakenOut taken:
                    var chosen = taken.At?.Invoke(meter).Select(at => start + at).ToHashSet();
                    foreach (var gone in strokes.Values.Where(s => InBar(s) && (taken.Voice is null || s.Voice == taken.Voice)
                        && (chosen is null || chosen.Contains(s.At))).ToList()) strokes.Remove((gone.At, gone.Voice));
                    break;
                case Exchanged other:
                    foreach (var before in strokes.Values.Where(s => InBar(s) && s.Voice == other.Before).ToList())
                    {
                        strokes.Remove((before.At, before.Voice));
                        strokes[(before.At, other.Now)] = before with { Voice = other.Now, Openness = New(before.At, other.Now).Openness };
                    }
                    break;
                case NotHeard unheard:
                    foreach (var gone in strokes.Values.Where(s => InBar(s) && s.Voice == unheard.Voice).ToList())
                        strokes.Remove((gone.At, gone.Voice));
                    passage = passage with { Unheard = [.. passage.Unheard, (bar, unheard.Voice)] };
                    break;
                case SameAs same:
                    if (same.From >= passage.Bars || passage.Meters.MeterOf(same.From).Length != meter.Length) return null;
                    foreach (var gone in strokes.Values.Where(InBar).ToList()) strokes.Remove((gone.At, gone.Voice));
                    var from = passage.Meters.StartOf(same.From);
                    foreach (var stroke in passage.Strokes.Where(s => s.At >= from && s.At < from + meter.Length))
                        strokes[(stroke.At - from + start, stroke.Voice)] = stroke with { At = stroke.At - from + start };
                    passage = passage with
                    {
                        Unheard = [.. passage.Unheard.Where(u => u.Bar != bar),
                            .. passage.Unheard.Where(u => u.Bar == same.From).Select(u => (bar, u.Voice))]
                    };
                    break;
                case Sticked hands:
                    foreach (var first in hands.From(meter).Take(1))
                        for (var i = 0; i < hands.Letters.Length; i++)
                        {
                            var at = start + first + hands.Note * i;
                            if (at >= passage.Meters.StartOf(passage.Bars)) return null;
                            var kick = hands.Letters[i] == 'K';
                            var voice = kick ? Voice.Kick : hands.Voice;
                            strokes[(at, voice)] = New(at, voice) with
                            {
                                Side = kick ? null : hands.Letters[i] == 'R' ? Side.Right : Side.Left
                            };
                        }
                    break;
            }
        }
        return strokes.Values.Any(s => s.Openness is not null && s.Voice != Voice.Hat && s.Voice != Voice.HatFoot) ? null
            : passage with { Strokes = Passage.InOrder(strokes.Values) };
    }

    private static Stroke New(Tick at, Voice voice) => Reading.Marks.None.On(voice, at);
}
