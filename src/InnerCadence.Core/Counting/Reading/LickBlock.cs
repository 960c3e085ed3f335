using System.Text.RegularExpressions;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>A lick passed on as a sticking with the drums under it: a column a note of its unit, from a place on.</summary>
/// <param name="Columns">How many, rests among them.</param>
/// <param name="Times">How often the columns are played on end; nothing for up to the end of the passage.</param>
/// <param name="Strokes">Of the first round.</param>
internal sealed record LickBlock(TextSpan At, Tick Start, Tick Unit, int Columns, int? Times,
    ValueList<(Stroke Stroke, TextSpan At)> Strokes)
{
    public bool UpToTheEnd => Times is null;

    public Tick Last => Start + Unit * Math.Max(0, Columns * (Times ?? 1) - 1);

    /// <summary>The strokes of every round that begins before the end of the passage. A length keeps the ticks of the first
    /// round.</summary>
    /// <param name="alone">Nothing else says how long the passage is, so that a lick up to its end is played once.</param>
    public IEnumerable<(Stroke Stroke, TextSpan At)> StrokesUpTo(Tick end, bool alone = false)
    {
        var times = Times ?? (alone ? 1 : int.MaxValue);
        for (var (round, start) = (0, Tick.Zero); round < times && Columns > 0 && Start + start < end; round++, start += Unit * Columns)
            foreach (var (stroke, at) in Strokes) yield return (stroke with { At = stroke.At + start }, at);
    }
}

/// <summary>Reads a lick block: its head, its letters and its drums. A block with a fault counts as not written.</summary>
internal sealed partial class LickReader(Directives said, Problems problems)
{
    private const int MostColumns = 4096;

    public static bool IsHead(SourceLine line)
    {
        if (Head().Match(line.Text) is not { Success: true } head) return false;
        line.Is(Look.Directive, head.Groups["word"].Index, head.Groups["word"].Length);
        return true;
    }

    public LickBlock? Read(SourceLine head, SourceLine? letterLine, SourceLine? drumLine)
    {
        // What is wrong with the head does not hide what is wrong with the hands and drums under it.
        var match = said.Language == Language.First ? FirstForm().Match(head.Text) : Form().Match(head.Text);
        if (!match.Success) problems.Error(head.Whole,
            "A lick begins with its unit and, if not at the start, its place: write lick 16t @3, or lick 8ths @2.4& for bar 2.");
        var begin = match.Success ? Begin(head, match) : null;
        if (letterLine is null && drumLine is null)
        {
            problems.Error(head.Whole, "A lick has its hands or its drums, or both: write ST: R L K under it, and ON: SN T1 BD.");
            return null;
        }
        var told = problems.Count;
        var letters = letterLine is { } st ? Letters(st) : null;
        var drums = drumLine is { } on ? Drums(on, letters is null) : null;
        if (problems.Count > told) return null;
        if (letters is not null && drums is not null && letters.Count != drums.Count)
        {
            var at = drums.Count > letters.Count ? drums[letters.Count].At : letters[drums.Count].At;
            problems.Error(at, $"The lick has {letters.Count} columns of hands and {drums.Count} of drums: write one under the other, "
                + $"with . where nothing is struck.");
            return null;
        }
        var unit = match.Success ? RunUnit.Of(match.Groups["unit"].Value) : Tick.Zero;
        var times = match.Success ? Times(head, match) : 1;
        var start = begin ?? said.Pickup;
        var strokes = new List<(Stroke, TextSpan)>();
        var columns = letters?.Count ?? drums!.Count;
        for (var i = 0; i < columns; i++) Strike(strokes, start + unit * i, letters?[i], drums?[i], letterLine, drumLine);
        return problems.Count > told || begin is null ? null : new(head.Whole, start, unit, columns, times, strokes);
    }

    /// <summary>Once where nothing is said; nothing for x*.</summary>
    private int? Times(SourceLine head, Match match)
    {
        var group = match.Groups["times"];
        if (!group.Success) return 1;
        if (group.Value == "*") return null;
        var times = int.Parse(group.Value, System.Globalization.CultureInfo.InvariantCulture);
        if (times == 0) problems.Error(head.Span(group.Index - 1, group.Length + 1),
            "A lick is played once or more often: write x2 or more, or leave it out.");
        return times;
    }

