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
        if (LevelWords.Read(line.Text, passage, said) is { } marks)
        {
            var written = LevelWriter.Lines(passage with { Levels = new(marks) }, said.School).ToList();
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
            if (parts is null || SpokenPassage.With(passage, parts) is not { } made) continue;
            var unsaid = read.Hands is null && new StickingWriter(made).IsNeeded && !read.HasLicks;
            if (((unsaid && words.Asked == 0 ? TakenTogether(line) : null) ?? Fix(line, made, [line], false)) is not { } fix) continue;
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

    /// <summary>Probable hands stand in one line for all drums, so every line in words is taken up with this one; nothing where one of
    /// them leaves a question open.</summary>
    private Fix? TakenTogether(SourceLine line)
    {
        var (made, taken) = (passage, new List<SourceLine>());
        foreach (var each in lines.Where(l => !LevelWords.Speaks(l.Text, said)))
        {
            var words = new WordLine(each.Text, passage, said, []);
            if (words.Read() is not { } parts || words.Asked > 0 || SpokenPassage.With(made, parts) is not { } next) return null;
            made = next;
            taken.Add(each);
        }
        return Fix(line, made, taken, true);
    }

    /// <summary>The line that says all hands; nothing where marks say them.</summary>
    private (string Letters, Passage Without)? Hands(Passage made, bool newly)
    {
        var sticking = new StickingWriter(made);
        var isSaid = read.Hands is { } own && read.Problems.All(p => p.At.Line != own.Number)
            && !made.Strokes.Where(IsHand).SequenceEqual(read.Passage.Strokes.Where(IsHand));
        // Where two hands meet and one is only probable, no letter says so: that stands in licks.
        return !isSaid && !(newly && sticking.IsNeeded) ? null : (sticking.Hands ?? "...",
            made with { Strokes = [.. made.Strokes.Select(s => IsHand(s) ? sticking.WithoutWhatLinesSay(s, true) : s)] });
    }

    private static bool IsHand(Stroke stroke) => stroke.Voice.Limbs == LimbClass.Hand;

    /// <param name="taken">The lines in words that become comments.</param>
    /// <param name="withHands">A line of hands is written, as there is none.</param>
    private Fix? Fix(SourceLine line, Passage made, IEnumerable<SourceLine> taken, bool withHands)
    {
        var edits = taken.Select(each => new TextEdit(new(each.Number, 1, 0), "# ")).ToList();
        var (below, told, licks) = (new List<string>(), new List<string>(), new List<string>());
        var marked = made;
        if (Hands(made, withHands) is { } hands)
        {
            marked = hands.Without;
            var letters = $"ST: {hands.Letters}";
            told.Add(letters);
            if (read.Hands is not { } own) below.Add(letters);
            else edits.Add(new(own.Whole, letters));
        }
        foreach (var voice in read.Passage.Voices.Concat(made.Voices).Concat(made.Unheard.Select(u => u.Voice)).Distinct().Order())
        {
            if (made.Strokes.Where(s => s.Voice == voice).SequenceEqual(read.Passage.Strokes.Where(s => s.Voice == voice))
                && made.Unheard.Where(u => u.Voice == voice).SequenceEqual(read.Passage.Unheard.Where(u => u.Voice == voice))) continue;
            if (CountWriter.LinesOf(marked, voice, said.School) is not var (bars, more)) return null;
            // What is in licks already, or whose feet are, cannot be told from what comes to it.
            if (more.Count > 0 && read.HasShared && read.LinesOf[voice].Any()) return null;
            licks.AddRange(more);
            if (bars is null) continue;
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
        // A line of hands stands above the licks, which have their own.
        below.AddRange(licks);
        told.AddRange(licks);
        if (below.Count > 0) edits.Add(Under(line, below));
        return told.Count == 0 ? null : new($"Write {string.Join("; ", told)}", [.. edits]);
    }
}
