using System.Globalization;
using System.Xml.Linq;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Interchange;

/// <summary>Tempos and levels as directions of a MusicXML bar, and back. Levels of single drums have no sign there.</summary>
internal static class MusicXmlDirections
{
    /// <param name="from">Start of the bar.</param>
    /// <param name="to">Its end.</param>
    /// <param name="last">A hairpin that arrives on the 1 after the end is closed here.</param>
    public static IEnumerable<XElement> Of(Passage passage, Tick from, Tick to, bool last)
    {
        foreach (var (at, tempo) in passage.Tempos.Where(t => t.At >= from && t.At < to))
            yield return Direction("above", at - from, new XElement("metronome", new XElement("beat-unit", "quarter"),
                new XElement("per-minute", tempo.ToString())), new XElement("sound", new XAttribute("tempo", tempo.ToString())));
        var line = passage.Levels.Lines.FirstOrDefault(l => l[0].Voices.IsEmpty, []);
        for (var i = 0; i < line.Count; i++)
        {
            var (mark, at) = (line[i], line[i].At - from);
            if (mark.At < from || mark.At > to || (mark.At == to && !last)) continue;
            if (i > 0 && line[i - 1].Hairpin) yield return Direction("below", at, Wedge("stop"));
            yield return Direction("below", at, new XElement("dynamics", new XElement(mark.Level.Written())));
            if (mark.Hairpin) yield return Direction("below", at, Wedge(line[i + 1].Level > mark.Level ? "crescendo" : "diminuendo"));
        }
    }

    private static XElement Wedge(string type) => new("wedge", new XAttribute("type", type));

    private static XElement Direction(string placement, Tick at, XElement what, XElement? sound = null) =>
        new("direction", new XAttribute("placement", placement),
        new XElement("direction-type", what), at > Tick.Zero ? new XElement("offset", new XAttribute("sound", "yes"), at.Value) : null,
            sound);

    /// <summary>Gathers directions as they come; what stands on no count is left out.</summary>
    public sealed class Reader
    {
        private static readonly (string Sign, Level Level)[] Dynamics =
            [("ppp", Level.Pp), ("pp", Level.Pp), ("p", Level.P), ("mp", Level.Mp), ("mf", Level.Mf), ("f", Level.F), ("ff", Level.Ff),
                ("fff", Level.Ff)];

        private readonly SortedDictionary<int, Bpm> tempos = [];
        private readonly SortedDictionary<int, Level> levels = [];
        private readonly List<(int From, bool Grows, int? To)> wedges = [];

        public Bpm? Tempo => tempos.Count == 0 ? null : tempos.First().Value;

        /// <param name="at">Where in the music it stands, its own offset left out.</param>
        /// <param name="divisions">Of a quarter.</param>
        public void Add(XElement element, Tick at, double divisions)
        {
            XElement? Named(string name) => element.DescendantsAndSelf().FirstOrDefault(e => e.Name.LocalName == name);
            var tick = Math.Max(0, at.Value + (double.TryParse(Named("offset")?.Value, NumberStyles.Float, CultureInfo.InvariantCulture,
                out var offset) && Math.Abs(offset) < 1e7 ? (int)Math.Round(offset * Tick.PerQuarter / divisions) : 0));
            if (Named("sound")?.Attribute("tempo")?.Value is { } said && Bpm.Parse(said) is { } tempo) tempos.TryAdd(tick, tempo);
            if (Named("dynamics")?.Elements().FirstOrDefault() is { } sign
                && Dynamics.FirstOrDefault(d => d.Sign == sign.Name.LocalName) is { Sign: not null } known) levels[tick] = known.Level;
            switch (Named("wedge")?.Attribute("type")?.Value)
            {
                case "crescendo": wedges.Add((tick, true, null)); break;
                case "diminuendo": wedges.Add((tick, false, null)); break;
                case "stop" when wedges is [.., { To: null }]: wedges[^1] = wedges[^1] with { To = tick }; break;
            }
        }

        public ValueList<TempoChange> TempoChanges(MeterCycle meters, int bars) =>
            [.. tempos.Skip(1).Select(t => new TempoChange(new(t.Key), t.Value))
                .Where(c => c.At < meters.StartOf(bars) && HasCount(meters, c.At))];

        /// <summary>A hairpin without a level at an end takes the one in force, or one step further.</summary>
        public Levels Levels(MeterCycle meters, int bars)
        {
            var hairpins = new HashSet<int>();
            foreach (var (from, grows, to) in wedges)
            {
                if (to is not { } end || end <= from || levels.Keys.Any(k => k > from && k < end)) continue;
                var now = levels.LastOrDefault(l => l.Key <= from, new(0, Level.Mf)).Value;
                var then = levels.TryGetValue(end, out var written) ? written
                    : (Level)Math.Clamp((int)now + (grows ? 1 : -1), (int)Level.Pp, (int)Level.Ff);
                if (then == now || then > now != grows) continue;
                (levels[from], levels[end]) = (now, then);
                hairpins.Add(from);
            }
            var marks = levels.Where(l => l.Key <= meters.StartOf(bars).Value && HasCount(meters, new(l.Key))).ToList();
            // The next of a hairpin is where it arrives, or it is none; after the end only an arrival may stand.
            return new(marks.Select((m, i) => new LevelMark(new(m.Key), [], m.Value, hairpins.Contains(m.Key) && i + 1 < marks.Count
                && marks[i + 1].Value != m.Value))
                .Where((m, i) => m.At < meters.StartOf(bars) || (i > 0 && hairpins.Contains(marks[i - 1].Key))));
        }

        private static bool HasCount(MeterCycle meters, Tick at) =>
            meters.Locate(at) is var (bar, inBar) && CountNames.Place(inBar, meters.MeterOf(bar)) is not null;
    }
}