    private Tick? Begin(SourceLine head, Match match)
    {
        if (!match.Groups["place"].Success) return said.Pickup;
        var bar = match.Groups["bar"].Success ? int.Parse(match.Groups["bar"].Value, System.Globalization.CultureInfo.InvariantCulture) : 1;
        var at = head.Span(match.Groups["place"].Index, match.Groups["place"].Length);
        if (bar is < 1 or > CountLines.MostBars)
            problems.Error(at, $"A passage has the bars 1 to {CountLines.MostBars}: there is no bar {bar}.");
        else if (TokenReader.WholePlace(match.Groups["place"].Value)?.In(said.Meters.MeterOf(bar - 1), said.School) is not { } inBar)
            problems.Error(at, $"A bar of {said.Meters.MeterOf(bar - 1)} has no such place: write a count of it, such as @3 or @2.4&.");
        else if (bar == 1 && inBar < said.Pickup)
            problems.Error(at, "This lick starts before the pickup sounds: start it there.");
        else
            return said.Meters.StartOf(bar - 1) + inBar;
        return null;
    }

    private void Strike(List<(Stroke, TextSpan)> strokes, Tick at, Column? letter, Column? drum, SourceLine? letterLine,
        SourceLine? drumLine)
    {
        if (letter is null)
        {
            foreach (var (voice, marksFrom) in drum!.Voices) Put(voice, drum, drumLine!.Value, marksFrom, null, false);
            return;
        }
        if (letter.Letter == '.' || drum?.Letter == '.')
        {
            if (drum is not null && (letter.Letter == '.') != (drum.Letter == '.'))
                problems.Error(drum.At, "A rest stands in both lines: write . under . here, or the drum that is struck.");
            return;
        }
        Voice[] voices = drum is not null ? [.. drum.Voices.Select(v => v.Voice)]
            : letter.Letter switch { 'K' => [Voice.Kick], 'H' => [Voice.HatFoot], _ => [Voice.Snare] };
        var wanted = letter.Letter switch
        {
            'K' when voices is [{ IsFoot: true, Family: Family.Kick }] => null,
            'K' => "K is the kick: write BD under it",
            'H' when voices is [{ IsFoot: true, Family: Family.Hat }] => null,
            'H' => "H is the hat foot: write HF under it",
            'B' when voices is [{ Limbs: LimbClass.Hand }, { Limbs: LimbClass.Hand }] && voices[0] != voices[1] => null,
            'B' => "B is both hands: write two drums under it, such as CR+SN",
            _ when voices is [{ Limbs: LimbClass.Hand }] => null,
            _ => $"{letter.Letter} is one hand: write one drum for it",
        };
        if (wanted is not null)
        {
            problems.Error(drum?.At ?? letter.At, $"{wanted}.");
            return;
        }
        if (letter.Letter == 'B')
        {
            var (upper, lower) = HandOrder.Hands(said.Hands);
            var sorted = HandOrder.Sorted(voices);
            Put(sorted[0], letter, letterLine!.Value, 1, upper, letter.Unsure);
            Put(sorted[1], letter, letterLine.Value, 1, lower, letter.Unsure);
            return;
        }
        Side? side = letter.Letter switch { 'R' => Side.Right, 'L' => Side.Left, _ => null };
        Put(voices[0], letter, letterLine!.Value, 1, side, side is not null && letter.Unsure);

        void Put(Voice voice, Column column, SourceLine line, int marksFrom, Side? hand, bool unsure)
        {
            if (new TokenReader(line, voice, said, problems)
                .ReadMarks(column.At, column.Word, marksFrom, column.Ghost, column.MarksTo) is not { } marks) return;
            if (marks.Echo && column == letter)
            {
                problems.Error(column.At, "An echo has no letter, for nobody strikes it: write . here and its drum in a voice line with "
                    + "=.");
                return;
            }
            var stroke = marks.On(voice, at);
            if (hand is not null) stroke = stroke with { Side = hand, SideUnsure = unsure };
            if (marks.Until is { } until)
            {
                var (bar, inBar) = said.Meters.Locate(at);
                stroke = stroke with { Length = VoiceLine.LengthTo(until, inBar, column.At, bar, said, problems) };
            }
            strokes.Add((stroke, column.At));
        }
    }

    /// <summary>Letters with their marks, in columns. Brackets set the ghost, bar lines are for the eye.</summary>
    private List<Column> Letters(SourceLine line)
    {
        var columns = new List<Column>();
        var (text, ghost) = (line.Text, false);
        for (var i = text.IndexOf(':') + 1; i < text.Length && columns.Count <= MostColumns;)
        {
            var c = text[i];
            if (c is ' ' or '|') i++;
            else if (c is '(' or ')') (ghost, i) = (c == '(', i + 1);
            else if (c is '.' or '-')
            {
                columns.Add(new(c, false, ghost, c.ToString(), line.Span(i, 1)));
                i++;
            }
            else if (c is 'R' or 'L' or 'B' or 'K' or 'H' or 'r' or 'l')
            {
                var end = i + 1;
                while (end < text.Length && text[end] is not (' ' or '|' or '(' or ')' or '.' or 'R' or 'L' or 'B' or 'K' or 'H' or 'l'
                    or '-'))
                    end = text[end] switch
                    {
                        'f' or 'd' when IsGrace(text, end + 1) => end + 3,
                        '{' when text.IndexOf('}', end) is var close and > 0 => close + 1,
                        '_' => EndOfWord(text, end),
                        _ => end + 1
                    };
                columns.Add(new(char.ToUpperInvariant(c), char.IsLower(c), ghost, text[i..end], line.Span(i, end - i)));
                if (ghost) line.Is(Look.Ghost, i, end - i);
                i = end;
            }
            else
            {
                problems.Error(line.Span(i, 1),
                    $"‘{c}’ is no hand: the letters of a lick are R L r l B K H, with . for a rest and the marks straight after a letter.");
                return columns;
            }
        }
        return columns;
    }

