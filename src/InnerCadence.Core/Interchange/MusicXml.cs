using System.Globalization;
using System.Xml.Linq;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Interchange;

/// <summary>What could be read out of a MusicXML part.</summary>
/// <param name="Unknown">Instruments that no drum stands for, with how often they come.</param>
public sealed record ReadMusicXml(Passage Passage, ValueList<(string Name, int Times)> Unknown, ValueList<string> Doubts);

/// <summary>How hands are written into a MusicXML file.</summary>
public enum StickingAs { Nothing, Lyrics, Fingering }

/// <summary>Passages as MusicXML 4.0 and back: unpitched notes, instruments, two voices, heads, tuplets, articulations, grace
/// strokes.</summary>
public static class MusicXml
{
    private const int MostBars = 64;
    private static readonly (int Type, string Name)[] Types = [(1, "whole"), (2, "half"), (4, "quarter"), (8, "eighth"), (16, "16th"),
        (32, "32nd"), (64, "64th")];
    private static readonly (string Ours, string Theirs)[] Heads = [("x", "x"), ("diamond", "diamond"), ("triangle", "triangle"),
        ("circled", "circle-x"), ("slash", "slash"), ("square", "square")];

    /// <summary>A division is a tick, so that nothing is rounded. What the format has no sign for is left out: certainty, optional strokes,
    /// notes on technique, unheard bars, levels of single drums.</summary>
    public static XDocument Write(Passage passage, PercussionMap map, string title = "", StickingAs sticking = StickingAs.Lyrics)
    {
        var voices = passage.Voices.Concat(passage.Strokes.Select(s => s.Grace).OfType<Voice>()).Distinct().Order()
            .ToList() is { Count: > 0 } struck ? struck : [Voice.Snare];
        var bars = Score.Of(passage);
        var closing = ClosingHats(passage);
        var part = new XElement("part", new XAttribute("id", "P1"));
        for (var i = 0; i < bars.Count; i++)
        {
            var bar = bars[i];
            var measure = new XElement("measure", new XAttribute("number", i + 1));
            var style = RepeatSign(bars, i);
            if (style is not null || i == 0 || !bar.Meter.Equals(bars[i - 1].Meter))
                measure.Add(new XElement("attributes", i == 0 ? new XElement("divisions", Tick.PerQuarter) : null,
                    i == 0 ? new XElement("key", new XElement("fifths", 0)) : null,
                    i > 0 && bar.Meter.Equals(bars[i - 1].Meter) ? null
                        : new XElement("time", new XElement("beats", bar.Meter.PulsesWritten ? string.Join('+', bar.Meter.Pulses)
                        : $"{bar.Meter.Counts}"), new XElement("beat-type", bar.Meter.Lower)),
                    i == 0 ? new XElement("clef", new XElement("sign", "percussion"), new XElement("line", 2)) : null, style));
            measure.Add(MusicXmlDirections.Of(passage, bar.At, bar.At + bar.Meter.Length, i == bars.Count - 1));
            Line(measure, bar.Hands, "1", "up", sticking, closing);
            measure.Add(new XElement("backup", new XElement("duration", bar.Meter.Length.Value)));
            Line(measure, bar.Feet, "2", "down", sticking, closing);
            part.Add(measure);
        }
        return new(new XDeclaration("1.0", "UTF-8", "no"), new XElement("score-partwise", new XAttribute("version", "4.0"),
            title.Length > 0 ? new XElement("movement-title", title) : null,
            new XElement("part-list", new XElement("score-part", new XAttribute("id", "P1"), new XElement("part-name", "Drums"),
                voices.Select(v => new XElement("score-instrument", new XAttribute("id", $"P1-{v.Code}"),
                    new XElement("instrument-name", v.Name))),
                voices.Select(v => new XElement("midi-instrument", new XAttribute("id", $"P1-{v.Code}"), new XElement("midi-channel", 10),
                    map.NoteOf(new(Tick.Zero, v)) is { } note ? new XElement("midi-unpitched", note + 1) : null)))),
            part));
    }

    /// <summary>A bar that is as the one before shows the sign for it; its notes are written all the same, for programs that do not know
    /// the sign.</summary>
    private static XElement? RepeatSign(ValueList<ScoreBar> bars, int i)
    {
        var before = i > 0 && bars[i - 1].AsBefore;
        return bars[i].AsBefore == before ? null : new("measure-style",
            new XElement("measure-repeat", new XAttribute("type", before ? "stop" : "start"), before ? "" : "1"));
    }

