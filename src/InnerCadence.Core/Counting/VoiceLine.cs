using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting;

/// <summary>One line of one voice: its bars as written.</summary>
internal sealed record VoiceLine(TextSpan At, Voice Voice, IReadOnlyList<BarText> Bars)
{
    public void WarnIfShorter(int bars, Problems problems)
    {
        var own = Bars.Sum(bar => bar.Kind == BarKind.RepeatToEnd ? bars : bar.Times);
        if (own < bars)
            problems.Warning(At, $"The {Voice.Name} has {own} of the passage’s {bars} bars and is silent in the rest: write | %* at the end of its line if it goes on.", "%*");
    }

    /// <summary>Bars, from 0, in which the voice could not be heard.</summary>
    public IEnumerable<(int Bar, TextSpan At)> UnheardBars(int bars)
    {
        var unheard = false;
        foreach (var (bar, index) in Expanded(bars))
        {
            unheard = bar.Kind is BarKind.Repeat or BarKind.RepeatToEnd ? unheard && bar.Tokens.Length == 0 : bar.Kind == BarKind.Unheard;
            if (unheard) yield return (index, bar.At);
        }
    }

    /// <summary>The line's strokes with the words they came from, bar by bar.</summary>
    public IEnumerable<(Stroke Stroke, TextSpan At)> Strokes(Directives said, int bars, Problems problems)
    {
        var before = new List<(BarText Bar, int Index)>();
        IReadOnlyCollection<Placed> last = [];
        Meter? lastMeter = null;
        foreach (var (bar, index) in Expanded(bars))
        {
            var meter = said.Meters.MeterOf(index);
            var pickup = index == 0 ? said.Pickup : Tick.Zero;
            var isRepeat = bar.Kind is BarKind.Repeat or BarKind.RepeatToEnd;
            var placer = new BarPlacer(meter, said.School, pickup, problems);
            if (isRepeat)
            {
                var sameBar = meter.Equals(lastMeter) && !(index == 1 && said.Pickup > Tick.Zero);
                placer.Give(sameBar ? last : ReadAgain(before, meter, said, bar.At, problems), bar.At);
            }
            else
                before.Clear();
            before.Add((bar, index));
            placer.Put(bar.Tokens);
            (last, lastMeter) = (placer.Strokes, meter);

            var start = said.Meters.StartOf(index);
            foreach (var placed in last)
            {
                var stroke = placed.Marks.On(Voice, start + placed.InBar);
                if (placed.Marks.Until is { } until)
                    stroke = stroke with { Length = LengthTo(until, placed, index, said, problems) };
                yield return (stroke, placed.At);
            }
        }
    }

    /// <summary>The text of the bar before, and of the bars it repeats, read in another meter; what does not fit is told at the repeat.</summary>
    private static IReadOnlyCollection<Placed> ReadAgain(List<(BarText Bar, int Index)> chain, Meter meter, Directives said, TextSpan at, Problems problems)
    {
        var (there, here) = (new Problems(), new Problems());
        IReadOnlyCollection<Placed> result = [], original = [];
        foreach (var (bar, index) in chain)
        {
            var placer = new BarPlacer(meter, said.School, Tick.Zero, here);
            placer.Give(result, bar.At);
            placer.Put(bar.Tokens);
            result = placer.Strokes;

            var first = new BarPlacer(said.Meters.MeterOf(index), said.School, Tick.Zero, there);
            first.Give(original, bar.At);
            first.Put(bar.Tokens);
            original = first.Strokes;
        }
        if (here.Count > there.Count)
            problems.Error(at, $"The bar before does not fit into a bar of {meter}: write this one out.");
        return result;
    }

    private IEnumerable<(BarText Bar, int Index)> Expanded(int bars)
    {
        var index = 0;
        foreach (var bar in Bars)
        {
            var times = bar.Kind == BarKind.RepeatToEnd ? bars - index : bar.Times;
            for (var i = 0; i < times && index < bars; i++) yield return (bar, index++);
        }
    }

    private static Tick? LengthTo(Place until, Placed placed, int bar, Directives said, Problems problems)
    {
        var meter = said.Meters.MeterOf(bar);
        if (until.In(meter, said.School) is { } here && here > placed.InBar) return here - placed.InBar;
        if (until.In(said.Meters.MeterOf(bar + 1), said.School) is { } next) return meter.Length - placed.InBar + next;
        problems.Error(placed.At, "The place to which this stroke lasts is not in its bar nor in the next: write a count that one of them has.");
        return null;
    }
}
