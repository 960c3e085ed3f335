using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <summary>What is pressed on the strands beside their counts: how a beat is divided, the meter of a bar, the bar after the last.
/// </summary>
internal static class StrandPresses
{
    private const double Column = 70, OfBarNumber = 38, OfMeter = 28, Least = 16, Roomy = 40;

    /// <summary>Room that is left free after the last bar.</summary>
    public const double Width = 68;

    /// <summary>Above each beat in how many parts it is shown; where the bar begins, its meter.</summary>
    /// <param name="number">Of the bar, in the recording.</param>
    /// <param name="x">Where the cell of a place begins.</param>
    /// <param name="room">Top and height.</param>
    /// <param name="partsOf">Of a beat, from 0.</param>
    public static void OfBar(Shape svg, Passage passage, int bar, int number, Func<Tick, double> x, (double Y, double Height) room,
        Func<int, int> partsOf)
    {
        var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
        var (line, wide) = (room.Y + room.Height / 2 + 3, x(start + meter.Beat) - x(start));
        var changes = bar > 0 && passage.Meters.MeterOf(bar - 1) != meter;
        var taken = bar > 0 || passage.Bars > 1 || number > 1 ? OfBarNumber + (changes ? OfMeter : 0) : 0;
        for (var beat = 0; beat < meter.Counts; beat++)
        {
            var parts = partsOf(beat);
            var (from, to) = (x(start + meter.Beat * beat) + (beat == 0 ? Math.Min(taken, Math.Max(0, wide - Least)) : 0),
                x(start + meter.Beat * beat) + wide);
            svg.Add(Pressed("divide", $"Beat {beat + 1} of bar {number} in {parts}: press for another division", from, room.Y, to - from,
                    room.Height, (to - 6, line, to - from > Roomy ? $"in {parts}" : $"{parts}"))
                .With("data-bar", bar).With("data-beat", beat).With("data-parts", parts));
        }
        var says = $"Bar {number} in {meter}: press to change its meter";
        svg.Add((bar == 0 ? Pressed("set-meter", says, 0, room.Y, Column, room.Height + 16, (Column - 4, line, meter.ToString()))
                : Pressed("set-meter", says, x(start), room.Y, taken, room.Height,
                    (x(start) + OfBarNumber + OfMeter - 4, line, changes ? meter.ToString() : "")))
            .With("data-bar", bar).With("data-meter", meter.ToString()));
    }

    /// <summary>After the last bar: one more, silent or like it; one less where there are several.</summary>
    /// <param name="least">Height of each at least.</param>
    /// <returns>Where they end.</returns>
    public static double Onward(Shape svg, double x, double top, double bottom, bool several, double least)
    {
        var parts = several ? 3 : 2;
        var part = Math.Max(least, (bottom - top) / parts);
        svg.Add(Pressed("add-bar onward", "Add a bar", x, top, Width - 14, part - 2, (x + 8, top + part / 2 + 4, "+ bar")));
        svg.Add(Pressed("same-again onward", "Same again: the last bar once more", x, top + part, Width - 14, part - 2,
            (x + 8, top + part * 1.5 - 3, "same "), (x + 8, top + part * 1.5 + 10, "again")));
        if (several) svg.Add(Pressed("drop-bar onward", "− bar: take the last bar out", x, top + part * 2, Width - 14, part - 2,
            (x + 8, top + part * 2.5 + 4, "− bar")));
        return top + part * parts;
    }

    private static Shape Pressed(string look, string says, double x, double y, double width, double height,
        params (double X, double Y, string Text)[] texts)
    {
        var pressed = new Shape("g").With("class", $"press {look}").With("role", "button").With("aria-label", says)
            .Add(new Shape("title").Saying(says)).Add(Shape.Rect("press-room", x, y, width, height));
        foreach (var (at, down, text) in texts.Where(t => t.Text.Length > 0)) pressed.Add(Shape.Text("press-text", at, down, text));
        return pressed;
    }
}
