using System.Globalization;
using System.Text.RegularExpressions;

namespace InnerCadence.Core.Text;

/// <summary>Slips of paper as they are counted: a line each, the same words in any case are one wish; 3x or x3 stands for three of
/// them.</summary>
public static partial class Slips
{
    public const int MostVotes = 1000;

    /// <summary>Most wished first, then in the order in which they were read; as the first slip writes it.</summary>
    public static IReadOnlyList<(string Words, int Votes)> Count(string text) =>
    [
        .. text.Split('\n').Select(Read).Where(s => s.Words.Length > 0).GroupBy(s => s.Words, StringComparer.OrdinalIgnoreCase)
            .Select(g => (g.First().Words, Votes: Math.Min(g.Sum(s => s.Votes), MostVotes))).OrderByDescending(s => s.Votes),
    ];

    private static (string Words, int Votes) Read(string line)
    {
        var slip = Blanks().Replace(line, " ").Trim();
        return Times().Match(slip) is { Success: true } times
            ? (times.Groups["words"].Value, int.Parse(times.Groups["n"].ValueSpan, CultureInfo.InvariantCulture)) : (slip, 1);
    }

    [GeneratedRegex(@"\s+")]
    private static partial Regex Blanks();

    [GeneratedRegex(@"^(?:(?<n>[1-9]\d{0,2}) ?[x×] (?<words>.+)|(?<words>.+?) [x×] ?(?<n>[1-9]\d{0,2}))\z")]
    private static partial Regex Times();
}
