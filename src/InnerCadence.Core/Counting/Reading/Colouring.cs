using System.Text.RegularExpressions;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>What a piece of a text is, by its look alone.</summary>
public enum Look { Comment, Directive, Voice, Bar, Ghost, Mark, Run, Faulty }

/// <summary>Tells the parts of a text apart for the eye, whether the text is in order or not.</summary>
public static partial class Colouring
{
    /// <summary>Spans in the order of the text; they do not overlap. What is plain count is in none.</summary>
    public static IReadOnlyList<(TextSpan At, Look Look)> Of(string text)
    {
        var spans = new List<(TextSpan, Look)>();
        // What lies beyond is not read either.
        if (text.Length > SourceText.Limit) text = text[..SourceText.Limit];
        var number = 0;
        foreach (var raw in text.Split('\n'))
        {
            number++;
            var line = raw.TrimEnd('\r');
            var comment = line.IndexOf('#');
            var written = comment >= 0 ? line[..comment] : line;
            var from = 0;
            if (Head().Match(written) is { Success: true } head)
            {
                var group = head.Groups["voice"].Success ? head.Groups["voice"] : head.Groups["word"];
                spans.Add((new(number, group.Index + 1, group.Length), head.Groups["voice"].Success ? Look.Voice : Look.Directive));
                // What a directive says is plain.
                from = head.Groups["voice"].Success ? head.Length : written.Length;
            }
            foreach (Match word in Word().Matches(written, from))
                spans.AddRange(LooksOf(number, word));
            if (comment >= 0) spans.Add((new(number, comment + 1, line.Length - comment), Look.Comment));
        }
        return spans;
    }

    private static IEnumerable<(TextSpan, Look)> LooksOf(int line, Match word)
    {
        foreach (var (name, look) in ((string, Look)[])[("bar", Look.Bar), ("ghost", Look.Ghost), ("run", Look.Run), ("marks", Look.Mark)])
            if (word.Groups[name] is { Success: true, Length: > 0 } group) yield return (new(line, group.Index + 1, group.Length), look);
    }

    [GeneratedRegex(@"^\s*(?:(?<voice>[A-Za-z][\w-]*)\s*(?=:)(?<!\b(?:title|meter|tempo|feel|count|pickup|hands|voice|lick)\s*):|(?<word>title|meter|tempo|feel|count|pickup|hands|voice|lick)\b)", RegexOptions.IgnoreCase)]
    private static partial Regex Head();

    [GeneratedRegex(@"(?<bar>[|%](?:x\d+|\*)?)|(?<ghost>\([^()|]*\)?)|(?:(?<run>(?:\d+x)?(?:4ths|8ths|16ths|32nds|8t|16t)(?:@[^\s>o~fdzrcRL?*{_(|]+)?)|\d*(?:trip|let|and|ti|ta|[e&+atl])*'?:?)(?<marks>[>o~fdzrcRL?*_{][^\s|()]*)?")]
    private static partial Regex Word();
}
