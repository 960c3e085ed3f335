using System.Globalization;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Web.Drawing;

/// <summary>One cell of the matrix: an idea in a recording.</summary>
/// <param name="Rate">Per 100 searched bars; nothing where it was not searched.</param>
/// <param name="Searched">The share of the recording that was searched; 1 where its length is not known.</param>
public sealed record MatrixCell(double? Rate, double Searched, int NearMisses, string Link, string Title);

/// <summary>One idea over the years.</summary>
/// <param name="At">Year with its fraction, first first.</param>
/// <param name="SearchedFrom">The first year searched without it; nothing where none was.</param>
/// <param name="Other">The same of the other side; nothing where it was not searched.</param>
public sealed record TimeRow(string Name, IReadOnlyList<(double At, string Link, string Title)> At, double? SearchedFrom,
    TimeRow? Other = null);

/// <summary>One side of the matrix.</summary>
/// <param name="Recordings">Short name and full name of each column.</param>
public sealed record MatrixSide(string Name, IReadOnlyList<(string Short, string Full)> Recordings);

/// <summary>The pictures of the comparing views. Each has a table beside it; colour never says anything alone.</summary>
public static class CompareViews
{
    /// <summary>Ideas by recordings, the one side before the other: size for rate, a dot for none, hatched where not searched, pale where
    /// under half was, a ring for near misses.</summary>
    /// <param name="ideas">With a cell for each recording of each side in turn.</param>
    public static Shape Matrix(IReadOnlyList<MatrixSide> sides,
        IReadOnlyList<(string Name, string Link, IReadOnlyList<MatrixCell> Cells)> ideas)
    {
        const double left = 132, row = 30, between = 14;
        var columns = sides.SelectMany((side, i) => side.Recordings.Select(r => (Side: i, r.Short, r.Full))).ToList();
        var step = Math.Clamp(700.0 / Math.Max(1, columns.Count), 18, 36);
        double X(int c) => left + step * (c + 0.5) + between * columns[c].Side;
        // Five bars with one sighting would dwarf everything that was really searched.
        var most = ideas.SelectMany(i => i.Cells).Where(c => c.Searched >= Answer.UsualShare).Max(c => c.Rate) is > 0 and var max ? max : 1;
        var (right, top) = (left + step * columns.Count + between * (sides.Count - 1), 128.0);
        var foot = sides.Count > 1 ? 26 : 8;
        var svg = ChartParts.Frame("matrix", right + 70, top + ideas.Count * row + foot,
            $"{ideas.Count} ideas in {columns.Count} recordings");
        for (var c = 0; c < columns.Count; c++)
        {
            svg.Add(ChartParts.ColumnName(X(c), top - 8, columns[c].Short, columns[c].Full));
        }
        if (sides.Count > 1)
        {
            foreach (var side in columns.Select((c, i) => (c.Side, At: X(i))).GroupBy(c => c.Side))
                svg.Add(Shape.Text("clock", side.First().At - step / 2, top + ideas.Count * row + 18, sides[side.Key].Name));
        }
        for (var r = 0; r < ideas.Count; r++)
        {
            var y = top + row * (r + 0.5);
            svg.Add(ChartParts.RowName(left - 12, y, ideas[r].Name, ideas[r].Link));
            foreach (var side in columns.Select((c, i) => (c.Side, At: X(i))).GroupBy(c => c.Side))
                svg.Add(Shape.Line("strand", side.First().At - step / 2, y + row / 2, side.Last().At + step / 2, y + row / 2));
            for (var c = 0; c < columns.Count; c++)
            {
                var (cell, x) = (ideas[r].Cells[c], X(c));
                var link = ChartParts.Opens(cell.Link, cell.Title);
                if (cell.Rate is not { } rate)
                {
                    link.Add(Shape.Rect("not-searched", x - step / 2, y - row / 2, step, row));
                    for (var h = -row; h < step; h += 6)
                        link.Add(Clipped(x - step / 2, y - row / 2, step, row, h));
                }
                else
                {
                    var half = cell.Searched >= Answer.UsualShare;
                    // What was not searched of it is hatched from the top.
                    var rest = half ? 0 : row * (1 - cell.Searched);
                    if (rest > 0)
                    {
                        link.Add(Shape.Rect("not-searched", x - step / 2, y - row / 2, step, rest));
                        for (var h = -rest; h < step; h += 6) link.Add(Clipped(x - step / 2, y - row / 2, step, rest, h));
                    }
                    link.Add(new Shape("circle").With("class", (rate > 0 ? "rate" : "none") + (half ? "" : " pale")).With("cx", x)
                        .With("cy", y).With("r", rate > 0 ? 3 + (Math.Min(step, row) / 2 - 4) * Math.Sqrt(Math.Min(1, rate / most)) : 1.4))
                        .Add(Shape.Rect("hit", x - step / 2, y - row / 2, step, row));
                }
                if (cell.NearMisses > 0) link.Add(new Shape("circle").With("class", "near-ring").With("cx", x + step / 2 - 5)
                    .With("cy", y - row / 2 + 6).With("r", 3));
                svg.Add(link);
            }
        }
        return svg;
    }

