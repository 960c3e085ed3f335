using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Writing;

/// <summary>Says the hands and feet of a passage in lines of their own.</summary>
internal sealed class StickingWriter
{
    private readonly Passage passage;
    private readonly Dictionary<Tick, char> letters;

    public StickingWriter(Passage passage)
    {
        this.passage = passage;
        passage = passage.Played();
        letters = Covered(passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand).GroupBy(s => s.At));
        CanStandForMarks = letters.Values.Any(l => l != '-');
        IsNeeded = letters.Values.Any(l => l is 'r' or 'l');
        if (CanStandForMarks) Hands = Line(passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand).Select(s => s.At).Distinct(),
            letters);
        var kicks = passage.Strokes.Where(s => s.Voice == Voice.Kick).ToList();
        if (kicks.Any(s => s.SideUnsure)) Feet = Line(kicks.Select(s => s.At), kicks.ToDictionary(s => s.At, LetterOf));
    }

    /// <summary>A line can say some of what marks say.</summary>
    public bool CanStandForMarks { get; }
    /// <summary>It says a probable hand, which marks cannot.</summary>
    public bool IsNeeded { get; }
    public string? Hands { get; }
    public string? Feet { get; }

    /// <summary>Its hand is probable, and no letter can say so there.</summary>
    public bool NeedsLick(Stroke stroke) => stroke.SideUnsure && stroke.Voice.Limbs == LimbClass.Hand
        && letters.GetValueOrDefault(stroke.At, '-') == '-';

    public Stroke WithoutWhatLinesSay(Stroke stroke, bool withHands) =>
        !stroke.Echo && ((withHands && stroke.Voice.Limbs == LimbClass.Hand && letters.GetValueOrDefault(stroke.At, '-') != '-')
            || (Feet is not null && stroke.Voice == Voice.Kick))
            ? stroke with { Side = null, SideUnsure = false } : stroke;

    /// <summary>A letter a moment, in each bar up to the first with more strokes than hands.</summary>
    private Dictionary<Tick, char> Covered(IEnumerable<IGrouping<Tick, Stroke>> moments)
    {
        var covered = new Dictionary<Tick, char>();
        foreach (var bar in moments.GroupBy(m => passage.Meters.Locate(m.Key).Bar))
            foreach (var moment in bar.OrderBy(m => m.Key).TakeWhile(m => m.Count() <= 2)) covered[moment.Key] = Letter([.. moment]);
        return covered;
    }

    private char Letter(IReadOnlyList<Stroke> struck)
    {
        if (struck is [var one]) return LetterOf(one);
        if (struck.Any(s => s.Side is null || s.SideUnsure)) return '-';
        var (upper, lower) = HandOrder.Hands(passage.Hands);
        var sorted = HandOrder.Sorted(struck.Select(s => s.Voice));
        return struck.Single(s => s.Voice == sorted[0]).Side == upper && struck.Single(s => s.Voice == sorted[1]).Side == lower ? 'B' : '-';
    }

    private static char LetterOf(Stroke stroke) => (stroke.Side, stroke.SideUnsure) switch
    {
        (null, _) => '-',
        (Side.Right, false) => 'R',
        (Side.Left, false) => 'L',
        (Side.Right, _) => 'r',
        _ => 'l'
    };

    /// <summary>Bars of letters, those of a beat together; ... for what no letter says up to the end of a bar.</summary>
    private string Line(IEnumerable<Tick> moments, Dictionary<Tick, char> said)
    {
        var byBar = moments.ToLookup(m => passage.Meters.Locate(m).Bar);
        return string.Join(" | ", Enumerable.Range(0, passage.Bars).Select(bar =>
        {
            var all = byBar[bar].OrderBy(m => m).ToList();
            var last = all.FindLastIndex(m => said.GetValueOrDefault(m, '-') != '-');
            var words = all.Take(last + 1).GroupBy(m => CountNames.Split(m - passage.Meters.StartOf(bar),
                passage.Meters.MeterOf(bar)).Item1)
                .Select(beat => string.Concat(beat.Select(m => said.GetValueOrDefault(m, '-'))));
            return string.Join(' ', last + 1 == all.Count && all.Count > 0 ? words : words.Append("..."));
        }));
    }
}
