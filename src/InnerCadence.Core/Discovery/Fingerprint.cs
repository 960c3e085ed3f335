using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Discovery;

/// <summary>One bar of a reading.</summary>
/// <param name="Strokes">From the bar's start.</param>
/// <param name="Unheard">Voices of which nothing may be concluded here.</param>
/// <param name="Reading">Where it is from, as numbered by the caller.</param>
/// <param name="Index">Which bar of the reading, from 0.</param>
public sealed record Bar(Meter Meter, ValueList<Stroke> Strokes, IReadOnlySet<Voice> Unheard, long Reading, int Index)
{
    public static IEnumerable<Bar> Of(Passage passage, long reading)
    {
        passage = passage.Played();
        var byBar = passage.Strokes.ToLookup(s => passage.Meters.Locate(s.At).Bar);
        for (var i = 0; i < passage.Bars; i++)
        {
            var start = passage.Meters.StartOf(i);
            yield return new(passage.Meters.MeterOf(i), [.. byBar[i].Select(s => s with { At = s.At - start })],
                passage.Unheard.Where(u => u.Bar == i).Select(u => u.Voice).ToHashSet(), reading, i);
        }
    }
}

/// <summary>Which strokes of a voice are counted.</summary>
public enum StrokeAspect { Any, Ghost, Accent, Open, LeftHand }

/// <summary>A bar of one player's title: a groove kept up for sixteen bars is one decision, so bars of a title hang together.</summary>
public sealed record TitledBar(Bar Bar, string Title);

/// <summary>How often a voice sounds at a place, on one side and on the other.</summary>
/// <param name="With">Bars of the one side with a stroke there, of <paramref name="Of"/> in which the voice could be heard.</param>
/// <param name="Share">The mean of the titles' shares; nothing where the voice could be heard in none.</param>
/// <param name="Corrected">How often chance alone differs by as much anywhere; nothing where too few titles are written down.</param>
public sealed record FingerprintCell(Voice Voice, Tick At, string Count, int With, int Of, int OthersWith, int OthersOf, Estimate? Share,
    Estimate? OthersShare, double? Corrected)
{
    public bool StandsOut => Corrected < 0.05;
    public bool IsMore => (Share?.Value ?? 0) > (OthersShare?.Value ?? 0);

    /// <summary>Splash on the a of 1: in 38 of 96 bars; others 3 of 210. Where the one side leaves out what the others mostly play, that is
    /// said: no kick on 1.</summary>
    public string Words
    {
        get
        {
            var leaves = !IsMore && OthersWith * 2 > OthersOf;
            return leaves ? $"no {Voice.Name} on {Count}: in {Of - With} of {Of} bars; others {OthersOf - OthersWith} of {OthersOf}"
                : $"{Voice.Name} on {Count}: in {With} of {Of} bars; others {OthersWith} of {OthersOf}";
        }
    }
}