    private bool IsGrace(string text, int from) => said.Language == Language.Second && from + 2 <= text.Length
        && TokenReader.IsCode(text.Substring(from, 2));

    private static int EndOfWord(string text, int from)
    {
        while (from < text.Length && text[from] is not (' ' or '|' or ')')) from++;
        return from;
    }

    /// <summary>Drums in columns; without letters they carry the marks.</summary>
    private List<Column> Drums(SourceLine line, bool carryMarks)
    {
        var columns = new List<Column>();
        var ghost = false;
        foreach (Match match in Drum().Matches(line.Text, line.Text.IndexOf(':') + 1))
        {
            if (columns.Count > MostColumns) break;
            var (word, at) = (match.Value, line.Span(match.Index, match.Length));
            if (word == "(") ghost = true;
            else if (word == ")") ghost = false;
            else if (word == ".") columns.Add(new('.', false, ghost, word, at));
            else if (word == "|") line.Is(Look.Bar, match.Index, 1);
            else if (ReadDrum(word, at, ghost, carryMarks) is { } column)
            {
                columns.Add(column);
                if (ghost) line.Is(Look.Ghost, match.Index, match.Length);
            }
        }
        return columns;
    }

    private Column? ReadDrum(string word, TextSpan at, bool ghost, bool carryMarks)
    {
        var voices = new List<(Voice, int)>();
        var (position, marksTo) = (0, word.Length);
        foreach (var part in word.Split('+'))
        {
            var length = Enumerable.Range(2, Math.Max(0, part.Length - 1)).Reverse()
                .FirstOrDefault(n => char.IsLetterOrDigit(part[n - 1]) && said.FindVoice(part[..n]) is not null);
            if (length == 0)
            {
                problems.Error(at, $"‘{part}’ is no voice: write a code such as SN, T1, BD, or two with + between for both hands.");
                return null;
            }
            if (length < part.Length && !carryMarks)
            {
                problems.Error(at, "The marks go on the letters of the ST: line above, straight after the hand.");
                return null;
            }
            voices.Add((said.FindVoice(part[..length])!, position + length));
            position += part.Length + 1;
            if (voices.Count > 1 && length < part.Length) marksTo = word.Length;
        }
        if (voices.Count > 2)
        {
            problems.Error(at, "Two hands strike two drums at most: take one of them out.");
            return null;
        }
        // With two drums what follows the first ends at the +.
        return new(voices.Count == 2 ? '+' : 'x', false, ghost, word, at) { Voices = voices, MarksTo = marksTo };
    }

    /// <param name="Word">The letter or drum with its marks.</param>
    private sealed record Column(char Letter, bool Unsure, bool Ghost, string Word, TextSpan At)
    {
        public ValueList<(Voice Voice, int MarksFrom)> Voices { get; init; } = [];
        public int MarksTo { get; init; } = Word.Length;
    }

    [GeneratedRegex(@"^\s*(?<word>lick)\b", RegexOptions.IgnoreCase)]
    private static partial Regex Head();

    [GeneratedRegex(@"^\s*lick\s*:?\s*(?<unit>" + RunUnit.Signs + "|" + RunUnit.Words
        + @")(?:\s*@\s*(?:(?<bar>\d{1,3})\.)?(?<place>\S+))?(?:\s+x(?<times>\d{1,4}|\*))?\s*$", RegexOptions.IgnoreCase)]
    private static partial Regex Form();

    [GeneratedRegex(@"^\s*lick\s*:?\s*(?<unit>4ths|8ths|16ths|32nds|8t|16t)(?:\s*@\s*(?:(?<bar>\d{1,3})\.)?(?<place>\S+))?\s*$",
        RegexOptions.IgnoreCase)]
    private static partial Regex FirstForm();

    [GeneratedRegex(@"[()|.]|[^\s()|.]+")]
    private static partial Regex Drum();
}
