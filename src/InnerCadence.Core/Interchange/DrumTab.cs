using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Interchange;

/// <summary>Drum-tab text: a plain grid, a line a voice, a sign a step (count-lines.md, "Drum-tab text").</summary>
public static class DrumTab
{
    /// <summary>Steps of a bar of 4/4; other meters have as many in proportion.</summary>
    internal static readonly int[] Grids = [8, 12, 16, 24, 32, 48];

    /// <summary>Reads a tab; every problem is told with its place, and the bars that are in order count.</summary>
    public static CountText Parse(string text)
    {
        var problems = new Problems();
        if (text.Length > SourceText.Limit)
        {
            problems.Error(new(1, 1, 1), "The text is longer than 64 KiB; what comes after is not read. Split it into several passages.");
            text = text[..SourceText.Limit];
        }
        var (said, lines) = Directives.Read(SourceText.Lines(text, comments: false), Language.Second, problems);
        var strokes = new Dictionary<(int, int), Stroke>();
        var (first, bars) = (0, 0);
        foreach (var line in lines.Append(new SourceLine(0, "")))
        {
            if (string.IsNullOrWhiteSpace(line.Text)) first = bars;
            else bars = Math.Max(bars, first + new TabLine(line, said, problems).Read(first, strokes));
        }
        var read = new Passage(said.Meters, Math.Min(bars, CountLines.MostBars), Passage.InOrder(strokes.Values))
        {
            Tempo = said.Tempo,
            Feel = said.Feel,
            Hands = said.Hands
        };
        return new(said.Title, read, problems.InOrder);
    }

    /// <summary>Writes a passage as a tab, and tells what a tab cannot hold.</summary>
    public static (string Text, IReadOnlyList<string> Lost) Write(Passage passage)
    {
        var lost = new List<string>();
        var meters = passage.Meters.ToString();
        var text = new System.Text.StringBuilder(meters == "4/4" ? "" : $"meter {meters}\n");
        if (passage.Tempo is { } tempo) text.Append(System.Globalization.CultureInfo.InvariantCulture, $"tempo {tempo}\n");
        foreach (var voice in passage.Voices.Where(v => v.Code[0] == 'P')) text.Append(
            $"voice {voice.Code} {voice.Name}, {voice.Family.ToString().ToLowerInvariant()}{(voice.IsFoot ? ", foot" : "")}\n");
        var bars = Enumerable.Range(0, passage.Bars).Select(bar => new TabBar(passage, bar, lost)).ToList();
        foreach (var voice in passage.Voices)
        {
            text.Append(voice.Code).Append('|');
            foreach (var bar in bars) text.Append(bar.Line(voice)).Append('|');
            text.Append('\n');
        }
        if (passage.Strokes.Any(s => s.Side is not null)) lost.Add("Hands and feet are not in it.");
        if (passage.Strokes.Any(s => s.Unsure || s.Optional || s.Length is not null || s.Notes.Count > 0)) lost.Add(
            "What is unsure or optional, lengths and technique notes are not in it.");
        return (text.ToString(), lost);
    }

    /// <summary>A bar with one grid for all its voices, the coarsest that every stroke stands on, so that its lines stand under each
    /// other; where no grid holds all of them each voice has its own.</summary>
    private sealed class TabBar
    {
        private readonly Tick start;
        private readonly Meter meter;
        private readonly ILookup<Voice, Stroke> strokes;
        private readonly Dictionary<Voice, int> own;
        private readonly int common;

        public TabBar(Passage passage, int bar, List<string> lost)
        {
            (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
            strokes = passage.Strokes.Where(s => s.At >= start && s.At < start + meter.Length).ToLookup(s => s.Voice);
            var grids = Grids.Where(g => g * meter.Length.Value % Tick.PerWhole == 0).Select(g => g * meter.Length.Value / Tick.PerWhole)
                .ToList();
            var finest = grids.Count > 0 ? grids[^1] : meter.Counts;
            int GridOf(IEnumerable<Stroke> these) => grids.FirstOrDefault(n => these.All(s => IsOn(s, n)));
            common = GridOf(strokes.SelectMany(v => v));
            own = strokes.ToDictionary(v => v.Key, GridOf);
            foreach (var voice in own.Where(v => v.Value == 0).Select(v => v.Key).ToList())
            {
                own[voice] = finest;
                lost.Add($"Bar {bar + 1}: a stroke of the {voice.Name} falls between the steps of any tab and is left out.");
            }
            if (common == 0 && strokes.Count == 0) common = finest;
        }

        public string Line(Voice voice)
        {
            var steps = common > 0 ? common : own.TryGetValue(voice, out var grid) ? grid : own.Values.Min();
            var signs = new string('-', steps).ToCharArray();
            foreach (var stroke in strokes[voice].Where(s => IsOn(s, steps)))
                signs[(int)((stroke.At - start).Value * (long)steps / meter.Length.Value)] = Sign(stroke);
            return new(signs);
        }

        private bool IsOn(Stroke stroke, int steps) => (stroke.At - start).Value * (long)steps % meter.Length.Value == 0;
    }

    private static char Sign(Stroke stroke) => stroke switch
    {
        _ when stroke.Ornaments.HasFlag(Ornaments.Choke) => '#',
        _ when stroke.Ornaments.HasFlag(Ornaments.Buzz) => 'b',
        _ when stroke.Ornaments.HasFlag(Ornaments.Drag) => 'd',
        _ when stroke.Ornaments.HasFlag(Ornaments.Flam) => 'f',
        { Openness: Openness.Open or Openness.Loose } when stroke.Voice == Voice.Hat => stroke.Dynamic == Dynamic.Accent ? 'O' : 'o',
        { Dynamic: Dynamic.Accent } => 'X',
        { Dynamic: Dynamic.Ghost } => 'g',
        _ => 'x',
    };
}
