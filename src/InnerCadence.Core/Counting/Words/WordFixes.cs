using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Words;

/// <summary>What becomes of a line in words: it stays as a comment, with the count lines it comes to below it or in the lines it speaks
/// of.</summary>
/// <param name="lines">All that are in words: bars that one of them names are there for the others.</param>
internal sealed class WordFixes(string[] typed, CountText read, IReadOnlyCollection<SourceLine> lines)
{
    private readonly Directives said = read.Said;

    private readonly Passage passage = read.Passage with
    {
        Bars = Math.Max(read.Passage.Bars, lines.Select(l => new WordLine(l.Text, read.Passage, read.Said, []).Read() ?? [])
            .Where(parts => !parts.Any(p => p is SameAs)).SelectMany(parts => parts.SelectMany(p => p.Bars ?? [])).Append(-1).Max() + 1)
    };

    private const int MostMeanings = 16;

    /// <summary>So many are worked out over all lines, so that no text takes long.</summary>
    private int left = 64;

    /// <summary>A fix for each meaning, and why there is none.</summary>
    public (ValueList<Fix> Fixes, NotUnderstood? Why) Of(SourceLine line)
    {
        var (fixes, seen) = (new List<Fix>(), new HashSet<string>());
        NotUnderstood? why = null;
        // Its counts are other syllables than those that are written.
        if (said.School == CountSchool.Triplet) return ([], NotUnderstood.NoWords);
        if (LevelWords.Read(line.Text, passage, said) is { } marks)
        {
            var written = LevelWriter.Lines(passage with { Levels = new(marks) }).ToList();
            return ([Below(line, written)], null);
        }
        var waiting = new Queue<int[]>([[]]);
        for (var meanings = 0; waiting.Count > 0 && meanings < MostMeanings && left-- > 0; meanings++)
        {
            var takes = waiting.Dequeue();
            var words = new WordLine(line.Text, passage, said, takes);
            var parts = words.Read();
            // Every question that came up after the ones that were answered has another answer.
            for (var question = takes.Length; question < words.Asked; question++)
                waiting.Enqueue([.. takes, .. Enumerable.Repeat(0, question - takes.Length), 1]);
            why ??= words.Problem;
            if (parts is null || SpokenPassage.With(passage, parts) is not { } made || Fix(line, made) is not { } fix) continue;
            if (seen.Add(string.Join('\n', fix.Edits.Select(e => $"{e.At.Line}.{e.At.Column} {e.Text}")))) fixes.Add(fix);
        }
        return (fixes, fixes.Count > 0 ? null : why ?? NotUnderstood.NoWords);
    }

    private Fix Below(SourceLine line, IReadOnlyList<string> written) =>
        new($"Write {string.Join("; ", written)}", new TextEdit(new(line.Number, 1, 0), "# "), Under(line, written));

    private TextEdit Under(SourceLine line, IReadOnlyList<string> written) =>
        new(new(line.Number, typed[line.Number - 1].TrimEnd('\r').Length + 1, 0), "\n" + string.Join('\n', written));

    /// <summary>Nobody plays in the bar.</summary>
    private static bool IsEmpty(Passage passage, int bar) => passage.Unheard.All(u => u.Bar != bar)
        && passage.Strokes.All(s => passage.Meters.Locate(s.At).Bar != bar);

    private Fix? Fix(SourceLine line, Passage made)
    {
        var edits = new List<TextEdit> { new(new(line.Number, 1, 0), "# ") };
        var (below, told) = (new List<string>(), new List<string>());
        foreach (var voice in read.Passage.Voices.Concat(made.Voices).Concat(made.Unheard.Select(u => u.Voice)).Distinct().Order())
        {
            if (made.Strokes.Where(s => s.Voice == voice).SequenceEqual(read.Passage.Strokes.Where(s => s.Voice == voice))
                && made.Unheard.Where(u => u.Voice == voice).SequenceEqual(read.Passage.Unheard.Where(u => u.Voice == voice))) continue;
            if (CountWriter.LineOf(made, voice) is not { } bars)
            {
                // Places that no count names stand in licks.
                if (read.LinesOf[voice].Any()) return null;
                var licks = CountWriter.LinesOf(made, voice);
                below.AddRange(licks);
                told.AddRange(licks);
                continue;
            }
            while (bars.Length > 1 && bars[^1] == "-" && (made.Bars > bars.Length || !IsEmpty(made, bars.Length - 1))) bars = bars[..^1];
            var own = read.LinesOf[voice].ToList();
            var written = string.Join(" | ", bars);
            told.Add($"{voice.Code}: {written}");
            if (own.Count == 0) below.Add($"{voice.Code}: {written}");
            for (var i = 0; i < own.Count; i++)
            {
                var text = typed[own[i] - 1].TrimEnd('\r');
                var start = text.IndexOf(':') + 1;
                while (start < text.Length && text[start] == ' ') start++;
                var comment = text.IndexOf('#');
                var end = text[..(comment < 0 ? text.Length : comment)].TrimEnd().Length;
                // A second line of the same voice has gone into the first.
                edits.Add(i == 0 ? new(new(own[i], start + 1, Math.Max(0, end - start)), written)
                    : new(new(own[i], 1, Math.Max(0, end)), ""));
            }
        }
        if (below.Count > 0) edits.Add(Under(line, below));
        return told.Count == 0 ? null : new($"Write {string.Join("; ", told)}", [.. edits]);
    }
}
