namespace InnerCadence.Core.Text;

/// <summary>One line of a text without its comment. Characters stand in the columns where they were typed.</summary>
internal readonly record struct SourceLine(int Number, string Text)
{
    /// <summary>Where the looks of its parts are gathered; nowhere if nobody looks.</summary>
    public Looks? Looks { get; init; }

    /// <summary>Says how a part of the line looks.</summary>
    public void Is(Look look, int start, int length) => Looks?.Add(look, new(Number, start + 1, length));

    public TextSpan Span(int start, int length) => new(Number, start + 1, Math.Max(1, length));

    public TextSpan Whole
    {
        get
        {
            var start = Text.Length - Text.TrimStart().Length;
            return Span(start, Text.Trim().Length);
        }
    }
}

internal static class SourceText
{
    /// <summary>Largest text read, in UTF-16 units.</summary>
    public const int Limit = 64 * 1024;

    /// <summary>Lines with comments taken off and typographic characters read as their plain ones, column for column.</summary>
    /// <param name="comments">Whether # starts one; in a tab it is a sign.</param>
    public static List<SourceLine> Lines(string text, bool comments = true, Looks? looks = null)
    {
        var lines = new List<SourceLine>();
        var number = 0;
        foreach (var raw in text.TrimStart('\uFEFF').Split('\n'))
        {
            var line = raw.TrimEnd('\r');
            var comment = comments ? line.IndexOf('#') : -1;
            number++;
            if (comment >= 0)
            {
                looks?.Add(Look.Comment, new(number, comment + 1, line.Length - comment));
                line = line[..comment];
            }
            lines.Add(new(number, string.Create(line.Length, line, (to, from) =>
            {
                for (var i = 0; i < from.Length; i++) to[i] = Plain(from[i]);
            }))
            { Looks = looks });
        }
        return lines;
    }

    private static char Plain(char c) => c switch
    {
        '\u2018' or '\u2019' or '\u201B' or '\u2032' => '\'',
        '\u2010' or '\u2011' or '\u2012' or '\u2013' or '\u2014' or '\u2212' => '-',
        '\t' or '\u00A0' => ' ',
        _ => c,
    };
}
