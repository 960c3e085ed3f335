using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Interchange;

/// <summary>One line of a tab: a voice and its bars of signs.</summary>
internal sealed class TabLine(SourceLine line, Directives said, Problems problems)
{
    /// <summary>Puts its strokes, from a bar on; gives back how many bars it has.</summary>
    /// <param name="first">Bar in which it starts, from 0.</param>
    public int Read(int first, Dictionary<(int, int), Stroke> strokes)
    {
        var text = line.Text.TrimEnd();
        var bar = text.IndexOf('|');
        if (bar < 0)
        {
            problems.Error(line.Whole, "This is no line of a tab: write a voice, |, and its signs, such as HH|x-x-x-x-|.");
            return 0;
        }
        var word = text[..bar].Trim().TrimEnd(':');
        if (said.FindVoice(word) is not { } voice)
        {
            problems.Error(line.Span(text.Length - text.TrimStart().Length, Math.Max(1, word.Length)),
                $"‘{word}’ is no voice: write a code such as HH, SN, BD, T1, FT, CR, RD.");
            return 0;
        }
        var (index, start) = (first, bar + 1);
        while (start < text.Length)
        {
            var end = text.IndexOf('|', start) is var next and >= 0 ? next : text.Length;
            if (index < CountLines.MostBars) ReadBar(text[start..end], start, index, voice, strokes);
            else if (index == CountLines.MostBars) problems.Error(line.Span(start, end - start),
                $"A passage has at most {CountLines.MostBars} bars; the first {CountLines.MostBars} are shown. Split it into several "
                + $"passages.");
            index++;
            start = end + 1;
        }
        return index - first;
    }

    private void ReadBar(string signs, int column, int bar, Voice voice, Dictionary<(int, int), Stroke> strokes)
    {
        var meter = said.Meters.MeterOf(bar);
        if (!DrumTab.Grids.Any(g => g * meter.Length.Value == signs.Length * Tick.PerWhole))
        {
            var usual = DrumTab.Grids.Where(g => g * meter.Length.Value % Tick.PerWhole == 0)
                .Select(g => g * meter.Length.Value / Tick.PerWhole);
            problems.Error(line.Span(column, Math.Max(1, signs.Length)),
                $"A bar of {meter} has {string.Join(", ", usual)} signs in a tab; this one has {signs.Length}.");
            return;
        }
        for (var i = 0; i < signs.Length; i++)
        {
            if (signs[i] == '-') continue;
            if (StrokeOf(signs[i], voice, said.Meters.StartOf(bar) + new Tick(meter.Length.Value / signs.Length * i)) is not { } stroke)
                problems.Error(line.Span(column + i, 1), $"‘{signs[i]}’ is no sign of a tab: x X o O g f d b # are, and - for silence.");
            else if (!strokes.TryAdd((stroke.At.Value, voice.Order), stroke))
                problems.Error(line.Span(column + i, 1), $"Another line has the {voice.Name} here already: take one of them out.");
        }
    }

    private static Stroke? StrokeOf(char sign, Voice voice, Tick at)
    {
        var stroke = new Stroke(at, voice) { Openness = voice == Voice.Hat ? sign is 'o' or 'O' ? Openness.Open : Openness.Closed : null };
        return sign switch
        {
            'x' or 'o' => stroke,
            'X' or 'O' => stroke with { Dynamic = Dynamic.Accent },
            'g' => stroke with { Dynamic = Dynamic.Ghost },
            'f' => stroke with { Ornaments = Ornaments.Flam },
            'd' => stroke with { Ornaments = Ornaments.Drag },
            'b' => stroke with { Ornaments = Ornaments.Buzz },
            '#' => stroke with { Ornaments = Ornaments.Choke },
            _ => null,
        };
    }
}
