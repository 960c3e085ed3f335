using System.Globalization;
using InnerCadence.Core.Practice;

namespace InnerCadence.Web.Drawing;

/// <summary>How the tempo of an item climbed, day by day.</summary>
public static class PracticeViews
{
    public static Shape Climb(IReadOnlyList<PracticeDay> days, double start, double goal)
    {
        const double width = 420, height = 130, left = 40, floor = 104;
        var (low, high) = (Math.Min(start, days.Min(d => d.Best ?? start)) - 2, Math.Max(goal, days.Max(d => d.Best ?? goal)) + 2);
        double Y(double tempo) => floor - (floor - 12) * (tempo - low) / (high - low);
        double X(DateOnly day) => days.Count == 1 ? left + 10
            : left + 10 + (width - left - 24) * (day.DayNumber - days[0].Day.DayNumber) / Math.Max(1,
            days[^1].Day.DayNumber - days[0].Day.DayNumber);
        var svg = new Shape("svg").With("class", "profile").With("viewBox", FormattableString.Invariant($"0 0 {width:0} {height:0}"))
            .With("width", width).With("height", height).With("role", "img")
            .With("aria-label", FormattableString.Invariant($"Best clean tempo on {days.Count} days, goal {goal:0.#}"));
        foreach (var tempo in new[] { start, goal })
        {
            svg.Add(Shape.Line("beat-line", left, Y(tempo), width - 6, Y(tempo)));
            svg.Add(Shape.Text("clock", 2, Y(tempo) + 4, tempo.ToString("0.#", CultureInfo.InvariantCulture)));
        }
        var clean = days.Where(d => d.Best is not null).ToList();
        if (clean.Count > 1) svg.Add(new Shape("polyline").With("class", "tempo-curve")
            .With("points", string.Join(' ', clean.Select(d => FormattableString.Invariant($"{X(d.Day):0.#},{Y(d.Best!.Value):0.#}")))));
        foreach (var day in clean) svg.Add(new Shape("circle").With("class", "rate").With("cx", X(day.Day)).With("cy", Y(day.Best!.Value))
            .With("r", 4));
        svg.Add(Shape.Text("clock", left, height - 6, days[0].Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)));
        if (days.Count > 1) svg.Add(Shape.Text("clock end", width - 6, height - 6,
            days[^1].Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)).With("text-anchor", "end"));
        return svg;
    }
}
