using InnerCadence.Core.Counting;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Discovery;

/// <summary>One bar of a reading.</summary>
/// <param name="Strokes">From the bar's start.</param>
/// <param name="Unheard">Voices of which nothing may be concluded here.</param>
/// <param name="Reading">Where it is from, as numbered by the caller.</param>
/// <param name="Index">Which bar of the reading, from 0.</param>
public sealed record Bar(Meter Meter, IReadOnlyList<Stroke> Strokes, IReadOnlySet<Voice> Unheard, long Reading, int Index)
{
    public static IEnumerable<Bar> Of(Passage passage, long reading)
    {
        var byBar = passage.Strokes.ToLookup(s => passage.Meters.Locate(s.At).Bar);
        for (var i = 0; i < passage.Bars; i++)
        {
            var start = passage.Meters.StartOf(i);
            yield return new(passage.Meters.MeterOf(i), [.. byBar[i].Select(s => s with { At = s.At - start })], passage.Unheard.Where(u => u.Bar == i).Select(u => u.Voice).ToHashSet(), reading, i);
        }
    }
}

/// <summary>Which strokes of a voice are counted.</summary>
public enum StrokeAspect { Any, Ghost, Accent, Open, LeftHand }

/// <summary>How often a voice sounds at a place, on one side and on the other.</summary>
/// <param name="With">Bars of the one side with a stroke there, of <paramref name="Of"/> in which the voice could be heard.</param>
public sealed record FingerprintCell(Voice Voice, Tick At, string Count, int With, int Of, int OthersWith, int OthersOf, Contrast? Contrast)
{
    /// <summary>Splash on the a of 1: in 38 of 96 bars; others 3 of 210. Where the one side leaves out what the others mostly play, that is said: no kick on 1.</summary>
    public string Words
    {
        get
        {
            var leaves = Contrast is { LogOdds: < 0 } && OthersWith * 2 > OthersOf;
            return leaves ? $"no {Voice.Name} on {Count}: in {Of - With} of {Of} bars; others {OthersOf - OthersWith} of {OthersOf}"
                : $"{Voice.Name} on {Count}: in {With} of {Of} bars; others {OthersWith} of {OthersOf}";
        }
    }
}

/// <summary>How likely each voice is at each place of a bar, one side beside another (ideas.md, "Fingerprint").</summary>
/// <param name="Bars">Of the meter, on the one side.</param>
/// <param name="Cells">Voices in canonical order, each over all places.</param>
public sealed record Fingerprint(Meter Meter, int Bars, int OtherBars, IReadOnlyList<Tick> Places, IReadOnlyList<FingerprintCell> Cells)
{
    private const double Certain = 0.05;

    /// <summary>What stands out in either direction after correction for all cells, the surest first.</summary>
    public IReadOnlyList<FingerprintCell> Outstanding => [.. Cells.Where(c => c.Contrast is { } x && x.Q < Certain)
        .OrderByDescending(c => c.Contrast!.LogOdds > 0 ? c.Contrast.Low : -c.Contrast.High).ThenBy(c => c.Voice).ThenBy(c => c.At)];

    /// <param name="parts">Places in each count: 4 for sixteenths in x/4, 3 for triplets.</param>
    public static Fingerprint Of(IEnumerable<Bar> side, IEnumerable<Bar> others, Meter meter, int parts, StrokeAspect aspect = StrokeAspect.Any)
    {
        ArgumentOutOfRangeException.ThrowIfNotEqual(meter.Beat.Value % parts, 0);
        var (one, two) = (side.Where(b => b.Meter.Equals(meter)).ToList(), others.Where(b => b.Meter.Equals(meter)).ToList());
        var step = meter.Beat.Value / parts;
        var places = Enumerable.Range(0, meter.Length.Value / step).Select(i => new Tick(i * step)).ToList();
        var voices = one.Concat(two).SelectMany(b => b.Strokes).Select(s => s.Voice).Distinct().Order().ToList();
        var (a, b) = (Count(one, step, aspect), Count(two, step, aspect));
        var rows = new List<(Voice Voice, Tick At, Table Table)>();
        foreach (var voice in voices)
        {
            var (of, othersOf) = (one.Count(x => !x.Unheard.Contains(voice)), two.Count(x => !x.Unheard.Contains(voice)));
            rows.AddRange(places.Select(at =>
            {
                var (with, othersWith) = (a.GetValueOrDefault((voice.Order, at.Value)), b.GetValueOrDefault((voice.Order, at.Value)));
                return (voice, at, new Table(with, of - with, othersWith, othersOf - othersWith));
            }));
        }
        // A place where nobody plays is no comparison: it would only dilute the correction.
        var compared = rows.Select((r, i) => (r, i)).Where(x => x.r.Table.A + x.r.Table.C > 0).ToList();
        var contrasts = Contrasts.Of([.. compared.Select(x => x.r.Table)]);
        var byRow = compared.Select((x, k) => (x.i, contrasts[k])).ToDictionary(x => x.i, x => x.Item2);
        return new(meter, one.Count, two.Count, places, [.. rows.Select((r, i) => new FingerprintCell(
            r.Voice, r.At, CountNames.Spoken(r.At, meter), r.Table.A, r.Table.A + r.Table.B, r.Table.C, r.Table.C + r.Table.D, byRow.GetValueOrDefault(i)))]);
    }

    public static bool Has(Stroke stroke, StrokeAspect aspect) => aspect switch
    {
        StrokeAspect.Ghost => stroke.Dynamic == Dynamic.Ghost,
        StrokeAspect.Accent => stroke.Dynamic == Dynamic.Accent,
        StrokeAspect.Open => stroke.Openness is Openness.Open or Openness.Loose,
        StrokeAspect.LeftHand => stroke is { Side: Side.Left, Voice.Limbs: LimbClass.Hand },
        _ => true,
    };

    private static Dictionary<(int, int), int> Count(List<Bar> bars, int step, StrokeAspect aspect)
    {
        var counts = new Dictionary<(int, int), int>();
        foreach (var bar in bars)
            foreach (var stroke in bar.Strokes)
                if (stroke.At.Value % step == 0 && Has(stroke, aspect)) counts[(stroke.Voice.Order, stroke.At.Value)] = counts.GetValueOrDefault((stroke.Voice.Order, stroke.At.Value)) + 1;
        return counts;
    }
}
