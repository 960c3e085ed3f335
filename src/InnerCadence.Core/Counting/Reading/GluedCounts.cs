using System.Globalization;
using System.Text.RegularExpressions;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>Counts that are glued together by &amp;, commas or dashes: what they may be, with blanks (count-lines.md, "What people type all
/// the same").</summary>
internal static partial class GluedCounts
{
    private enum Kind { Number, And, Syllable, Gap }

    /// <summary>One way where it can mean one thing only, two where a sign may be a word or a count; none where it is no row of
    /// counts.</summary>
    /// <param name="before">What stands before the word in its bar.</param>
    public static IReadOnlyList<string> Ways(string word, string before)
    {
        var pieces = new List<(string Text, Kind Kind)>();
        for (var at = 0; at < word.Length;)
        {
            if (Piece().Match(word, at) is not { Success: true } piece) return [];
            pieces.Add((piece.Value, piece.Groups["number"].Success ? Kind.Number : piece.Groups["and"].Success ? Kind.And
                : piece.Groups["gap"].Success ? Kind.Gap : Kind.Syllable));
            at += piece.Length;
        }
        var trailing = pieces.Count(p => p.Kind == Kind.Gap) > 0 && pieces[^1].Kind == Kind.Gap;
        while (pieces.Count > 0 && pieces[^1].Kind == Kind.Gap) pieces.RemoveAt(pieces.Count - 1);
        if (trailing && pieces is [(var only, Kind.Number)]) return [only];
        if (pieces.Count(p => p.Kind != Kind.Gap) < 2 || pieces[0].Kind == Kind.Gap) return [];
        var all = string.Join(' ', pieces.Where(p => p.Kind != Kind.Gap).Select(p => p.Text));
        if (pieces is [(var first, Kind.Number), ("-", _), (var last, Kind.Number)]) return Span(first, last);
        if (pieces.Exists(p => p.Kind == Kind.Gap)) return [all];

        // Between two numbers a sign may be the word and; anywhere else it is the count.
        var ands = Enumerable.Range(0, pieces.Count).Where(i => pieces[i].Kind == Kind.And).ToList();
        var between = ands.Count > 0 && ands.TrueForAll(i => pieces[i].Text is "&" or "+" or "and" && i + 1 < pieces.Count
            && pieces[i + 1].Kind == Kind.Number
            && (i > 0 ? pieces[i - 1].Kind == Kind.Number : NumberLast().IsMatch(before)));
        return between ? [string.Join(' ', pieces.Where(p => p.Kind != Kind.And).Select(p => p.Text)), all] : [all];
    }

    /// <summary>1-4 may be its two ends or all that lies between them.</summary>
    private static IReadOnlyList<string> Span(string first, string last)
    {
        int Beat(string piece) => int.Parse(string.Concat(piece.TakeWhile(char.IsAsciiDigit)), CultureInfo.InvariantCulture);
        var (from, to) = (Beat(first), Beat(last));
        return to <= from + 1 || to > from + 31 ? [$"{first} {last}"]
            : [$"{first} {last}", $"{first} {string.Join(' ', Enumerable.Range(from + 1, to - from - 1))} {last}"];
    }

    [GeneratedRegex(@"\G(?:(?:(?<number>\d{1,2})|(?<and>and|&|\+)|(?<syllable>trip|let|ti|ta|ah|uh|[eatl]))[>~ofdzrc?*=RL]*|(?<gap>[,\-]))")]
    private static partial Regex Piece();

    [GeneratedRegex(@"\d[>~ofdzrc?*=RL]*\s*$")]
    private static partial Regex NumberLast();
}
