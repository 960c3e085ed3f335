using System.Text.RegularExpressions;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>Lines that are nearly voice lines: the colon forgotten, the voice misspelt, a grid pasted (count-lines.md, "What people type
/// all the same").</summary>
internal static partial class NearLines
{
    private const int MostOff = 2;

    /// <summary>Tells of a line without a colon that is a voice with its counts or its grid.</summary>
    /// <returns>False where it is something else.</returns>
    public static bool Tell(SourceLine line, Directives said, List<UnreadLine> unread, Problems problems)
    {
        if (BareGrid().Match(line.Text) is { Success: true } grid)
        {
            if (said.FindVoice(grid.Groups["voice"].Value) is { } own)
                unread.Add(new(line, own, problems.Unread(line)) { Start = grid.Groups["grid"].Index });
            else problems.Error(line.Whole, "Which drum is this grid of? Write its voice before it, as in HH|x-x-x-x-|.");
            return true;
        }
        if (Counts().Match(line.Text) is not { Success: true } near) return false;
        var (word, start) = (near.Groups["voice"].Value, near.Groups["voice"].Index);
        // tom 1 2 4 is tom 1 with its counts, snare 2 4 is not snare 2.
        foreach (var name in (string[])[$"{word}{near.Groups["more"].Value}", word])
        {
            if (name.Length == line.Text.TrimEnd().Length - start || said.FindVoice(name) is null) continue;
            problems.Error(line.Span(start, name.Length), $"A colon parts the voice from its counts: write {name}: and then them.",
                new Fix($"Write {name}:", new TextEdit(new(line.Number, start + name.Length + 1, 0), ":")));
            return true;
        }
        var nearest = Nearest(word);
        if (nearest.Count == 0) return false;
        problems.Error(line.Span(start, word.Length),
            $"‘{word}’ is no voice, and a colon parts a voice from its counts: write {nearest[0]}: and then them.",
            [.. nearest.Select(other => new Fix($"Write {other}:", new TextEdit(line.Span(start, word.Length), other + ":")))]);
        return true;
    }

    /// <summary>Signs of a drum tab, with a stroke among them.</summary>
    public static bool IsGrid(string text) => Grid().IsMatch(text.Trim());

    /// <summary>The voices that a word is at most two letters off from, nearest first; each with what to write.</summary>
    public static ValueList<Fix> Voices(string word, TextSpan at) =>
        [.. Nearest(word).Select(name => new Fix($"Write {name}", new TextEdit(at, name)))];

    private static List<string> Nearest(string word)
    {
        var plain = word.ToLowerInvariant();
        if (plain.Length < 4) return [];
        var near = Voice.All.SelectMany(v => v.Words.Append(v.Name).Where(w => w.Length > 3)
            .Select(w => (Voice: v, Word: w, Off: Distance(plain, w))))
            .Where(n => n.Off <= MostOff).GroupBy(n => n.Voice).Select(g => g.MinBy(n => n.Off)).ToList();
        return near.Count == 0 ? [] : [.. near.Where(n => n.Off == near.Min(o => o.Off)).Select(n => n.Word)];
    }

    /// <summary>Letters put in, left out, exchanged or swapped with their neighbour.</summary>
    private static int Distance(string a, string b)
    {
        var cost = new int[a.Length + 1, b.Length + 1];
        for (var i = 0; i <= a.Length; i++) cost[i, 0] = i;
        for (var j = 0; j <= b.Length; j++) cost[0, j] = j;
        for (var i = 1; i <= a.Length; i++)
            for (var j = 1; j <= b.Length; j++)
            {
                cost[i, j] = Math.Min(Math.Min(cost[i - 1, j], cost[i, j - 1]) + 1, cost[i - 1, j - 1] + (a[i - 1] == b[j - 1] ? 0 : 1));
                if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1]) cost[i, j] =
                    Math.Min(cost[i, j], cost[i - 2, j - 2] + 1);
            }
        return cost[a.Length, b.Length];
    }

    /// <summary>A voice and what looks like counts, runs or repeats; with a word in it, it is said in words.</summary>
    [GeneratedRegex(@"^\s*(?<voice>[A-Za-z][A-Za-z0-9-]*)(?<more> (?:[1-4]|drum|tom|cymbal|foot|stick|click|bell))?\s+(?=[(\d%|-])"
        + @"(?:[\s(\d%|&+*?>~=_'\[\]:){}-]|[eatloxfdzrcRL,]|ti|ta|trip|let|ths|nds|th|nd)*$")]
    private static partial Regex Counts();

    [GeneratedRegex(@"^\s*(?<voice>[A-Za-z][\w -]*?)?\s*\|(?<grid>[xXoOgfdb#\-|.]{4,})\s*$")]
    private static partial Regex BareGrid();

    [GeneratedRegex(@"^\|?(?=[^|]*[xXoO])[xXoOgfdb#\-|]{4,}\|?$")]
    private static partial Regex Grid();
}
