using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hands;

/// <summary>A stretch of a passage that is a rudiment.</summary>
/// <param name="LeftLead">Begins with the hand that the catalogue does not begin with.</param>
/// <param name="PlaceTicks">How long one place of its grid lasts here.</param>
/// <param name="Rounds">How often it comes round.</param>
/// <param name="Voices">The drums it is laid over, in the order in which they come.</param>
public sealed record FoundRudiment(Rudiment Rudiment, bool LeftLead, Tick Start, Tick End, int PlaceTicks, int Rounds,
    ValueList<Voice> Voices)
{
    public string Rate => Tick.PerQuarter % PlaceTicks == 0
        ? (Tick.PerQuarter / PlaceTicks) switch
        {
            1 => "quarters",
            2 => "8ths",
            3 => "triplet 8ths",
            4 => "16ths",
            6 => "triplet 16ths",
            8 => "32nds",
            var n => $"{n} to the quarter"
        } : CountNames.Length(new(PlaceTicks)) + " each";

    public string Words => $"{Rudiment.Name}{Often}, {Rate}{(LeftLead ? ", led by the left" : "")}, on "
        + string.Join(", ", Voices.Select(v => v.Name));

    private string Often => Rounds == 1 ? ""
        : $", {CountNames.Number(Rounds)} {(Rudiment.Strokes.Count == 1 ? "of them" : "rounds")}";
}

/// <summary>Names every maximal stretch that is a rudiment, at any rate, over any drums, led by either hand (hands.md,
/// "Rudiments").</summary>
public static class RudimentFinder
{
    private readonly record struct Event(int At, Side? Side, bool IsFoot, Ornaments Ornaments, Voice Voice);

    /// <summary>Strokes whose hand is not known end a stretch; accents are not asked for. Stretches that lie inside longer ones are left
    /// out.</summary>
    public static IReadOnlyList<FoundRudiment> In(Passage passage)
    {
        passage = passage.Played();
        const Ornaments Graces = Ornaments.Flam | Ornaments.Drag;
        var hands = passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand)
            .Select(s => new Event(s.At.Value, s.Side, false, s.Ornaments & Graces, s.Voice)).ToList();
        var kicks = passage.Strokes.Where(s => s.Voice == Voice.Kick)
            .Select(s => new Event(s.At.Value, null, true, Ornaments.None, s.Voice));
        var all = hands.Concat(kicks).OrderBy(e => e.At).ToList();
        var found = new List<FoundRudiment>();
        foreach (var rudiment in Rudiment.All)
        {
            // Where two sound together neither is a rudiment's stroke; the feet under a figure of the hands do not matter.
            var line = Single(rudiment.HasFeet ? all : hands);
            foreach (var form in (Rudiment[])[rudiment, rudiment.Mirrored]) found.AddRange(Stretches(line, form, rudiment));
        }
        return [.. Longest(found).OrderBy(f => f.Start).ThenBy(f => f.Rudiment.Name, StringComparer.Ordinal)];
    }

    /// <summary>What begins at a later round of a stretch lies inside it and is not looked at, so that a long roll takes as long as it
    /// is.</summary>
    private static IEnumerable<FoundRudiment> Stretches(List<Event> line, Rudiment form, Rudiment named)
    {
        var (rounds, inside) = (form.Strokes.Count * (form.Turns ? 2 : 1), new bool[line.Count]);
        for (var i = 0; i < line.Count; i++)
        {
            if (inside[i] || From(line, i, form, named) is not var (stretch, next)) continue;
            yield return stretch;
            for (var k = i + rounds; k < next; k += rounds) inside[k] = true;
        }
    }

    /// <summary>Those that lie in no longer one. Of equal stretches the one that needs fewer rounds says more, then the catalogue's own
    /// lead.</summary>
    private static IEnumerable<FoundRudiment> Longest(List<FoundRudiment> found)
    {
        var end = -1;
        foreach (var equal in found.GroupBy(f => (Start: f.Start.Value, End: f.End.Value)).OrderBy(g => g.Key.Start)
            .ThenByDescending(g => g.Key.End))
        {
            if (equal.Key.End <= end) continue;
            end = equal.Key.End;
            yield return equal.MinBy(f => (f.Rounds, f.LeftLead, Index[f.Rudiment]))!;
        }
    }

    private static readonly Dictionary<Rudiment, int> Index = Rudiment.All.Select((r, i) => (r, i)).ToDictionary(x => x.r, x => x.i);

    private static List<Event> Single(List<Event> events)
    {
        var together = events.GroupBy(e => e.At).Where(g => g.Count() > 1).Select(g => g.Key).ToHashSet();
        return [.. events.Select(e => together.Contains(e.At) ? e with { Side = null, IsFoot = false } : e)];
    }

    /// <returns>With the stroke after it.</returns>
    private static (FoundRudiment Stretch, int Next)? From(List<Event> line, int start, Rudiment form, Rudiment named)
    {
        var count = form.Strokes.Count;
        if (start + Math.Max(count, 2) > line.Count) return null;
        // The first gap gives the rate; a rudiment of one stroke takes it from where its next round begins.
        var gap = line[start + 1].At - line[start].At;
        var places = count > 1 ? form.Strokes[1].At - form.Strokes[0].At : form.Length;
        if (gap <= 0 || gap % places != 0) return null;
        var place = gap / places;
        if (place > Tick.PerQuarter) return null;
        var (rounds, i, turn) = (0, start, form);
        while (i + count <= line.Count && Fits(line, i, turn, line[start].At + rounds * form.Length * place, place))
        {
            rounds++;
            i += count;
            if (form.Turns) turn = turn.Mirrored;
        }
        // One round of something as small as a flam, or two strokes in turn, is no rudiment.
        if (rounds == 0 || rounds * count < 4) return null;
        var last = i - 1;
        return (new(named, !ReferenceEquals(form, named), new(line[start].At), new(line[last].At + 1), place, rounds,
            [.. line.GetRange(start, i - start).Select(e => e.Voice).Distinct()]), i);
    }

    private static bool Fits(List<Event> line, int from, Rudiment form, int origin, int place)
    {
        for (var k = 0; k < form.Strokes.Count; k++)
        {
            var (e, stroke) = (line[from + k], form.Strokes[k]);
            if (e.At != origin + stroke.At * place || e.Ornaments != stroke.Ornaments) return false;
            if (stroke.Side is null ? !e.IsFoot : e.IsFoot || e.Side != stroke.Side) return false;
        }
        return true;
    }
}