    /// <summary>The first closed hats after an open one get the sign for it; the others need none.</summary>
    private static HashSet<Tick> ClosingHats(Passage passage)
    {
        var hats = passage.Strokes.Where(s => s.Voice == Voice.Hat).ToList();
        return [.. hats.Zip(hats.Skip(1)).Where(p => p.First.Openness is Openness.Open or Openness.Loose
            && p.Second.Openness is not (Openness.Open or Openness.Loose)).Select(p => p.Second.At)];
    }

    private static void Line(XElement measure, ValueList<Sign> signs, string voice, string stem, StickingAs sticking,
        HashSet<Tick> closing)
    {
        for (var i = 0; i < signs.Count; i++)
        {
            var sign = signs[i];
            var type = new XElement("type", Types.First(t => t.Type == sign.Type).Name);
            var time = sign.Tuplet is { } t ? new XElement("time-modification", new XElement("actual-notes", t.Actual),
                new XElement("normal-notes", t.Normal)) : null;
            if (sign.IsRest)
            {
                var whole = signs.Count == 1;
                measure.Add(new XElement("note", new XElement("rest", whole ? new XAttribute("measure", "yes") : null),
                    new XElement("duration", sign.Lasts.Value), new XElement("voice", voice), whole ? null : type,
                    whole ? null : Dots(sign), whole ? null : time, Tuplets(signs, i) is { } only ? new XElement("notations", only)
                    : null));
                continue;
            }
            foreach (var stroke in sign.Strokes.Where(s => (s.Ornaments & (Ornaments.Flam | Ornaments.Drag)) != 0))
                for (var g = (stroke.Ornaments & Ornaments.Drag) != 0 ? 2 : 1; g > 0; g--)
                    measure.Add(new XElement("note", new XElement("grace", (stroke.Ornaments & Ornaments.Drag) == 0
                        ? new XAttribute("slash", "yes") : null), Unpitched(stroke.Grace ?? stroke.Voice),
                        new XElement("instrument", new XAttribute("id", $"P1-{(stroke.Grace ?? stroke.Voice).Code}")),
                        new XElement("voice", voice), new XElement("type", (stroke.Ornaments & Ornaments.Drag) != 0 ? "16th" : "eighth"),
                        new XElement("stem", stem), Head(stroke with { Voice = stroke.Grace ?? stroke.Voice, Dynamic = Dynamic.Normal })));
            for (var k = 0; k < sign.Strokes.Count; k++)
            {
                var stroke = sign.Strokes[k];
                measure.Add(new XElement("note", stroke.Echo ? new XElement("cue") : null, k > 0 ? new XElement("chord") : null,
                    Unpitched(stroke.Voice), new XElement("duration", sign.Lasts.Value),
                    new XElement("instrument", new XAttribute("id", $"P1-{stroke.Voice.Code}")), new XElement("voice", voice),
                    new XElement(type), Dots(sign), time is null ? null : new XElement(time), new XElement("stem", stem), Head(stroke),
                        k == 0 ? Beams(signs, i) : null, Notations(stroke, k == 0 ? Tuplets(signs, i) : null, sticking,
                        stroke.Voice == Voice.Hat && closing.Contains(stroke.At)),
                    sticking == StickingAs.Lyrics && stroke.Side is { } side && stroke.Voice.Limbs == LimbClass.Hand
                        ? new XElement("lyric", new XElement("syllabic", "single"), new XElement("text", side == Side.Right ? "R" : "L"))
                        : null));
            }
        }
    }

    private static XElement? Dots(Sign sign) => sign.Dots > 0 ? new XElement("dot") : null;

    private static XElement Unpitched(Voice voice)
    {
        var key = StaffPlaces.Of(voice).Key.Split('/');
        return new("unpitched", new XElement("display-step", key[0].ToUpperInvariant()), new XElement("display-octave", key[1]));
    }

    private static XElement? Head(Stroke stroke)
    {
        var head = StaffPlaces.Of(stroke.Voice).Head;
        var ghost = stroke.Dynamic == Dynamic.Ghost;
        if (head.Length == 0 && !ghost) return null;
        return new("notehead", ghost ? new XAttribute("parentheses", "yes") : null, Heads.FirstOrDefault(h => h.Ours == head).Theirs
            ?? "normal");
    }

