using System.Globalization;
using System.Text.RegularExpressions;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>Reads the words of one bar: places, runs, tuplets, removals and their marks.</summary>
internal sealed partial class TokenReader(SourceLine line, Voice voice, Directives said, Problems problems)
{
    private static readonly (string Text, Sub Sub)[] Syllables =
    [
        ("and", Sub.And), ("trip", Sub.Trip), ("let", Sub.Let), ("ti", Sub.Ti), ("ta", Sub.Ta), ("ah", Sub.A), ("uh", Sub.A),
        ("e", Sub.E), ("&", Sub.And), ("+", Sub.And), ("a", Sub.A), ("t", Sub.Trip), ("l", Sub.Let),
    ];

    private const int MostNotes = 8;

    /// <summary>Reads a word that stands at <paramref name="start"/> in the line; nothing if it cannot be understood, with a problem
    /// told.</summary>
    public Token? Read(int start, string word, bool ghost)
    {
        var at = line.Span(start, word.Length);
        if (word.StartsWith('-')) return Removal(at, word);
        if (MatchRun(word) is { Success: true } run) return ReadRun(at, word, run, ghost);
        if (Tuplet().Match(word) is { Success: true } tuplet) return ReadTuplet(at, word, tuplet, ghost);

        var position = 0;
        if (ReadPlace(word, ref position) is not { } place)
        {
            if (NumberInWords(word) is { } figure)
            {
                problems.Error(at, $"Counts are written in figures here: write {figure}.", figure);
                return null;
            }
            if (MarksFirst().Match(word) is { Success: true } turned)
            {
                var right = turned.Groups["place"].Value + turned.Groups["marks"].Value;
                problems.Error(at, $"Marks stand after their count: write {right}.", right);
                return null;
            }
            if (TellGlued(at, start, word)) return null;
            problems.Error(at, $"‘{word}’ is no count: write a beat number with e, &, a, t or l, such as 3&, a run such as 8ths, or % "
                + $"for the bar before.");
            return null;
        }
        if (position < word.Length && GluedRest(word, position) is { } rest)
        {
            var spaced = word[..position] is var head && place.Beat is { } beat && place.Sub != Sub.Beat
                ? $"{beat} {head[beat.ToString(CultureInfo.InvariantCulture).Length..]} {rest}" : $"{word[..position]} {rest}";
            problems.Error(at, $"‘{word}’ glues several counts together: write {spaced}, with spaces, for one stroke each.", spaced);
            return null;
        }
        if (position < word.Length && MayBeGlued().IsMatch(word[position..]) && TellGlued(at, start, word)) return null;
        var counted = at with { Length = position };
        var doubled = position < word.Length && word[position] == ':';
        if (doubled) position++;
        return ReadMarks(at, word, position, ghost) is { } marks ? new PlaceToken(at, place, doubled, marks) { Counted = counted } : null;
    }

    /// <summary>Counts in a row without blanks; where a sign may be a word or a count, both are offered.</summary>
    private bool TellGlued(TextSpan at, int start, string word)
    {
        if (said.Language == Language.First) return false;
        var before = line.Text[..start];
        var ways = GluedCounts.Ways(word, before[(before.LastIndexOfAny(['|', ':']) + 1)..]);
        if (ways.Count == 0) return false;
        problems.Error(at, ways.Count == 1 ? $"‘{word}’ glues several counts together: write {ways[0]}, with spaces, for one stroke each."
            : $"‘{word}’ may be {string.Join(" or ", ways)}: choose one.",
                [.. ways.Select(way => new Fix($"Write {way}", new TextEdit(at, way)))]);
        return true;
    }

    private static string? NumberInWords(string word) => Array.IndexOf(
        ["one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"], word.ToLowerInvariant())
        is >= 0 and var index ? (index + 1).ToString(CultureInfo.InvariantCulture) : null;

    private RemovalToken? Removal(TextSpan at, string word)
    {
        var position = 1;
        var wholeSpan = position < word.Length && word[position] == '@';
        if (wholeSpan) position++;
        var range = wholeSpan ? ReadRange(word, ref position)
            : ReadPlace(word, ref position) is { IsBare: false } place ? new PlaceRange(place, place) : null;
        if (range is { } taken && position == word.Length) return new(at, taken, wholeSpan);
        problems.Error(at, $"‘{word}’ takes nothing out: write - and a place, such as -3&, or a span, such as -@3-4.");
        return null;
    }

