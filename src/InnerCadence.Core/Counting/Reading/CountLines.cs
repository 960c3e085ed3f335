using System.Text.RegularExpressions;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>What a text of count lines says, and what in it has to be put right.</summary>
/// <param name="Title">From its directive; nothing if there is none.</param>
/// <param name="Passage">All lines that are in order, the others left out.</param>
public sealed record CountText(string? Title, Passage Passage, ValueList<Problem> Problems)
{
    public bool HasErrors => Problems.Any(p => p.Severity == Severity.Error);

    /// <summary>The words that wrote each stroke: where they stand, so that a text and its picture can point at each other.</summary>
    public ValueList<(Tick At, Voice Voice, TextSpan Words)> Places { get; init; } = [];

    /// <summary>How the parts of the text look, in its order and without overlaps; a plain count has no look of its own.</summary>
    public ValueList<(TextSpan At, Look Look)> Looks { get; init; } = [];

    /// <summary>Voices that have a line or sound, in canonical order: also those that are silent so far.</summary>
    public ValueList<Voice> Voices { get; init; } = [];

    /// <summary>Lines of each voice, from 1, as read.</summary>
    internal ILookup<Voice, int> LinesOf { get; init; } = Array.Empty<int>().ToLookup(_ => Voice.Kick);

    internal Directives Said { get; init; } = new();

    /// <summary>Lines that are no count lines, and may say something all the same.</summary>
    internal ValueList<UnreadLine> Unread { get; init; } = [];

    /// <summary>Hands, feet or licks are written in lines of their own, so that a voice line alone does not say its strokes.</summary>
    internal bool HasShared { get; init; }

    /// <summary>The line of hands that is not a lick's.</summary>
    internal SourceLine? Hands { get; init; }

    internal bool HasLicks { get; init; }
}

/// <summary>The text language in which a passage is written down as it is counted aloud, one line a voice.</summary>
public static partial class CountLines
{
    public const int MostBars = 64;
    public const int MostStrokes = 4000;

    /// <summary>More than every voice could need; the rest is told and not read, so that no text takes long.</summary>
    private const int MostLines = 256;

    /// <summary>After so many strokes reading stops, whether they stand in each other's place or not, so that no text takes long.</summary>
    private const int MostPlaced = 3 * MostStrokes;

    /// <summary>Reads any text at all: every problem is told with its place and remedy, and the lines that are in order still
    /// count.</summary>
    public static CountText Parse(string text, Language language = Language.Second)
    {
        var problems = new Problems();
        if (text.Length > SourceText.Limit)
        {
            problems.Error(new(1, 1, 1), "The text is longer than 64 KiB; what comes after is not read. Split it into several passages.");
            text = text[..SourceText.Limit];
        }
        var looks = new Looks();
        var (said, rest) = Directives.Read(SourceText.Lines(text, looks: looks), language, problems);
        var written = rest.Where(line => !string.IsNullOrWhiteSpace(line.Text)).ToList();
        if (written.Count > MostLines)
            problems.Error(written[MostLines].Whole,
                $"A text has at most {MostLines} lines of voices; what comes from here on is not read. Put the bars of a voice into one "
                + $"line, divided by |.");
        var parts = Parts.Of(written.Take(MostLines), language, problems);
        var unread = new List<UnreadLine>();
        var lines = parts.Voices.Select(line => ReadLine(line, said, unread, problems)).OfType<VoiceLine>().ToList();
        var licks = parts.Licks.Select(lick => new LickReader(said, problems).Read(lick.Head, lick.Letters, lick.Drums)).OfType<LickBlock>()
            .ToList();
        var bars = CountBars(lines, licks, said.Meters, problems);
        foreach (var line in lines) line.WarnIfShorter(bars, problems);
        said.KeepTemposIn(said.Meters.StartOf(bars), problems);

        var merged = new Dictionary<(int At, Voice Voice), Stroke>();
        var places = new List<(Tick At, Voice Voice, TextSpan Words)>();
        var placed = 0;
        var end = said.Meters.StartOf(bars);
        foreach (var (stroke, at) in lines.SelectMany(line => line.Strokes(said, bars, problems))
            .Concat(licks.SelectMany(lick => lick.StrokesUpTo(end, lines.Count == 0 && licks.TrueForAll(other => other.UpToTheEnd)))
            .Where(s => s.Stroke.At < end)))
        {
            if (++placed > MostPlaced)
            {
                problems.Error(at, $"So many strokes are written here that most stand twice: a passage has at most {MostStrokes}. What "
                    + $"follows is not read.");
                break;
            }
            if (merged.TryAdd((stroke.At.Value, stroke.Voice), stroke)) places.Add((stroke.At, stroke.Voice, at));
            else
                problems.Error(at, $"Another line has the {stroke.Voice.Name} here already: take one of them out.");
        }
        var strokes = Passage.InOrder(merged.Values);
        if (strokes.Count > MostStrokes)
        {
            problems.Error(new(1, 1, 1), $"The passage has {strokes.Count} strokes; the first {MostStrokes} are shown. Split it into "
                + $"several passages.");
            strokes = strokes[..MostStrokes];
        }
        if (parts.Hands is { } hands) strokes = [.. new StickingLine(hands, false, language, problems)
            .On(strokes, said.Meters, bars, said.Hands)];
        if (parts.Feet is { } feet) strokes = [.. new StickingLine(feet, true, language, problems)
            .On(strokes, said.Meters, bars, said.Hands)];
        var passage = new Passage(said.Meters, bars, strokes)
        {
            Tempo = said.Tempo,
            TempoChanges = said.TempoChanges,
            Levels = LevelLine.ReadAll(parts.Levels, said, bars, problems),
            Feel = said.Feel,
            Hands = said.Hands,
            Pickup = said.Pickup,
            Unheard = [.. Unheard(lines, said.Meters, bars, strokes, problems).Distinct()],
        };
        return new(said.Title, passage, problems.InOrder)
        {
            Places = places,
            Looks = [.. looks.InOrder()],
            Voices = [.. lines.Select(line => line.Voice).Concat(passage.Voices).Distinct().Order()],
            LinesOf = lines.ToLookup(line => line.Voice, line => line.At.Line),
            HasShared = parts.Hands is not null || parts.Feet is not null || licks.Count > 0,
            Hands = parts.Hands,
            HasLicks = parts.Licks.Count > 0,
            Said = said,
            Unread = unread,
        };
    }

