using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Interchange;

/// <summary>What could be read out of a MIDI file.</summary>
/// <param name="Unknown">Notes that the map does not know, as it calls them, with how often they come.</param>
/// <param name="Doubts">What had to be decided, in words.</param>
/// <param name="Offsets">How far a person played from the places; none where the file is exact.</param>
public sealed record ReadMidi(Passage Passage, ValueList<(string Called, int Times)> Unknown, ValueList<string> Doubts,
    ValueList<StrokeOffset> Offsets);

/// <summary>Passages as MIDI and back: dynamics by velocity, open and closed hats by their notes, flams and drags as grace strokes ahead of
/// the beat, chokes as pressure.</summary>
public static class MidiPassage
{
    private const int Percussion = 9, Ghost = 36, Normal = 80, Accent = 116, GhostBelow = 55, AccentFrom = 104;
    /// <summary>How far ahead a grace stroke is played, in seconds, but never more than a 24th of a quarter; a drag's first twice as
    /// far.</summary>
    private const double GraceAhead = 0.03;
    private const double LongestGrace = 0.035;
    /// <summary>Against the stroke it belongs to.</summary>
    private const double LoudestGrace = 0.55;
    private const int MostBars = 64;
    /// <summary>In milliseconds: what is further away was written somewhere else.</summary>
    private const int MostOffset = 500;

    /// <summary>Every tick of ours is one of the file, so nothing is rounded; off-beats stand where they are written, whatever the
    /// feel.</summary>
    /// <param name="offsets">How far strokes were played from where they are written.</param>
    public static MidiFile Write(Passage passage, PercussionMap map, Bpm? tempo = null, string title = "",
        IReadOnlyCollection<StrokeOffset>? offsets = null)
    {
        var played = (offsets ?? []).ToDictionary(o => (o.At, o.Voice), o => o.Milliseconds / 1000);
        var bpm = passage.Tempo ?? tempo ?? Bpm.Usual;
        var ahead = Math.Min(Tick.PerQuarter / 24, (int)(GraceAhead / bpm.SecondsOf(new(1))));
        // A grace stroke before the very first beat has no room: it is played with it.
        var notes = new List<MidiNote>();
        foreach (var stroke in passage.Strokes)
        {
            if (map.NoteOf(stroke) is not { } note) continue;
            var velocity = Math.Clamp((int)Math.Round(stroke.Dynamic switch
            {
                Dynamic.Ghost => Ghost,
                Dynamic.Accent => Accent,
                _ =>
                Normal
            } * LevelWords.Factor(passage.LevelOf(stroke))), 1, 127);
            var grace = stroke.Grace is { } drum ? map.NoteOf(new(Tick.Zero, drum)) ?? note : note;
            var graces = (stroke.Ornaments & Ornaments.Drag) != 0 ? 2 : (stroke.Ornaments & Ornaments.Flam) != 0 ? 1 : 0;
            var at = Math.Max(0, stroke.At.Value + (int)Math.Round(
                played.GetValueOrDefault((stroke.At, stroke.Voice)) / bpm.SecondsOf(new(1))));
            for (var g = graces; g > 0; g--) notes.Add(new(Math.Max(0, at - g * ahead), Percussion, grace, Math.Max(1, velocity / 2)));
            notes.Add(new(at, Percussion, note, velocity, (stroke.Ornaments & Ornaments.Choke) != 0));
        }
        var meters = new List<(long, int, int)>();
        for (var bar = 0; bar < passage.Bars; bar++)
            if (bar == 0 || !passage.Meters.MeterOf(bar).Equals(passage.Meters.MeterOf(bar - 1))) meters.Add(
                (passage.Meters.StartOf(bar).Value, passage.Meters.MeterOf(bar).Counts, passage.Meters.MeterOf(bar).Lower));
        return new(Tick.PerQuarter, notes, [(0, bpm.Value), .. passage.TempoChanges.Select(c => ((long)c.At.Value, c.Tempo.Value))],
            meters, title);
    }