    /// <summary>One line of hatching inside a box, without a pattern to point at.</summary>
    private static Shape Clipped(double x, double y, double width, double height, double from)
    {
        var (x1, y1, x2, y2) = (from, height, from + height, 0.0);
        if (x1 < 0) (x1, y1) = (0, height + from);
        if (x2 > width) (x2, y2) = (width, x2 - width);
        return Shape.Line("hatch", x + x1, y + y1, x + x2, y + y2);
    }

    /// <summary>First and later sightings, the other side on a line below; dashed where it was searched before the first without
    /// it.</summary>
    public static Shape Timeline(IReadOnlyList<TimeRow> rows, int from, int to)
    {
        const double left = 132, width = 720, row = 34, apart = 12;
        double X(double year) => left + 16 + (width - left - 40) * (year - from) / (to + 1.0 - from);
        var svg = ChartParts.Frame("timeline", width, rows.Count * row + 34,
            $"First and later sightings of {rows.Count} ideas, {from} to {to}");
        var every = Math.Max(1, (to - from) / 12 + ((to - from) % 12 > 0 && to - from > 12 ? 1 : 0));
        for (var year = from; year <= to; year += every)
        {
            svg.Add(Shape.Line("beat-line", X(year), 4, X(year), rows.Count * row + 8));
            svg.Add(Shape.Text("clock middle", X(year), rows.Count * row + 26, year.ToString(CultureInfo.InvariantCulture)));
        }
        for (var r = 0; r < rows.Count; r++)
        {
            var y = 4 + row * (r + 0.5);
            svg.Add(ChartParts.RowName(left - 4, y, rows[r].Name));
            Line(rows[r], y - (rows[r].Other is null ? 0 : apart / 2), "rate", 4.5);
            if (rows[r].Other is { } other) Line(other, y + apart / 2, "plain open", 3.5);
        }
        return svg;

        void Line(TimeRow line, double y, string look, double radius)
        {
            var first = line.At.Count > 0 ? line.At[0].At : (double?)null;
            if (line.SearchedFrom is { } searched) svg.Add(Shape.Line("silence", X(searched), y, first is { } f ? X(f) - 7 : X(to + 1), y));
            if (first is { } start) svg.Add(Shape.Line("strand", X(start), y, X(to + 1), y));
            for (var i = 0; i < line.At.Count; i++)
            {
                var (at, link, title) = line.At[i];
                svg.Add(ChartParts.Opens(link, title).Add(new Shape("circle").With("class", i == 0 && look == "rate" ? "first" : look)
                    .With("cx", X(at)).With("cy", y)
                        .With("r", i == 0 ? radius + 2 : radius)));
            }
        }
    }

    /// <summary>How often it starts at each place of the bar: the one side above the counts, the other below them, on one scale.</summary>
    /// <param name="sides">Names of the two.</param>
    public static Shape Profile(IReadOnlyList<(string Count, double Share, double? Other, string Link, string Title)> places,
        (string One, string Other) sides)
    {
        const double width = 476, most = 84, floor = 104, counts = 20;
        var both = places.Any(p => p.Other is not null);
        var largest = Math.Max(0.01, places.Max(p => Math.Max(p.Share, p.Other ?? 0)));
        var (step, ceiling) = ((width - 16) / places.Count, floor + counts + 6);
        var svg = ChartParts.Frame("profile", width, both ? ceiling + most + 20 : ceiling + 4, "Share of its places in the bar");
        svg.Add(Shape.Line("bar-line", 6, floor, width - 6, floor));
        if (both)
        {
            svg.Add(Shape.Line("bar-line", 6, ceiling, width - 6, ceiling));
            svg.Add(Shape.Text("clock", 8, 11, sides.One));
            svg.Add(Shape.Text("clock", 8, ceiling + most + 15, sides.Other));
        }
        for (var i = 0; i < places.Count; i++)
        {
            var (count, share, other, link, title) = places[i];
            var (x, own, theirs) = (8 + step * i, most * share / largest, most * (other ?? 0) / largest);
            var place = ChartParts.Opens(link, title).Add(Shape.Rect("hit", x, 6, step, floor))
                .Add(Shape.Rect("rate", x + step * 0.18, floor - own, step * 0.64, own));
            if (theirs > 0) place.Add(Shape.Rect("theirs", x + step * 0.18, ceiling, step * 0.64, theirs));
            svg.Add(place);
            svg.Add(Shape.Text(share > 0 || theirs > 0 ? "count sounds" : "count", x + step / 2, floor + 17, count));
        }
        return svg;
    }

