using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>One part of a split: so many in so much searched.</summary>
/// <param name="Keys">What of the division it holds: several where small parts are folded into one row.</param>
/// <param name="Titles">Events and searched bars of each title in this part.</param>
/// <param name="HasRate">Its bars are those searched, not only those written down, and they are enough for a rate.</param>
public sealed record SplitPart(string Name, ValueList<string> Keys, ValueList<TitleAmount> Titles, bool HasRate)
{
    public int Events => (int)Titles.Sum(t => t.Events);
    public int Bars => (int)Titles.Sum(t => t.Amount);
    public Estimate? Rate => HasRate ? Estimate.Rate(Titles) : null;
}

/// <summary>A way of dividing what was found, each part with its own searched amount, so that an uneven search does not look like a habit
/// (evidence.md, "Where").</summary>
/// <remarks>The parts together hold every counted place: what has no known place in the division is a part too.</remarks>
public sealed record Division
{
    /// <summary>Rows with fewer bars are folded into one.</summary>
    public const int LeastBars = 10;

    /// <summary>The key of what has no known place in this division.</summary>
    public const string Unknown = "not-known";

    private readonly Func<Performance, Appearance, string?> partOf;
    private readonly Func<Performance, int, IEnumerable<string?>>? partsOfBar;

    private Division(string word, string name, string unknown, Func<Performance, Appearance, string?> partOf, Func<Performance, int,
        IEnumerable<string?>>? partsOfBar = null) =>
        (Word, Name, UnknownName, this.partOf, this.partsOfBar) = (word, name, unknown, partOf, partsOfBar);

    /// <summary>In an address.</summary>
    public string Word { get; }
    /// <summary>After “by”.</summary>
    public string Name { get; }
    public string UnknownName { get; }

    public static Division Beat { get; } = new("beat", "beat of the bar", "beat not known",
        (_, a) => a.Beat?.ToString(CultureInfo.InvariantCulture),
        (p, bar) => Enumerable.Range(1, p.Recording.Grid.MeterOf(bar).Counts).Select(n => n.ToString(CultureInfo.InvariantCulture)));

    public static Division Phrase { get; } = PhraseOf(4);

    public static Division PhraseOf(int bars) => new("phrase", $"bar of the phrase of {CountNames.Number(bars)}", "bar not known",
        (_, a) => a.BarOfPhrase(bars) is { } n ? PhraseKey(n, bars) : null, (_, bar) => [PhraseKey(Sections.BarOfPhrase(bar, bars), bars)]);

    public static string PhraseKey(int bar, int of) => $"{bar} of {of}";

    public static Division Section { get; } = new("section", "section", "section not named",
        (_, a) => a.SectionKind, (p, bar) => [Sections.KindOf(p.Recording.SectionOf(bar))]);

    public static Division Kind { get; } = ByRecording("kind", "kind", "kind not said", p => p.Kind.Word);
    public static Division Year { get; } = ByRecording("year", "year", "no date", p =>
        p.Recorded?.Earliest.Year.ToString(CultureInfo.InvariantCulture));
    public static Division Tempo { get; } = ByRecording("tempo", "tempo", "no tempo", p => BandOf(p.Tempo));
    public static Division Ensemble { get; } = ByRecording("ensemble", "ensemble", "ensemble not said", p => p.Ensemble);

    public static IReadOnlyList<Division> All { get; } = [Beat, Phrase, Section, Kind, Year, Tempo, Ensemble];

    public static Division? Find(string? word) => All.FirstOrDefault(d => d.Word == word);

    /// <summary>Every twenty beats a minute: 100 to 119.</summary>
    public static string? BandOf(double? tempo) => tempo is { } t ? $"{(int)(t / 20) * 20} to {(int)(t / 20) * 20 + 19}" : null;

    /// <summary>In which part a place lies; <see cref="Unknown"/> where that is not known.</summary>
    public string PartOf(Performance performance, Appearance appearance) => partOf(performance, appearance) is { Length: > 0 } key ? key
        : Unknown;

