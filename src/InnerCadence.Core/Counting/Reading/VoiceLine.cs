using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>One line of one voice: its bars as written.</summary>
/// <param name="End">Where the line ends, comment and blanks left out.</param>
internal sealed record VoiceLine(TextSpan At, TextSpan End, Voice Voice, ValueList<BarText> Bars)
{
    public void WarnIfShorter(int bars, Problems problems)
    {
        var own = Bars.Sum(bar => bar.Kind == BarKind.RepeatToEnd ? bars : bar.Times);
        if (own < bars)
            problems.Warning(At, $"The {Voice.Name} has {own} of the passage’s {bars} bars and is silent in the rest: write | %* at the "
                + $"end of its line if it goes on.", new Fix("Let it go on to the end", new TextEdit(End, " | %*")));
    }

    /// <summary>Bars, from 0, in which the voice could not be heard.</summary>
    public IEnumerable<(int Bar, TextSpan At)> UnheardBars(int bars)
    {
        var unheard = false;
        foreach (var (bar, index) in Expanded(bars))
        {
            unheard = bar.Kind is BarKind.Repeat or BarKind.RepeatToEnd ? unheard && bar.Tokens.Count == 0 : bar.Kind == BarKind.Unheard;
            if (unheard) yield return (index, bar.At);
        }
    }

    /// <summary>The line's strokes with the words they came from, bar by bar.</summary>
    public IEnumerable<(Stroke Stroke, TextSpan At)> Strokes(Directives said, int bars, Problems problems)
    {
        var before = new RepeatChain(said);
        IReadOnlyCollection<Placed> last = [];
        Meter? lastMeter = null;
        foreach (var (bar, index) in Expanded(bars))
        {
            var meter = said.Meters.MeterOf(index);
            var pickup = index == 0 ? said.Pickup : Tick.Zero;
            var isRepeat = bar.Kind is BarKind.Repeat or BarKind.RepeatToEnd;
            var placer = new BarPlacer(meter, said, pickup, problems);
            if (isRepeat)
            {
                var sameBar = meter.Equals(lastMeter) && !(index == 1 && said.Pickup > Tick.Zero);
                placer.Give(sameBar ? last : before.ReadIn(meter, bar.At, problems), bar.At);
            }
            else
                before.Clear();
            before.Add(bar, index);
            placer.Put(bar.Tokens);
            (last, lastMeter) = (placer.Strokes, meter);

            var start = said.Meters.StartOf(index);
            foreach (var placed in last)
            {
                var stroke = placed.Marks.On(Voice, start + placed.InBar);
                if (placed.Marks.Until is { } until)
                    stroke = stroke with { Length = LengthTo(until, placed.InBar, placed.At, index, said, problems) };
                yield return (stroke, placed.At);
            }
        }
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

    /// <summary>How long a stroke lasts that ends at a place of its bar or of the next.</summary>
    public static Tick? LengthTo(Place until, Tick inBar, TextSpan at, int bar, Directives said, Problems problems)
    {
        var meter = said.Meters.MeterOf(bar);
        if (until.In(meter, said.School) is { } here && here > inBar) return here - inBar;
        if (until.In(said.Meters.MeterOf(bar + 1), said.School) is { } next) return meter.Length - inBar + next;
        problems.Error(at, "The place to which this stroke lasts is not in its bar nor in the next: write a count that one of them has.");
        return null;
    }
}