    private static VoiceLine? ReadLine(SourceLine line, Directives said, List<UnreadLine> unread, Problems problems)
    {
        if (Head().Match(line.Text) is not { Success: true } head)
        {
            if (said.Language == Language.First || !NearLines.Tell(line, said, unread, problems))
                unread.Add(new(line, null, problems.Unread(line)));
            return null;
        }
        if (said.Language == Language.Second && said.FindVoice(head.Groups["voice"].Value) is { } called)
        {
            var rest = line.Text[head.Length..];
            if (InWords().IsMatch(rest))
            {
                unread.Add(new(line with { Text = line.Text.Replace(':', ' ') }, null, problems.Unread(line)));
                return null;
            }
            if (NearLines.IsGrid(rest))
            {
                unread.Add(new(line, called, problems.Unread(line)) { Start = head.Length });
                return null;
            }
        }
        var word = head.Groups["voice"];
        if (said.FindVoice(word.Value) is not { } voice)
        {
            if (OwnVoice().IsMatch(word.Value)) problems.Error(line.Span(word.Index, word.Length),
                $"{word.Value.ToUpperInvariant()} is not introduced: write voice {word.Value.ToUpperInvariant()} NAME, FAMILY in a "
                    + $"line of its own.");
            else problems.Error(line.Span(word.Index, word.Length),
                $"‘{word.Value}’ is no voice: write a code such as HH, SN, BD, T1, FT, CR, RD, or a word such as snare.",
                NearLines.Voices(word.Value, line.Span(word.Index, word.Length)));
            return null;
        }
        line.Is(Look.Voice, word.Index, word.Length);
        return new(line.Span(word.Index, word.Length), line.Span(line.Text.TrimEnd().Length, 0) with { Length = 0 }, voice,
            BarReader.Read(line, head.Length, voice, said, problems));
    }

    /// <summary>A bar in which another line has strokes of the voice was heard after all.</summary>
    private static IEnumerable<(int, Voice)> Unheard(List<VoiceLine> lines, MeterCycle meters, int bars, ValueList<Stroke> strokes,
        Problems problems)
    {
        var heard = strokes.Select(s => (meters.Locate(s.At).Bar, s.Voice)).ToHashSet();
        foreach (var line in lines)
        {
            foreach (var (bar, at) in line.UnheardBars(bars))
            {
                if (!heard.Contains((bar, line.Voice))) yield return (bar, line.Voice);
                else problems.Error(at, $"Another line has strokes of the {line.Voice.Name} in bar {bar + 1}: write - here, or take "
                    + $"those out.");
            }
        }
    }

    private static int CountBars(List<VoiceLine> lines, List<LickBlock> licks, MeterCycle meters, Problems problems)
    {
        var most = 0;
        foreach (var lick in licks.Where(lick => !lick.UpToTheEnd || lines.Count == 0 && licks.TrueForAll(other => other.UpToTheEnd)))
        {
            most = Math.Max(most, meters.Locate(lick.Last).Bar + 1);
            if (most > MostBars) problems.Error(lick.At,
                $"A passage has at most {MostBars} bars; the first {MostBars} are shown. Split it into several passages.");
        }
        foreach (var line in lines)
        {
            var bars = 0;
            foreach (var bar in line.Bars.Where(bar => bar.Kind != BarKind.RepeatToEnd))
            {
                if (bars <= MostBars && bars + bar.Times > MostBars)
                    problems.Error(bar.At, $"A passage has at most {MostBars} bars; the first {MostBars} are shown. Split it into "
                        + $"several passages.");
                bars += bar.Times;
            }
            most = Math.Max(most, bars);
        }
        return Math.Min(most, MostBars);
    }

    [GeneratedRegex(@"^\s*(?<voice>[^:|\s]+(?:\s+[^:|\s]+)*)\s*:")]
    private static partial Regex Head();

    /// <summary>Its counts are spelt out: snare: two and four.</summary>
    [GeneratedRegex(@"^(?=.*\b(?:one|two|three|four|five|six|seven|eight)\b)[a-z ,&.]*$", RegexOptions.IgnoreCase)]
    private static partial Regex InWords();

    [GeneratedRegex(@"^P[1-8]$", RegexOptions.IgnoreCase)]
    private static partial Regex OwnVoice();
}