    /// <summary>Every part with anything in it, by name; small ones as one row, what has no known place last.</summary>
    public IReadOnlyList<SplitPart> Parts(IEnumerable<Performance> performances)
    {
        var parts = new Dictionary<string, Dictionary<(long, string), TitleAmount>>();
        var onlyWritten = new HashSet<string>();
        void Add(string key, Performance of, double events, double bars)
        {
            if (!parts.TryGetValue(key, out var titles)) parts[key] = titles = [];
            var so = titles.GetValueOrDefault((of.Player, of.Title));
            titles[(of.Player, of.Title)] = new(so.Events + events, so.Amount + bars);
        }
        foreach (var performance in performances)
        {
            foreach (var place in performance.Counted) Add(PartOf(performance, place), performance, 1, 0);
            if (partsOfBar is null)
            {
                if (performance.Bars > 0) Add(partOf(performance, Nowhere) is { Length: > 0 } key ? key : Unknown, performance, 0,
                    performance.Bars);
                continue;
            }
            foreach (var bar in performance.Exposure.Bars.Bars)
                foreach (var key in partsOfBar(performance, bar))
                {
                    Add(key is { Length: > 0 } ? key : Unknown, performance, 0, 1);
                    if (Word == Section.Word && key is { Length: > 0 } && !performance.Recording.HasForm(bar)) onlyWritten.Add(key);
                }
        }
        SplitPart Row(string name, IEnumerable<string> keys, bool hasRate) =>
            new(name, [.. keys], [.. keys.SelectMany(k => parts[k]).GroupBy(t => t.Key)
            .Select(g => new TitleAmount(g.Sum(t => t.Value.Events), g.Sum(t => t.Value.Amount)))], hasRate);
        var (known, small) = (new List<SplitPart>(), new List<string>());
        foreach (var key in parts.Keys.Where(k => k != Unknown).OrderBy(Order).ThenBy(k => k, StringComparer.Ordinal))
        {
            if (parts[key].Values.Sum(t => t.Amount) < LeastBars) small.Add(key);
            else known.Add(Row(key, [key], !onlyWritten.Contains(key)));
        }
        if (small.Count > 0) known.Add(Row($"{string.Join(", ", small)} (under {LeastBars} bars{(small.Count > 1 ? " each" : "")})", small,
            false));
        if (parts.ContainsKey(Unknown)) known.Add(Row(UnknownName, [Unknown], partsOfBar is null));
        return known;
    }

    /// <summary>Events and searched bars of each title on the one side and on the other; what is on neither is left out.</summary>
    public (IReadOnlyList<TitleAmount> Inside, IReadOnlyList<TitleAmount> Outside) Divided(IEnumerable<Performance> performances,
        Func<string, bool?> inside)
    {
        List<TitleAmount> Side(IEnumerable<Performance> title, bool which) =>
        [
            .. title.Select(p => new TitleAmount(
                p.Counted.Count(a => inside(PartOf(p, a)) == which),
                partsOfBar is null ? inside(PartOf(p, Nowhere)) == which ? p.Bars : 0
                    : p.Exposure.Bars.Bars.Count(bar => partsOfBar(p, bar)
                    .Any(key => inside(key is { Length: > 0 } ? key : Unknown) == which)))),
        ];
        TitleAmount Sum(List<TitleAmount> parts) => new(parts.Sum(t => t.Events), parts.Sum(t => t.Amount));
        var titles = performances.GroupBy(p => (p.Player, p.Title)).ToList();
        return ([.. titles.Select(t => Sum(Side(t, true)))], [.. titles.Select(t => Sum(Side(t, false)))]);
    }

    /// <summary>Numbers by size, not by their first figure.</summary>
    private static int Order(string key) => int.TryParse(key.Split(' ')[0], NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n
        : int.MaxValue;

    /// <summary>By something that a whole recording has.</summary>
    private static Division ByRecording(string word, string name, string unknown, Func<Performance, string?> key) =>
        new(word, name, unknown, (p, _) => key(p));

    private static readonly Appearance Nowhere = new(null, null, "", null, "", null, null, false, true);
}