    /// <summary>Beams over the neighbours of a pulse that are eighths and shorter, one for each flag; where a neighbour has fewer, a
    /// stub.</summary>
    private static IEnumerable<XElement> Beams(ValueList<Sign> signs, int i)
    {
        bool Joins(int k, int flags = 1) => k >= 0 && k < signs.Count && signs[k].Beam == signs[i].Beam && signs[k].Type >= 4 << flags
            && !signs[k].IsRest;
        if (!Joins(i) || (!Joins(i - 1) && !Joins(i + 1))) yield break;
        for (var flags = 1; Joins(i, flags); flags++)
            yield return new("beam", new XAttribute("number", flags), (Joins(i - 1, flags), Joins(i + 1, flags)) switch
            {
                (true, true) => "continue",
                (false, true) => "begin",
                (true, false) => "end",
                _ => Joins(i - 1) ? "backward hook" : "forward hook",
            });
    }

    private static XElement? Tuplets(ValueList<Sign> signs, int i)
    {
        if (signs[i].Tuplet is not { } tuplet) return null;
        var first = i == 0 || signs[i - 1].Tuplet?.Number != tuplet.Number;
        var last = i == signs.Count - 1 || signs[i + 1].Tuplet?.Number != tuplet.Number;
        return first && !last ? new("tuplet", new XAttribute("type", "start")) : last && !first
            ? new("tuplet", new XAttribute("type", "stop")) : null;
    }

    private static XElement? Notations(Stroke stroke, XElement? tuplet, StickingAs sticking, bool closes)
    {
        var ornaments = (stroke.Ornaments & Ornaments.Buzz) != 0
            ? new XElement("ornaments", new XElement("tremolo", new XAttribute("type", "unmeasured"), 0)) : null;
        var technical = new List<XElement>();
        if (sticking == StickingAs.Fingering && stroke.Side is { } side) technical.Add(new("fingering", side == Side.Right ? "R" : "L"));
        if (stroke.Openness == Openness.Open) technical.Add(new("open"));
        if (closes) technical.Add(new("stopped"));
        if (stroke.Openness == Openness.Loose) technical.Add(new("half-muted"));
        if ((stroke.Ornaments & Ornaments.Rimshot) != 0) technical.Add(new("other-technical", "rimshot"));
        if ((stroke.Ornaments & Ornaments.Choke) != 0) technical.Add(new("other-technical", "choke"));
        var accent = stroke.Dynamic == Dynamic.Accent ? new XElement("articulations", new XElement("accent")) : null;
        return tuplet is null && ornaments is null && technical.Count == 0 && accent is null ? null
            : new("notations", tuplet, ornaments, technical.Count > 0 ? new XElement("technical", technical) : null, accent);
    }

    /// <summary>The first part with notes of percussion, of a partwise score.</summary>
    /// <param name="problem">A sentence where there is none.</param>
    public static ReadMusicXml? Read(XDocument document, PercussionMap map, out string? problem)
    {
        problem = null;
        if (document.Root?.Name.LocalName != "score-partwise")
        {
            problem = document.Root?.Name.LocalName == "score-timewise" ? "This score is ordered by time; save it ordered by parts."
                : "This is no MusicXML score.";
            return null;
        }
        var part = Children(document.Root, "part").FirstOrDefault(p => p.Descendants().Any(e => e.Name.LocalName == "unpitched"));
        if (part is null)
        {
            problem = "No part of this score has notes of percussion.";
            return null;
        }
        var reader = new Reader(document.Root, part, map);
        return reader.Read(out problem);
    }

    private static IEnumerable<XElement> Children(XElement element, string name) => element.Elements().Where(e => e.Name.LocalName == name);
    private static XElement? Child(XElement? element, string name) => element?.Elements().FirstOrDefault(e => e.Name.LocalName == name);
    private static string Text(XElement? element, string name) => Child(element, name)?.Value.Trim() ?? "";

    private sealed class Reader
    {
        private readonly XElement part;
        private readonly PercussionMap map;
        private readonly Dictionary<string, (string Name, int? Note)> instruments = [];
        private readonly List<string> doubts = [];
        private readonly Dictionary<string, int> unknown = [];
        private readonly List<Stroke> strokes = [];
        private readonly List<Meter> meters = [];
        private double divisions = 1;
        private readonly MusicXmlDirections.Reader directions = new();

