using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Discovery;

/// <summary>All moments of all sources in one row, as numbers: equal numbers, equal moments by the facets.</summary>
internal sealed class Moments
{
    private Moments(IReadOnlyList<Source> sources, int[] sourceOf, Tick[] at, bool[] canStart, int[] contents, int[] seconds,
        int[] tokens) =>
        (Sources, SourceOf, At, CanStart, Contents, Seconds, Tokens) = (sources, sourceOf, at, canStart, contents, seconds, tokens);

    /// <summary>Those of one recording together.</summary>
    public IReadOnlyList<Source> Sources { get; }
    public int[] SourceOf { get; }
    public Tick[] At { get; }
    /// <summary>False for the moments that a looped passage plays again after its end: cells run into them and do not start
    /// there.</summary>
    public bool[] CanStart { get; }
    /// <summary>What is struck, without the time before it.</summary>
    public int[] Contents { get; }
    /// <summary>The same with the gap before it, as the second moment of a cell: gaps as ratios have none yet.</summary>
    public int[] Seconds { get; }
    /// <summary>The same with the gap before it, or its ratio to the one before that.</summary>
    public int[] Tokens { get; }
    public int Count => At.Length;

    /// <summary>The moment before, in the same source; before the first of a loop comes its last.</summary>
    public int? Before(int i)
    {
        if (i > 0 && SourceOf[i - 1] == SourceOf[i]) return i - 1;
        if (!Sources[SourceOf[i]].Passage.Looped) return null;
        var last = i;
        while (last + 1 < Count && SourceOf[last + 1] == SourceOf[i] && CanStart[last + 1]) last++;
        return last;
    }

    /// <summary>Numbers that were given to contents and to tokens: the same ones again where two rows of moments are compared.</summary>
    public sealed class Names
    {
        internal Dictionary<string, int> Contents { get; } = [];
        internal Dictionary<(int, long), int> Tokens { get; } = [];
    }

    public static Moments Of(IReadOnlyList<Source> sources, CellFacets facets, Names? names = null)
    {
        IReadOnlyList<Source> sorted = [.. sources.OrderBy(s => s.Recording).ThenBy(s => s.Reading)];
        var (sourceOf, at, canStart, contents, seconds, tokens) = (new List<int>(), new List<Tick>(), new List<bool>(), new List<int>(),
            new List<int>(), new List<int>());
        names ??= new();
        var (contentNames, tokenNames) = (names.Contents, names.Tokens);
        int Token(int content, long gap) => tokenNames.TryGetValue((content, gap), out var name) ? name
            : tokenNames[(content, gap)] = tokenNames.Count;
        for (var s = 0; s < sorted.Count; s++)
        {
            var passage = sorted[s].Passage.Played();
            var moments = passage.Strokes.Where(x => facets.Families.Contains(x.Voice.Family)).GroupBy(x => x.At)
                .Select(g => (At: g.Key, Content: Content(g, facets))).ToList();
            var written = moments.Count;
            if (passage.Looped)
                for (var i = 0; i < written && i < Cells.Most; i++) moments.Add((moments[i].At + passage.Length, moments[i].Content));
            long before = 0;
            for (var i = 0; i < moments.Count; i++)
            {
                if (!contentNames.TryGetValue(moments[i].Content, out var content)) contentNames[moments[i].Content] = content =
                    contentNames.Count;
                var gap = i == 0 ? 0L : (moments[i].At - moments[i - 1].At).Value;
                sourceOf.Add(s);
                at.Add(moments[i].At);
                canStart.Add(i < written);
                contents.Add(content);
                seconds.Add(facets.Proportional ? Token(content, -1) : Token(content, gap));
                tokens.Add(facets.Proportional ? Token(content, before > 0 ? Ratio(gap, before) : -1) : Token(content, gap));
                before = gap;
            }
        }
        return new(sorted, [.. sourceOf], [.. at], [.. canStart], [.. contents], [.. seconds], [.. tokens]);
    }

    /// <summary>Two numbers in one, reduced; gaps are under 2 to the 31.</summary>
    private static long Ratio(long gap, long before)
    {
        var common = Common(gap, before);
        return (gap / common << 32) | (before / common);
    }

    private static long Common(long a, long b) => b == 0 ? a : Common(b, a % b);

    private static string Content(IEnumerable<Stroke> moment, CellFacets facets) => string.Join('+', moment.Select(s =>
        (facets.Voicing switch
        {
            VoicingRule.Drum => s.Voice.Code,
            VoicingRule.Family => s.Voice.Family.ToString(),
            VoicingRule.HandOrFoot => s.Voice.IsFoot ? "foot" : "hand",
            _ => "x",
        }) + (facets.Sticking ? s.Side?.ToString()[..1] : "")
            + (facets.Accents && s.Dynamic != Dynamic.Normal ? s.Dynamic.ToString()[..1] : "")).Order(StringComparer.Ordinal));
}