    /// <summary>Times as often with its interval, on a scale of doublings; 1 is the same.</summary>
    public static Shape Forest(IReadOnlyList<(string Name, Interval? Times, string Link)> rows)
    {
        const double left = 130, width = 476, row = 28;
        double X(double times) => left + 20 + (width - left - 40) * (Math.Log2(Math.Clamp(times, 0.125, 32)) + 3) / 8;
        var svg = ChartParts.Frame("forest", width, rows.Count * row + 34, "Times as often as the other side, with 95 % intervals");
        foreach (var mark in new[] { 0.125, 0.25, 0.5, 1, 2, 4, 8, 16, 32 })
        {
            svg.Add(Shape.Line(mark == 1 ? "bar-line" : "beat-line", X(mark), 2, X(mark), rows.Count * row + 6));
            svg.Add(Shape.Text("clock middle", X(mark), rows.Count * row + 24, mark < 1 ? mark == 0.5 ? "½" : mark == 0.25 ? "¼" : "⅛"
                : mark.ToString("0", CultureInfo.InvariantCulture)));
        }
        for (var r = 0; r < rows.Count; r++)
        {
            var y = 2 + row * (r + 0.5);
            var clear = rows[r].Times is { } t && (t.Low > 1 || t.High < 1);
            svg.Add(new Shape("a").With("href", rows[r].Link)
                .Add(Shape.Text(clear ? "matrix-name clear" : "matrix-name", left - 4, y + 4, rows[r].Name)));
            if (rows[r].Times is not { } times)
            {
                svg.Add(Shape.Text("clock", left + 20, y + 4, "nothing found on either side"));
                continue;
            }
            svg.Add(Shape.Line(clear ? "interval clear" : "interval", X(times.Low), y, X(times.High), y));
            // The others have none: no number is large enough, an arrow says so.
            if (double.IsPositiveInfinity(times.High)) svg.Add(new Shape("path").With("class", clear ? "rate" : "plain")
                .With("d", FormattableString.Invariant($"M{X(32) - 2:0.#} {y - 5:0.#}l9 5l-9 5z")));
            if (!double.IsPositiveInfinity(times.Value)) svg.Add(new Shape("circle").With("class", clear ? "rate" : "plain")
                .With("cx", X(times.Value)).With("cy", y).With("r", 4.5));
        }
        return svg;
    }

    /// <summary>Recordings over tempo: filled with it, open without; the split that divides them best.</summary>
    public static Shape TempoStrip(IReadOnlyList<(double Tempo, bool With, string Link, string Title)> recordings, TempoThreshold? split)
    {
        const double width = 720, y = 46;
        var (low, high) = recordings.Count == 0 ? (60.0, 180.0) : (recordings.Min(r => r.Tempo) - 6, recordings.Max(r => r.Tempo) + 6);
        double X(double tempo) => 16 + (width - 32) * (tempo - low) / (high - low);
        var svg = ChartParts.Frame("tempostrip", width, 84, "Recordings by tempo, with and without the idea");
        svg.Add(Shape.Line("strand", 8, y, width - 8, y));
        for (var tempo = Math.Ceiling(low / 20) * 20; tempo <= high; tempo += 20)
        {
            svg.Add(Shape.Line("beat-line", X(tempo), y - 8, X(tempo), y + 8));
            svg.Add(Shape.Text("clock middle", X(tempo), y + 28, tempo.ToString("0", CultureInfo.InvariantCulture)));
        }
        if (split is { } s)
        {
            var at = X((s.Below + s.Above) / 2);
            svg.Add(Shape.Line("split", at, 10, at, y + 14));
        }
        foreach (var group in recordings.GroupBy(r => Math.Round(r.Tempo)))
        {
            var i = 0;
            foreach (var (tempo, with, link, title) in group.OrderByDescending(r => r.With))
            {
                svg.Add(ChartParts.Opens(link, title).Add(new Shape("circle").With("class", with ? "rate" : "plain open")
                    .With("cx", X(tempo)).With("cy", y - 11 * i++)
                        .With("r", 5)));
            }
        }
        return svg;
    }
}