    private RunToken? ReadRun(TextSpan at, string word, Match run, bool ghost)
    {
        var every = 1;
        if (run.Groups["every"].Success && (!int.TryParse(run.Groups["every"].Value, out every) || every is < 1 or > 64))
        {
            problems.Error(at, "A run takes every first to every sixty-fourth note: write for example 3x16ths.");
            return null;
        }
        var position = run.Length;
        PlaceRange? range = null;
        if (position < word.Length && word[position] == '@')
        {
            position++;
            range = ReadRange(word, ref position);
            if (range is null)
            {
                problems.Error(at, $"‘{word}’ does not say from where: write a place after @, such as 16ths@3-4 or 8ths@1&-3.");
                return null;
            }
        }
        if (!ghost) line.Looks?.Add(Look.Run, at with { Length = position });
        return ReadMarks(at, word, position, ghost) is { } marks
            ? new(at, every, RunUnit.Of(run.Groups["unit"].Value), range,
                marks)
            { Ends = at with { Column = at.Column + position, Length = 0 } }
            : null;
    }

    public bool IsRun(string word) => said.Language == Language.Second && MatchRun(word).Success;

    private Match MatchRun(string word) => Run().Match(word) is { Success: true } run || said.Language == Language.First ? Run()
        .Match(word) : RunInWords().Match(word);