    /// <summary>Exact where the notes stand on places that have a count; else put to the likeliest places, with what is weak marked as
    /// unsure.</summary>
    /// <returns>Nothing where there is no note, or it would be longer than 64 bars.</returns>
    public static ReadMidi? Read(MidiFile file, PercussionMap map, out string? problem)
    {
        problem = null;
        var channel = file.Notes.Any(n => n.Channel == Percussion) ? Percussion : file.Notes.Select(n => n.Channel).FirstOrDefault();
        var own = file.Notes.Where(n => n.Channel == channel).ToList();
        var unknown = own.Where(n => !map.Sounds.ContainsKey(n.Note) && !map.Said.ContainsKey(PercussionMap.Called(n.Note)))
            .GroupBy(n => n.Note).Select(g => (PercussionMap.Called(g.Key), g.Count())).ToList();
        var known = own.Where(n => map.Sounds.ContainsKey(n.Note)).ToList();
        if (own.Count == 0)
        {
            problem = "There is no note in this MIDI file.";
            return null;
        }
        var meters = MetersOf(file, own[^1].At, out var bars);
        if (bars > MostBars)
        {
            problem = $"It is {bars} bars long; {MostBars} are kept in one passage. Cut it first.";
            return null;
        }
        var doubts = new List<string>();
        var tempo = file.Tempos.Count > 0 ? Bpm.Of(Math.Round(file.Tempos[0].Tempo, 3)) : null;
        var changes = tempo is null ? [] : TempoChanges(file, meters, bars, doubts);
        var strokes = Struck(known, file, map, tempo ?? Bpm.Of(120)!.Value);
        var exact = strokes.All(s => Math.Abs(s.Tick - Math.Round(s.Tick / Grid(s.Tick)) * Grid(
            s.Tick)) < 1.0 * Tick.PerQuarter / file.PerQuarter / 2 + 0.5);
        var placed = exact ? [.. strokes.Select(s => (At: (int)(Math.Round(s.Tick / Grid(s.Tick)) * Grid(s.Tick)), s.Stroke, s.Tick))]
            : Quantised(strokes, tempo ?? Bpm.Of(120)!.Value, doubts);
        var length = meters.StartOf(bars).Value;
        var kept = placed.Where(p => p.At < length).DistinctBy(p => (p.At, p.Stroke.Voice)).ToList();
        var asRead = new Passage(meters, bars, Passage.InOrder(kept.Select(p => p.Stroke with { At = new(p.At) })))
        {
            Tempo = tempo,
            TempoChanges = changes
        };
        var moved = Placing.Moved(asRead, doubts);
        kept = [.. kept.Select(p => p with { At = moved.GetValueOrDefault(new(p.At), new(p.At)).Value })
            .DistinctBy(p => (p.At, p.Stroke.Voice))];
        return new(Placing.Onto(asRead, moved), unknown, doubts,
            exact ? [] : [.. kept.Select(p => new StrokeOffset(new(p.At), p.Stroke.Voice,
            Math.Round((p.Tick - p.At) * SecondsOfTick(file, p.At) * 1000, 2))).Where(o => Math.Abs(o.Milliseconds) < MostOffset)]);
    }

    /// <summary>Changes on places that have a count; where others are, or there are more than can be written, the first tempo is kept
    /// alone.</summary>
    private static ValueList<TempoChange> TempoChanges(MidiFile file, MeterCycle meters, int bars, List<string> doubts)
    {
        var changes = new List<TempoChange>();
        var before = Math.Round(file.Tempos[0].Tempo, 3);
        foreach (var (at, quarters) in file.Tempos.Skip(1)
            .Select(t => (new Tick((int)Math.Round(t.At * (double)Tick.PerQuarter / file.PerQuarter)), Math.Round(t.Tempo, 3))))
        {
            var (bar, inBar) = meters.Locate(at);
            if (quarters == before || bar >= bars) continue;
            if (Bpm.Of(quarters) is not { } tempo || CountNames.Place(inBar, meters.MeterOf(bar)) is null || changes.Count == MostBars
                || (changes.Count > 0 && changes[^1].At >= at))
            {
                doubts.Add("The tempo changes between the counts; the first one is kept.");
                return [];
            }
            changes.Add(new(at, tempo));
            before = quarters;
        }
        return changes.ToValueList();
    }

    /// <summary>Places that counts name: 48 to the quarter, else 7 or 5 of it and their like, so that quintuplets are exact too.</summary>
    private static double Grid(double tick)
    {
        foreach (var part in (int[])[48, 28, 20, 36])
            if (Math.Abs(tick / (Tick.PerQuarter / part) - Math.Round(tick / (Tick.PerQuarter / part))) * (
                Tick.PerQuarter / part) < 12) return Tick.PerQuarter / part;
        return Tick.PerQuarter / 48.0;
    }

