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
        foreach (var voice in passage.Voices)
        {
            text.Append(voice.Code).Append('|');
            for (var bar = 0; bar < passage.Bars; bar++)
            {
                var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
                var here = passage.Strokes.Where(s => s.Voice == voice && s.At >= start && s.At < start + meter.Length).ToList();
                text.Append(Bar(here, start, meter, bar, lost)).Append('|');
            }
            text.Append('\n');
        }
        if (passage.Strokes.Any(s => s.Side is not null)) lost.Add("Hands and feet are not in it.");
        if (passage.Strokes.Any(s => s.Unsure || s.Optional || s.Length is not null || s.Notes.Count > 0)) lost.Add(
            "What is unsure or optional, lengths and technique notes are not in it.");
        return (text.ToString(), lost);
    }

    private static string Bar(List<Stroke> strokes, Tick start, Meter meter, int bar, List<string> lost)
    {
        var steps = Grids.Where(g => g * meter.Length.Value % Tick.PerWhole == 0).Select(g => g * meter.Length.Value / Tick.PerWhole)
            .ToList();
        var size = steps.FirstOrDefault(n => strokes.All(s => (s.At - start).Value * (long)n % meter.Length.Value == 0));
        if (size == 0)
        {
            size = steps.Count > 0 ? steps[^1] : meter.Counts;
            lost.Add($"Bar {bar + 1}: a stroke of the {strokes[0].Voice.Name} falls between the steps of any tab and is left out.");
        }
        var signs = new string('-', size).ToCharArray();
        foreach (var stroke in strokes.Where(s => (s.At - start).Value * (long)size % meter.Length.Value == 0)) signs[
            (int)((stroke.At - start).Value * (long)size / meter.Length.Value)] = Sign(stroke);
        return new(signs);
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