        public Reader(XElement root, XElement part, PercussionMap map)
        {
            (this.part, this.map) = (part, map);
            var listed = Child(root, "part-list")?.Elements()
                .FirstOrDefault(e => e.Name.LocalName == "score-part" && e.Attribute("id")?.Value == part.Attribute("id")?.Value);
            if (listed is null) return;
            foreach (var instrument in Children(listed, "score-instrument"))
                if (instrument.Attribute("id")?.Value is { } id) instruments[id] = (Text(instrument, "instrument-name"), null);
            foreach (var midi in Children(listed, "midi-instrument"))
                if (midi.Attribute("id")?.Value is { } id && int.TryParse(Text(midi, "midi-unpitched"), NumberStyles.None,
                    CultureInfo.InvariantCulture, out var note) && note is >= 1 and <= 128)
                    instruments[id] = (instruments.GetValueOrDefault(id).Name ?? "", note - 1);
        }

        public ReadMusicXml? Read(out string? problem)
        {
            problem = null;
            var start = 0.0;
            var (repeats, all) = (0, Measures());
            var order = PlayedOut(all);
            foreach (var index in order.Take(MostBars))
            {
                (divisions, var meter) = (all[index].Divisions, all[index].Meter);
                meters.Add(meter);
                var before = strokes.Count;
                Measure(all[index].Element, start, meter);
                repeats = all[index].Element.Descendants().LastOrDefault(e => e.Name.LocalName == "measure-repeat") is not { } sign
                    ? repeats
                    : sign.Attribute("type")?.Value == "start"
                        && int.TryParse(sign.Value, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n is > 0 and <= 4 ? n
                        : 0;
                if (strokes.Count == before && repeats > 0) CopyBar(repeats);
                start += meter.Length.Value;
            }
            if (order.Count > MostBars) doubts.Add($"It is longer than {MostBars} bars; the first {MostBars} are read.");
            if (part.Descendants().Any(e => e.Name.LocalName == "sound"
                && (e.Attribute("dacapo") ?? e.Attribute("dalsegno")
                ?? e.Attribute("tocoda")) is not null)) doubts.Add("Jumps such as da capo are not played out.");
            if (strokes.Count == 0 && unknown.Count == 0)
            {
                problem = "There is no stroke in this part.";
                return null;
            }
            var cycle = new MeterCycle([.. meters.Distinct().Count() == 1 ? meters.Take(1) : meters]);
            var asRead = new Passage(cycle, meters.Count,
                Passage.InOrder(strokes.DistinctBy(s => (s.At, s.Voice))))
            {
                Tempo = directions.Tempo,
                TempoChanges = directions.TempoChanges(cycle, meters.Count),
                Levels = directions.Levels(cycle, meters.Count)
            };
            return new(Placing.Onto(asRead, Placing.Moved(asRead, doubts)), [.. unknown.Select(u => (u.Key, u.Value))], doubts);
        }

        /// <summary>Each written bar with the divisions and the meter that hold in it.</summary>
        private List<(XElement Element, double Divisions, Meter Meter)> Measures()
        {
            var (all, per, meter) = (new List<(XElement, double, Meter)>(), 1.0, Meter.CommonTime);
            foreach (var measure in Children(part, "measure"))
            {
                foreach (var attributes in Children(measure, "attributes"))
                {
                    if (double.TryParse(Text(attributes, "divisions"), NumberStyles.Float, CultureInfo.InvariantCulture, out var said)
                        && said is > 0 and <= 1e6) per = said;
                    if (Child(attributes, "time") is { } time && MeterOf(time) is { } read) meter = read;
                }
                all.Add((measure, per, meter));
            }
            return all;
        }

        /// <summary>The written bars as they are played: repeats with their times, first and second endings. One more than fits tells that
        /// it is too long.</summary>
        private static List<int> PlayedOut(List<(XElement Element, double Divisions, Meter Meter)> all)
        {
            var order = new List<int>();
            var (start, pass) = (0, 1);
            for (var i = 0; i < all.Count && order.Count <= MostBars; i++)
            {
                var barlines = Children(all[i].Element, "barline").ToList();
                if (barlines.Any(b => Repeats(b, "forward")) && start != i) (start, pass) = (i, 1);
                if (EndingOf(barlines) is { } ending && !ending.Contains(pass))
                {
                    while (i < all.Count - 1 && !Children(all[i].Element, "barline")
                        .Any(b => Child(b, "ending")?.Attribute("type")?.Value is "stop" or "discontinue")) i++;
                    continue;
                }
                order.Add(i);
                if (barlines.FirstOrDefault(b => Repeats(b, "backward")) is { } back)
                {
                    var times = int.TryParse(Child(back, "repeat")!.Attribute("times")?.Value, NumberStyles.None,
                        CultureInfo.InvariantCulture, out var said) ? said : Math.Max(2, EndingOf(barlines)?.Max() + 1 ?? 2);
                    if (pass < times) (pass, i) = (pass + 1, start - 1);
                    else (start, pass) = (i + 1, 1);
                }
                else if (barlines.Any(b => Child(b, "ending")?.Attribute("type")?.Value is "stop" or "discontinue")) (start, pass) =
                    (i + 1, 1);
            }
            return order;

            static bool Repeats(XElement barline, string direction) => Child(barline, "repeat")?.Attribute("direction")?.Value == direction;
        }

        /// <summary>On which times through the ending that begins at these bar lines is played; nothing where none begins.</summary>
        private static List<int>? EndingOf(List<XElement> barlines)
        {
            var said = barlines.Select(b => Child(b, "ending"))
                .FirstOrDefault(e => e?.Attribute("type")?.Value == "start")?.Attribute("number")?.Value;
            var numbers = said?.Split(',', ' ').Select(n => int.TryParse(n, NumberStyles.None, CultureInfo.InvariantCulture, out var k) ? k
                : 0).Where(k => k is > 0 and < 100).ToList();
            return numbers is { Count: > 0 } ? numbers : null;
        }

        /// <summary>What stood so many bars before, again in the last bar; only where both have one meter.</summary>
        private void CopyBar(int back)
        {
            var to = meters.Count - 1;
            var from = to - back;
            if (from < 0 || !meters[from].Equals(meters[to])) return;
            var (start, end, apart) = (meters.Take(from).Sum(m => m.Length.Value), meters.Take(from + 1).Sum(m => m.Length.Value),
                meters.Skip(from).Take(back).Sum(m => m.Length.Value));
            strokes.AddRange(strokes.Where(s => s.At.Value >= start && s.At.Value < end).Select(s => s with { At = s.At + new Tick(apart) })
                .ToList());
        }

        private static Meter? MeterOf(XElement time)
        {
            var (beats, lower) = (Text(time, "beats").Replace(" ", ""), Text(time, "beat-type"));
            if (!beats.Contains('+')) return Meter.Parse($"{beats}/{lower}");
            var parts = beats.Split('+');
            return parts.All(p => int.TryParse(p, NumberStyles.None, CultureInfo.InvariantCulture, out _))
                ? Meter.Parse($"{parts.Sum(p => int.Parse(p, CultureInfo.InvariantCulture))}/{lower}({beats})") : null;
        }

        private void Measure(XElement measure, double start, Meter meter)
        {
            var (at, last, graces, after) = (0.0, 0.0, new Dictionary<Voice, int>(), strokes.Count);
            foreach (var element in measure.Elements())
            {
                switch (element.Name.LocalName)
                {
                    case "backup": at -= Duration(element); break;
                    case "forward": at += Duration(element); break;
                    case "direction" or "sound":
                        directions.Add(element,
                        new((int)start + (int)Math.Round(at * Tick.PerQuarter / divisions)), divisions); break;
                    case "note":
                        var isGrace = Child(element, "grace") is not null;
                        var isChord = Child(element, "chord") is not null;
                        var here = isChord ? last : at;
                        if (!isChord && !isGrace)
                        {
                            last = at;
                            at += Duration(element);
                        }
                        if (Child(element, "rest") is not null) break;
                        if (SoundOf(element) is not { Voice: var voice, Openness: var openness }) break;
                        if (!isChord) GraceOnOtherDrum(graces, after);
                        if (isGrace)
                        {
                            if (graces.Count == 0) after = strokes.Count;
                            graces[voice] = graces.GetValueOrDefault(voice) + 1;
                            break;
                        }
                        // A tie goes on and is not struck again.
                        if (Children(element, "tie").Any(t => t.Attribute("type")?.Value == "stop")) break;
                        var tick = (int)Math.Round(here * Tick.PerQuarter / divisions);
                        if (tick < 0 || tick >= meter.Length.Value) break;
                        strokes.Add(StrokeOf(element, voice, openness, new((int)start + tick), graces.GetValueOrDefault(voice)));
                        graces.Remove(voice);
                        break;
                }
            }
            GraceOnOtherDrum(graces, after);
        }

        private double Duration(XElement element) => double.TryParse(Text(element, "duration"), NumberStyles.Float,
            CultureInfo.InvariantCulture, out var d) && d is >= 0 and < 1e9 ? d : 0;

        /// <summary>A grace stroke that no stroke of its own drum followed belongs to what was struck after it, a drum before a
        /// cymbal.</summary>
        /// <param name="after">Index of the first stroke after the grace stroke; nothing happens before there is one.</param>
        private void GraceOnOtherDrum(Dictionary<Voice, int> graces, int after)
        {
            if (graces.Count == 0 || after >= strokes.Count) return;
            var index = Enumerable.Range(after, strokes.Count - after)
                .OrderBy(i => strokes[i].Voice.Family is Family.Snare or Family.Tom ? 0 : 1).First();
            var (voice, times) = graces.First();
            strokes[index] = strokes[index] with
            {
                Grace = voice,
                Ornaments = strokes[index].Ornaments | (times > 1 ? Ornaments.Drag : Ornaments.Flam)
            };
            graces.Clear();
        }

        private PercussionSound? SoundOf(XElement note)
        {
            var id = Child(note, "instrument")?.Attribute("id")?.Value;
            var (name, midi) = id is not null && instruments.TryGetValue(id, out var listed) ? listed : ("", null);
            var unpitched = Child(note, "unpitched");
            var key = $"{Text(unpitched, "display-step").ToLowerInvariant()}/{Text(unpitched, "display-octave")}";
            var words = PercussionMap.Called(name.Length > 0 ? name : midi is { } number ? PercussionMap.Called(number) : key);
            if (map.Said.TryGetValue(words, out var said)) return said;
            // The name says more than a note that two drums share.
            if (Voice.All.FirstOrDefault(v => string.Equals(v.Name, name, StringComparison.OrdinalIgnoreCase)) is { } named) return new(
                named, null);
            if (midi is { } n && map.Sounds.TryGetValue(n, out var sound)) return sound;
            if (Voice.Find(name) is { } called) return new(called, null);
            var head = Heads.FirstOrDefault(h => h.Theirs == Text(note, "notehead")).Ours ?? "";
            // A place on the staff says something only where the instrument says nothing: programs differ in where they put what.
            if (name.Length == 0 && StaffPlaces.At(key, head) is { } placed) return new(placed, null);
            unknown[words] = unknown.GetValueOrDefault(words) + 1;
            return null;
        }

        private static Stroke StrokeOf(XElement note, Voice voice, Openness? of, Tick at, int graces)
        {
            var notations = Children(note, "notations").SelectMany(n => n.Elements()).ToList();
            IEnumerable<XElement> Of(string group) => notations.Where(n => n.Name.LocalName == group).SelectMany(n => n.Elements());
            var technical = Of("technical").ToList();
            bool Technical(string name) => technical.Any(t => t.Name.LocalName == name);
            bool Said(string word) => technical.Any(t => t.Name.LocalName == "other-technical" && t.Value.Trim()
                .Equals(word, StringComparison.OrdinalIgnoreCase));
            var ornaments = (graces > 1 ? Ornaments.Drag : graces == 1 ? Ornaments.Flam : Ornaments.None) | (Of("ornaments")
                .Any(o => o.Name.LocalName == "tremolo" && o.Attribute("type")?.Value == "unmeasured") ? Ornaments.Buzz : Ornaments.None)
                | (Said("rimshot") ? Ornaments.Rimshot : Ornaments.None) | (Said("choke") ? Ornaments.Choke : Ornaments.None);
            var hand = technical.FirstOrDefault(t => t.Name.LocalName == "fingering")?.Value.Trim() ?? Text(Child(note, "lyric"), "text");
            return new(at, voice)
            {
                Echo = Child(note, "cue") is not null,
                Dynamic = Child(note, "notehead")?.Attribute("parentheses")?.Value == "yes" ? Dynamic.Ghost : Of("articulations")
                    .Any(a => a.Name.LocalName is "accent" or "strong-accent") ? Dynamic.Accent : Dynamic.Normal,
                Openness = voice == Voice.Hat ? Technical("open") || Technical("open-string") ? Openness.Open : Technical("half-muted")
                    ? Openness.Loose : of ?? Openness.Closed : voice == Voice.HatFoot && Technical("open") ? Openness.Open : null,
                Ornaments = ornaments,
                Side = voice.Limbs == LimbClass.Hand ? hand switch { "R" or "r" => Side.Right, "L" or "l" => Side.Left, _ => null } : null,
            };
        }
    }
}
