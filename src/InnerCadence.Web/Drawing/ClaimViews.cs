using System.Globalization;
using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Web.Drawing;

/// <summary>What a claim rests on, as a line: the interval, its value, and the number it is held against.</summary>
public static class ClaimViews
{
    /// <summary>Nothing where no interval decides.</summary>
    public static Shape? Interval(Stand stand, double width = 210)
    {
        if (stand.Interval is not { } interval || stand.Against is not { } against) return null;
        const double height = 26, middle = 11;
        var most = stand.Unit == "share" ? 1 : Math.Max(Finite(interval.High, interval), against) * 1.15;
        double X(double value) => 6 + (width - 12) * Math.Clamp(value / most, 0, 1);
        var svg = new Shape("svg").With("class", $"claim-line {stand.Standing.ToString().ToLowerInvariant()}")
            .With("viewBox", FormattableString.Invariant($"0 0 {width:0} {height:0}")).With("width", width).With("height", height)
            .With("role", "img").With("aria-label", $"{Said(interval.Value, stand.Unit)}, from {Said(interval.Low, stand.Unit)} to "
                + $"{Said(interval.High, stand.Unit)}, against {Said(against, stand.Unit)}");
        svg.Add(Shape.Line("strand", 2, middle, width - 2, middle));
        svg.Add(Shape.Rect("claimed", X(against), 2, Math.Max(0, width - 2 - X(against)), height - 8));
        svg.Add(Shape.Line("against", X(against), 1, X(against), height - 5));
        svg.Add(Shape.Line("interval", X(interval.Low), middle, X(Finite(interval.High, interval)), middle));
        svg.Add(new Shape("circle").With("class", "value").With("cx", X(Finite(interval.Value, interval))).With("cy", middle)
            .With("r", 4.5));
        return svg;
    }

    private static double Finite(double value, Interval interval) => double.IsPositiveInfinity(value) ? Math.Max(4, interval.Low * 3)
        : value;

    private static string Said(double value, string unit) => double.IsPositiveInfinity(value) ? "any number"
        : unit == "share" ? string.Create(CultureInfo.InvariantCulture, $"{value * 100:0} %")
            : string.Create(CultureInfo.InvariantCulture, $"{value:0.0}{(unit == "times" ? " times" : " per 100 bars")}");
}