    private static MeterCycle MetersOf(MidiFile file, long last, out int bars)
    {
        var lastTick = (long)Math.Floor(last * (double)Tick.PerQuarter / file.PerQuarter + 1e-6);
        var changes = file.Meters.Select(m => (At: m.At * (double)Tick.PerQuarter / file.PerQuarter,
            Meter: Meter.Parse($"{m.Counts}/{m.Lower}"))).Where(m => m.Meter is not null).ToList();
        var list = new List<Meter>();
        var at = 0L;
        do
        {
            var meter = changes.LastOrDefault(c => c.At <= at + 1).Meter ?? Meter.CommonTime;
            list.Add(meter);
            at += meter.Length.Value;
        }
        while (at <= lastTick && list.Count <= MostBars);
        bars = list.Count;
        return new([.. list.Distinct().Count() == 1 ? list.Take(1) : list]);
    }

    /// <summary>Grace strokes belong to the stroke that follows at once on the same drum and louder.</summary>
    private static List<(double Tick, Stroke Stroke)> Struck(List<MidiNote> notes, MidiFile file, PercussionMap map, Bpm tempo)
    {
        var ticks = notes.Select(n => n.At * (double)Tick.PerQuarter / file.PerQuarter).ToList();
        var (graces, taken) = (new int[notes.Count], new bool[notes.Count]);
        for (var i = notes.Count - 1; i >= 0; i--)
        {
            if (taken[i]) continue;
            for (var k = i - 1; k >= 0 && graces[i] < 2; k--)
            {
                var gap = tempo.SecondsOf(new((int)(ticks[i] - ticks[k])));
                if (gap > LongestGrace * (graces[i] + 1)) break;
                if (taken[k] || map.Sounds[notes[k].Note].Voice != map.Sounds[notes[i].Note].Voice
                    || notes[k].Velocity > notes[i].Velocity * LoudestGrace) continue;
                taken[k] = true;
                graces[i]++;
            }
        }
        return [.. notes.Select((n, i) => (n, i)).Where(x => !taken[x.i]).Select(x =>
        {
            var sound = map.Sounds[x.n.Note];
            return (ticks[x.i], new Stroke(Tick.Zero, sound.Voice)
            {
                Openness = sound.Openness,
                Dynamic = x.n.Velocity < GhostBelow ? Dynamic.Ghost : x.n.Velocity >= AccentFrom ? Dynamic.Accent : Dynamic.Normal,
                Ornaments = (graces[x.i] switch { 2 => Ornaments.Drag, 1 => Ornaments.Flam, _ => Ornaments.None }) | (x.n.Choked
                    ? Ornaments.Choke : Ornaments.None),
            });
        })];
    }

    /// <summary>At the tempo that holds there.</summary>
    private static double SecondsOfTick(MidiFile file, int at)
    {
        var quarters = file.Tempos.LastOrDefault(t => t.At * (double)Tick.PerQuarter / file.PerQuarter <= at).Tempo;
        return 60 / (quarters > 0 ? quarters : 120) / Tick.PerQuarter;
    }

    private static List<(int At, Stroke Stroke, double Tick)> Quantised(List<(double Tick, Stroke Stroke)> strokes, Bpm tempo,
        List<string> doubts)
    {
        var onsets = strokes.Select(s => s.Tick).Distinct().Order().ToList();
        var perBeat = tempo.SecondsOf(new(Tick.PerQuarter));
        var places = Quantise.Place([.. onsets.Select(o => o / Tick.PerQuarter * perBeat)], new(Tick.PerQuarter), perBeat);
        var byOnset = places.ToDictionary(p => onsets[p.Onset]);
        doubts.Add("The timing is a person’s: strokes are put to the likeliest places.");
        if (places.Count(p => p.Weak) is > 0 and var weak) doubts.Add(
            $"{CountNames.Number(weak)} of {places.Count} places could be others; they are marked as unsure.");
        // An onset that shares its place with an earlier one sounds with it.
        return [.. strokes.Select(s => byOnset.TryGetValue(s.Tick, out var place)
            ? (place.At.Value, s.Stroke with { Unsure = place.Weak }, s.Tick)
            : (places.OrderBy(p => Math.Abs(onsets[p.Onset] - s.Tick)).First().At.Value, s.Stroke, s.Tick))];
    }
}
