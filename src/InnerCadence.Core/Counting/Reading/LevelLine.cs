using System.Text.RegularExpressions;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>A line that says how loud the kit is, or some voices of it (count-lines.md, "Levels"). A line with a fault counts as not
/// written.</summary>
internal sealed partial class LevelLine
{
    private readonly SourceLine line;
    private readonly Directives said;
    private readonly Problems problems;
    private readonly List<Entry> entries = [];

    private LevelLine(SourceLine line, Directives said, Problems problems) =>
        (this.line, this.said, this.problems) = (line, said, problems);

    public static bool IsHead(string text) => Head().IsMatch(text);

    /// <param name="bars">Of the passage; the lines make none.</param>
    public static Levels ReadAll(IEnumerable<SourceLine> lines, Directives said, int bars, Problems problems)
    {
        var marks = new List<LevelMark>();
        var lineOf = new Dictionary<string, int>();
        foreach (var line in lines)
        {
            var head = Head().Match(line.Text);
            line.Is(Look.Voice, head.Groups["sign"].Index, head.Groups["sign"].Length);
            if (VoicesOf(line, head.Groups["voices"], said, problems) is not { } voices) continue;
            var taken = voices.IsEmpty ? [""] : voices.Select(v => v.Code).ToArray();
            if (taken.FirstOrDefault(lineOf.ContainsKey) is { } twice)
            {
                problems.Error(line.Whole, $"{(twice.Length == 0 ? "The level for all" : $"The level of {twice}")} stands already in "
                    + $"line {lineOf[twice]}: put them into one line.");
                continue;
            }
            foreach (var code in taken) lineOf[code] = line.Number;
            marks.AddRange(new LevelLine(line, said, problems).Read(head.Length, bars, voices));
        }
        return marks.Count == 0 ? Levels.None : new(marks);
    }

    private static ValueList<Voice>? VoicesOf(SourceLine line, Group names, Directives said, Problems problems)
    {
        var voices = new SortedSet<Voice>();
        foreach (Match name in Name().Matches(names.Value))
        {
            if (said.FindVoice(name.Value) is { } voice)
            {
                voices.Add(voice);
                continue;
            }
            problems.Error(line.Span(names.Index + name.Index, name.Length),
                $"‘{name.Value}’ is no voice: write codes with blanks between, such as LV SN FT:, or LV: for all.");
            return null;
        }
        return [.. voices];
    }

    private List<LevelMark> Read(int start, int bars, ValueList<Voice> voices)
    {
        var errors = problems.Errors;
        var (index, last) = (0, new List<Entry>());
        foreach (var (from, to) in BarLines.Split(line, start, said.Language))
        {
            var text = line.Text[from..to].Trim();
            var at = line.Span(from + line.Text[from..to].Length - line.Text[from..to].TrimStart().Length, text.Length);
            if (text.StartsWith('%'))
            {
                if (TimesOf(text, at, index, bars) is not { } times) return [];
                for (var i = 0; i < times && index < bars; i++, index++) Again(last, index);
                continue;
            }
            last = text is "" or "-" ? [] : ReadBar(from, to, index, bars);
            entries.AddRange(last);
            index++;
        }
        if (problems.Errors == errors) CheckHairpins();
        return problems.Errors > errors ? [] : [.. entries.Select(e => new LevelMark(e.At, voices, e.Level, e.Hairpin is not null))];
    }

    private int? TimesOf(string repeat, TextSpan at, int index, int bars)
    {
        var times = repeat == "%" ? 1 : repeat == "%*" ? Math.Max(0, bars - index) : BarReader.TimesOf(repeat);
        if (times == 0 && repeat != "%*") problems.Error(at,
            $"‘{repeat}’ is no repeat: write % for once more, %x3 for three times, %* up to the end; a bar of other levels is written "
            + $"out.");
        else if (index == 0) problems.Error(at, "% repeats the bar before it, and this is the first: write the bar out.");
        else return times;
        return null;
    }

    private void Again(List<Entry> bar, int index)
    {
        var start = said.Meters.StartOf(index);
        foreach (var entry in bar) entries.Add(entry with { At = start + entry.InBar });
    }