    private TupletToken? ReadTuplet(TextSpan at, string word, Match tuplet, bool ghost)
    {
        var (beat, size) = (Small(tuplet.Groups["beat"].Value), Small(tuplet.Groups["size"].Value));
        var beats = tuplet.Groups["beats"].Success ? Small(tuplet.Groups["beats"].Value) : 1;
        if (size is not (>= 2 and <= 10 or 12 or 14 or 15 or 16) || beats < 1)
        {
            problems.Error(at, $"A tuplet has 2 to 10, 12, 14, 15 or 16 strokes over one beat or more: ‘{word}’ does not.");
            return null;
        }
        var chosen = new SortedSet<int>();
        foreach (var part in tuplet.Groups["chosen"].Value.Split(',',
            StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var ends = part.Split('-', StringSplitOptions.TrimEntries);
            var (from, to) = (Small(ends[0]), Small(ends[^1]));
            if (ends.Length > 2 || from < 1 || to < from || to > size)
            {
                problems.Error(at, $"A tuplet of {size} has the strokes 1 to {size}: ‘{part}’ is none of them.");
                return null;
            }
            for (var i = from; i <= to; i++) chosen.Add(i);
        }
        var all = tuplet.Groups["chosen"].Success ? chosen : [.. Enumerable.Range(1, size)];
        return ReadMarks(at, word, tuplet.Length, ghost) is { } marks ? new(at, beat, size, beats, [.. all], marks) : null;
    }

    private static int Small(string digits) => int.TryParse(digits, out var n) && n < 1000 ? n : -1;

    private static PlaceRange? ReadRange(string word, ref int position)
    {
        if (ReadPlace(word, ref position) is not { IsBare: false } from) return null;
        if (position >= word.Length || word[position] != '-') return new(from, null);
        position++;
        return ReadPlace(word, ref position) is { IsBare: false } to ? new(from, to) : null;
    }

    /// <summary>Reads a whole text as one place, such as the one where a pickup starts.</summary>
    public static Place? WholePlace(string text)
    {
        var position = 0;
        return ReadPlace(text, ref position) is { IsBare: false } place && position == text.Length ? place : null;
    }

    internal static Place? ReadPlace(string word, ref int position)
    {
        var digits = position;
        while (digits < word.Length && char.IsAsciiDigit(word[digits])) digits++;
        int? beat = null;
        if (digits > position)
        {
            if (digits - position > 3) return null;
            beat = int.Parse(word.AsSpan(position, digits - position), NumberStyles.None, CultureInfo.InvariantCulture);
            position = digits;
        }
        var sub = ReadSyllable(word, ref position);
        if (beat is null && sub is null) return null;
        var afterAnd = false;
        if (beat is not null && sub == Sub.And)
        {
            var next = position;
            if (ReadSyllable(word, ref next) is (Sub.Ti or Sub.Ta) and { } half)
            {
                (sub, afterAnd, position) = (half, true, next);
            }
        }
        var step = position < word.Length && word[position] == '\'' && (sub is null or Sub.E or Sub.And or Sub.A);
        if (step) position++;
        return new(beat, sub ?? Sub.Beat, afterAnd, step);
    }

    private static Sub? ReadSyllable(string word, ref int position)
    {
        foreach (var (text, sub) in Syllables)
        {
            if (string.CompareOrdinal(word, position, text, 0, text.Length) != 0) continue;
            position += text.Length;
            return sub;
        }
        return null;
    }

    /// <summary>The rest of a word as spaced syllables, if that is all it is.</summary>
    private static string? GluedRest(string word, int position)
    {
        var parts = new List<string>();
        while (position < word.Length)
        {
            var start = position;
            if (ReadSyllable(word, ref position) is null) return null;
            parts.Add(word[start..position]);
        }
        return string.Join(' ', parts);
    }

    /// <param name="end">Where the marks end; the end of the word if not said.</param>
    public Marks? ReadMarks(TextSpan at, string word, int position, bool ghost, int? end = null)
    {
        var marks = MarksOf(at, word, position, ghost, end ?? word.Length);
        if (marks is not null && !ghost) line.Looks?.Add(Look.Mark,
            at with { Column = at.Column + position, Length = (end ?? word.Length) - position });
        return marks;
    }

    private Marks? MarksOf(TextSpan at, string word, int position, bool ghost, int end)
    {
        var marks = ghost ? Marks.None with { Dynamic = Dynamic.Ghost } : Marks.None;
        var afterOrnament = false;
        while (position < end)
        {
            var mark = word[position];
            var here = new TextSpan(at.Line, at.Column + position, 1);
            var mayDoubt = afterOrnament;
            afterOrnament = false;
            switch (mark)
            {
                case '>' when ghost:
                    problems.Error(at, $"‘{word}’ is a ghost and an accent at once: a stroke has one dynamic. Take out > or the brackets.");
                    return null;
                case '>':
                    marks = marks with { Dynamic = Dynamic.Accent };
                    break;
                case 'o' or '~':
                    if (mark == '~' ? voice != Voice.Hat : voice != Voice.Hat && voice != Voice.HatFoot)
                    {
                        problems.Error(here, mark == 'o'
                            ? $"o opens a hat (HH) or splashes with the foot (HF): a {voice.Name} has no open sound. Leave it out."
                            : $"~ is a loose hat: it belongs to HH, not to the {voice.Name}. Leave it out.");
                        return null;
                    }
                    if (marks.Openness is not null)
                    {
                        problems.Error(here, "A stroke is open or loose, not both: keep one of o and ~.");
                        return null;
                    }
                    marks = marks with { Openness = mark == 'o' ? Openness.Open : Openness.Loose };
                    break;
                case 'f' or 'd' or 'z' or 'r' or 'c':
                    (marks, afterOrnament) = (marks with { Ornaments = marks.Ornaments | OrnamentOf(mark) }, true);
                    if (mark is not ('f' or 'd') || CodeAt(word, position + 1, end) is not { } code) break;
                    if (GraceOf(marks, code, new(at.Line, here.Column + 1, code.Length)) is not { } grace) return null;
                    (marks, position) = (marks with { Grace = grace }, position + code.Length);
                    break;
                case '=' when said.Language == Language.Second:
                    marks = marks with { Echo = true };
                    break;
                case '?' when said.Language == Language.Second && position + 1 < end && word[position + 1] == '?':
                    if (!mayDoubt)
                    {
                        problems.Error(here with { Length = 2 },
                            "?? says that an ornament is unsure and stands straight after one, as in 4f??: write ? for a stroke that is "
                            + "unsure.", "?");
                        return null;
                    }
                    (marks, position) = (marks with { OrnamentUnsure = true }, position + 1);
                    break;
                case 'R' or 'L':
                    var side = mark == 'R' ? Side.Right : Side.Left;
                    if (marks.Side is { } other && other != side)
                    {
                        problems.Error(here, "A stroke has one hand: keep R or L. A flam’s grace note needs no letter.");
                        return null;
                    }
                    if (voice.Limbs == LimbClass.None)
                    {
                        problems.Error(here, "The band’s hits have no hands of the drummer’s: leave R and L out.");
                        return null;
                    }
                    marks = marks with { Side = side };
                    break;
                case '?':
                    marks = marks with { Unsure = true };
                    break;
                case '*':
                    marks = marks with { Optional = true };
                    break;
                case '{':
                    if (Note().Match(word, position) is not { Success: true } note)
                    {
                        problems.Error(here, "A technique note is one word of at most 16 letters in braces, such as {edge}.");
                        return null;
                    }
                    if (marks.Notes.Count == MostNotes)
                    {
                        problems.Error(here, $"A stroke has at most {MostNotes} technique notes: take some out.");
                        return null;
                    }
                    marks = marks with { Notes = [.. marks.Notes, note.Groups[1].Value] };
                    position += note.Length - 1;
                    break;
                case '_':
                    var after = position + 1;
                    if (ReadPlace(word, ref after) is not { IsBare: false } until || after != word.Length)
                    {
                        problems.Error(here, "_ needs the place to which the stroke lasts, last in the word: write 1z_3 or 4&o_1.");
                        return null;
                    }
                    return marks with { Until = until };
                default:
                    problems.Error(here, $"‘{mark}’ in ‘{word}’ is no mark. Marks are > o ~ f d z r c R L ? * = and {{note}}; a ghost "
                        + $"stands in brackets.");
                    return null;
            }
            position++;
        }
        if (!marks.Echo || marks.Side is null) return marks;
        problems.Error(at, $"‘{word}’ is an echo and has a hand: nobody struck it. Take out = or the hand.");
        return null;
    }

    /// <summary>Two capitals, or a capital and a figure: the code of a drum, if one has it.</summary>
    private string? CodeAt(string word, int position, int end) =>
        said.Language == Language.Second && position + 2 <= end && char.IsAsciiLetterUpper(word[position])
            && (char.IsAsciiLetterUpper(word[position + 1]) || char.IsAsciiDigit(word[position + 1]))
            && IsCode(word.Substring(position, 2)) ? word.Substring(position, 2) : null;

    /// <summary>A drum has this code, or may have: P1 to P8 are introduced.</summary>
    internal static bool IsCode(string code) => Voice.Find(code)?.Code == code || OwnCode().IsMatch(code);

    private Voice? GraceOf(Marks marks, string code, TextSpan at)
    {
        var grace = said.FindVoice(code);
        if (grace is null) problems.Error(at, $"{code} is not introduced: write voice {code} NAME, FAMILY in a line of its own.");
        else if (grace == Voice.Ensemble) problems.Error(at,
            "The band plays no grace stroke of the drummer’s: name a drum, or leave it out.");
        else if (marks.Grace is not null) problems.Error(at, "A stroke has its grace on one drum: keep one of them.");
        else return grace;
        return null;
    }

    private static Ornaments OrnamentOf(char mark) => mark switch
    {
        'f' => Ornaments.Flam,
        'd' => Ornaments.Drag,
        'z' => Ornaments.Buzz,
        'r' => Ornaments.Rimshot,
        _ => Ornaments.Choke,
    };

    [GeneratedRegex(@"^(?:(?<every>\d{1,3})x)?(?<unit>" + RunUnit.Signs + ")")]
    private static partial Regex Run();

    [GeneratedRegex(@"^(?:(?<every>\d{1,3})x)?(?<unit>" + RunUnit.Words + ")")]
    private static partial Regex RunInWords();

    [GeneratedRegex(@"^(?<marks>[>~ofdzr]{1,3})(?<place>\d{1,2}(?:[eatl&+])?)$")]
    private static partial Regex MarksFirst();

    [GeneratedRegex(@"^P[1-8]$")]
    private static partial Regex OwnCode();

    [GeneratedRegex(@"^(?=.*(?:[\d&+,\-]|and))[^_{':]+$")]
    private static partial Regex MayBeGlued();

    [GeneratedRegex(@"^(?<beat>\d{1,3})\[\s*(?<size>\d{1,3})\s*(?:/\s*(?<beats>\d{1,3})\s*)?(?::(?<chosen>[\d,\s-]+))?\]")]
    private static partial Regex Tuplet();

    [GeneratedRegex(@"\G\{(\p{L}{1,16})\}")]
    private static partial Regex Note();
}