/// <summary>How likely each voice is at each place of a bar, one side beside another (ideas.md, "Fingerprint").</summary>
/// <param name="Bars">Of the meter, on the one side.</param>
/// <param name="Titles">From which they are.</param>
/// <param name="Cells">Voices in canonical order, each over all places.</param>
public sealed record Fingerprint(Meter Meter, int Bars, int OtherBars, int Titles, int OtherTitles, ValueList<Tick> Places,
    ValueList<FingerprintCell> Cells)
{
    /// <summary>On one side too few titles are written down for anything to stand out.</summary>
    public bool FewTitles => Math.Min(Titles, OtherTitles) < Permutation.LeastTitles;

    /// <summary>What stands out in either direction after correction for all cells, the surest first.</summary>
    public IReadOnlyList<FingerprintCell> Outstanding => [.. Cells.Where(c => c.StandsOut)
        .OrderBy(c => c.Corrected).ThenByDescending(c => Math.Abs(c.Share!.Value - (c.OthersShare?.Value ?? 0))).ThenBy(c => c.Voice)
            .ThenBy(c => c.At)];

    /// <summary>What the others mostly play and this side hardly: what is not played is a habit too. The widest gap first.</summary>
    public IReadOnlyList<FingerprintCell> LeftOut => [.. Cells
        .Where(c => c.OthersShare is { Value: >= Mostly } && c.Share is { Value: <= Hardly })
        .OrderByDescending(c => c.OthersShare!.Value - c.Share!.Value).ThenBy(c => c.Voice).ThenBy(c => c.At)];

    private const double Mostly = 0.5, Hardly = 0.2;

    /// <param name="parts">Places in each count: 4 for sixteenths in x/4, 3 for triplets.</param>
    public static Fingerprint Of(IEnumerable<TitledBar> side, IEnumerable<TitledBar> others, Meter meter, int parts,
        StrokeAspect aspect = StrokeAspect.Any)
    {
        ArgumentOutOfRangeException.ThrowIfNotEqual(meter.Beat.Value % parts, 0);
        var step = meter.Beat.Value / parts;
        var places = Enumerable.Range(0, meter.Length.Value / step).Select(i => new Tick(i * step)).ToList();
        var (one, two) = (Counted(side, meter, step, aspect), Counted(others, meter, step, aspect));
        var voices = one.Concat(two).SelectMany(t => t.Voices).Distinct().Order().ToList();
        var cells = voices.SelectMany(voice => places.Select(at => (Voice: voice, At: at))).ToList();
        // A place where nobody plays is no comparison: it would only dilute the correction.
        var compared = cells.Select((c, i) => (c, i)).Where(x => one.Concat(two).Any(t => t.With(x.c.Voice, x.c.At) > 0)).ToList();
        double[] Shares(TitleOfBars title) => [.. compared.Select(x => title.Heard(x.c.Voice) is > 0 and var of
            ? title.With(x.c.Voice, x.c.At) / (double)of : double.NaN)];
        var corrected = compared.Count == 0 ? null : Permutation.Corrected([.. one.Select(Shares)], [.. two.Select(Shares)]);
        var byCell = compared.Select((x, k) => (x.i, P: corrected?[k])).ToDictionary(x => x.i, x => x.P);
        (int With, int Of, Estimate? Share) Sum(List<TitleOfBars> titles, Voice voice, Tick at)
        {
            var amounts = titles.Select(t => new TitleAmount(t.With(voice, at), t.Heard(voice))).ToList();
            return ((int)amounts.Sum(a => a.Events), (int)amounts.Sum(a => a.Amount), Estimate.MeanShare(amounts));
        }
        return new(meter, one.Sum(t => t.Bars), two.Sum(t => t.Bars), one.Count, two.Count, places, [.. cells.Select((c, i) =>
        {
            var (own, theirs) = (Sum(one, c.Voice, c.At), Sum(two, c.Voice, c.At));
            return new FingerprintCell(c.Voice, c.At, CountNames.Spoken(c.At, meter), own.With, own.Of, theirs.With, theirs.Of, own.Share,
                theirs.Share, byCell.GetValueOrDefault(i));
        })]);
    }

    public static bool Has(Stroke stroke, StrokeAspect aspect) => aspect switch
    {
        StrokeAspect.Ghost => stroke.Dynamic == Dynamic.Ghost,
        StrokeAspect.Accent => stroke.Dynamic == Dynamic.Accent,
        StrokeAspect.Open => stroke.Openness is Openness.Open or Openness.Loose,
        StrokeAspect.LeftHand => stroke is { Side: Side.Left, Voice.Limbs: LimbClass.Hand },
        _ => true,
    };

    private static List<TitleOfBars> Counted(IEnumerable<TitledBar> bars, Meter meter, int step, StrokeAspect aspect) =>
        [.. bars.Where(b => b.Bar.Meter.Equals(meter)).GroupBy(b => b.Title).OrderBy(g => g.Key, StringComparer.Ordinal)
            .Select(g => TitleOfBars.Of(g.Select(b => b.Bar), step, aspect))];

    /// <summary>How often each voice sounds at each place in the bars of one title.</summary>
    private sealed class TitleOfBars
    {
        private readonly Dictionary<(int Voice, int At), int> with = [];
        private readonly Dictionary<int, int> unheard = [];
        private readonly HashSet<Voice> voices = [];

        public int Bars { get; private set; }
        public IReadOnlyCollection<Voice> Voices => voices;
        public int With(Voice voice, Tick at) => with.GetValueOrDefault((voice.Order, at.Value));
        public int Heard(Voice voice) => Bars - unheard.GetValueOrDefault(voice.Order);

        public static TitleOfBars Of(IEnumerable<Bar> bars, int step, StrokeAspect aspect)
        {
            var title = new TitleOfBars();
            foreach (var bar in bars)
            {
                title.Bars++;
                foreach (var voice in bar.Unheard) title.unheard[voice.Order] = title.unheard.GetValueOrDefault(voice.Order) + 1;
                title.voices.UnionWith(bar.Strokes.Select(s => s.Voice));
                foreach (var stroke in bar.Strokes.Where(s => s.At.Value % step == 0 && Has(s, aspect)))
                    title.with[(stroke.Voice.Order, stroke.At.Value)] = title.with.GetValueOrDefault((stroke.Voice.Order, stroke.At.Value))
                        + 1;
            }
            return title;
        }
    }
}