    /// <summary>Places, each followed by its level, with &lt; and &gt; after it for a hairpin.</summary>
    private List<Entry> ReadBar(int from, int to, int index, int bars)
    {
        var meter = said.Meters.MeterOf(Math.Min(index, CountLines.MostBars));
        var (start, placer, text) = (said.Meters.StartOf(Math.Min(index, CountLines.MostBars)),
            new BarPlacer(meter, said, Tick.Zero, problems), line.Text[..to]);
        var found = new List<Entry>();
        for (var i = from; i < to;)
        {
            var begin = i;
            if (text[i] == ' ')
            {
                i++;
                continue;
            }
            if (text[i] is '<' or '>')
            {
                if (found.Count == 0 || found[^1].Hairpin is not null) problems.Error(line.Span(i, 1),
                    $"{text[i]} stands after a place and its level: write for example 3 p < 4& f.");
                else found[^1] = found[^1] with { Hairpin = (text[i], line.Span(i, 1)) };
                i++;
                continue;
            }
            if (TokenReader.ReadPlace(text, ref i) is not { } place)
            {
                problems.Error(line.Span(begin, Word().Match(text, begin).Length),
                    $"‘{Word().Match(text, begin).Value}’ is no place and no level: write for example 3 p < 4& f, with pp p mp mf f ff.");
                return found;
            }
            var at = line.Span(begin, i - begin);
            while (i < to && text[i] == ' ') i++;
            if (Loudness().Match(text, i) is not { Success: true } level)
            {
                TellNoLevel(at, i < to ? text[i] : ' ', line.Span(Math.Min(i, to - 1), 1), found);
                return found;
            }
            i += level.Length;
            if (placer.Locate(new(at, place, false, Marks.None)) is not { } inBar) return found;
            if (Before(found) is { } before && start + inBar <= before)
            {
                problems.Error(at, "Levels stand in the order of time: this place is not later than the one before it.");
                return found;
            }
            // A hairpin may end on the 1 after the last bar.
            if (index >= bars && !(index == bars && inBar == Tick.Zero && entries is [.., { Hairpin: not null }] && found.Count == 0))
            {
                problems.Error(at, $"The passage has {bars} {(bars == 1 ? "bar" : "bars")}: only a hairpin may end after it, on the "
                    + $"next 1.");
                return found;
            }
            found.Add(new(start + inBar, inBar, LevelWords.Find(level.Value)!.Value, at));
        }
        return found;
    }

    private Tick? Before(List<Entry> found) => found.Count > 0 ? found[^1].At : entries.Count > 0 ? entries[^1].At : null;

    private void TellNoLevel(TextSpan place, char next, TextSpan nextAt, List<Entry> found)
    {
        var now = (found.Count > 0 ? found[^1].Level : entries.Count > 0 ? entries[^1].Level : Level.Mf).Written();
        if (next is '<' or '>')
            problems.Error(nextAt, $"A hairpin needs a level at both ends: write {now} before {next}, or another of pp p mp mf f ff.",
                new Fix($"Start from {now}", new TextEdit(nextAt with { Length = 0 }, now + " ")));
        else
            problems.Error(place, "This place has no level: write one of pp p mp mf f ff after it.");
    }

    private void CheckHairpins()
    {
        for (var i = 0; i < entries.Count; i++)
        {
            if (entries[i].Hairpin is not var (sign, at)) continue;
            if (i + 1 == entries.Count)
            {
                problems.Error(at, "A hairpin needs a level at both ends: write the place where it arrives, and its level.");
                continue;
            }
            var (from, to) = (entries[i].Level, entries[i + 1].Level);
            if (from == to) problems.Error(at, $"It is {from.Written()} at both ends: take {sign} out, or write another level.");
            else if (from < to != (sign == '<')) problems.Error(at,
                $"From {from.Written()} to {to.Written()} it {(from < to ? "grows: write <" : "fades: write >")}.", from < to ? "<" : ">");
        }
    }

    private sealed record Entry(Tick At, Tick InBar, Level Level, TextSpan Place)
    {
        public (char Sign, TextSpan At)? Hairpin { get; init; }
    }

    [GeneratedRegex(@"^\s*(?<sign>LV)(?<voices>(?:[\s,]+[^:|]*)?)\s*:", RegexOptions.IgnoreCase)]
    private static partial Regex Head();

    [GeneratedRegex(@"[^\s,]+")]
    private static partial Regex Name();

    [GeneratedRegex(@"\G(?:pp|p|mp|mf|ff|f)(?![a-z])")]
    private static partial Regex Loudness();

    [GeneratedRegex(@"\G[^\s|<>]+")]
    private static partial Regex Word();
}
