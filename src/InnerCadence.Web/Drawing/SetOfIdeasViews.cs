using System.Globalization;

namespace InnerCadence.Web.Drawing;

/// <param name="Share">Of the largest, 0 to 1.</param>
/// <param name="Says">What a mark counts, in words.</param>
public sealed record SetMark(int Count, double Share, string Link, string Says);

/// <summary>How ideas go together: a grid of marks, each with its number, each opening what it counts.</summary>
public static class SetOfIdeasViews
{
    /// <param name="columns">Name, and where it leads.</param>
    /// <param name="rows">With a mark for each column; nothing where there is none.</param>
    public static Shape Grid(string label, IReadOnlyList<string> columns,
        IReadOnlyList<(string Name, string Link, IReadOnlyList<SetMark?> Marks)> rows, double left = 150)
    {
        const int Fit = 12;
        const double row = 30, step = 46, top = 92, after = 60;
        double X(int c) => left + step * (c + 0.5);
        // What is wider than a page is read at its own size, and moved along.
        var svg = ChartParts.Frame(columns.Count > Fit ? "matrix at-size" : "matrix",
            left + step * columns.Count + after, top + rows.Count * row + 8, label);
        for (var c = 0; c < columns.Count; c++) svg.Add(ChartParts.ColumnName(X(c), top - 8, columns[c], columns[c]));
        for (var r = 0; r < rows.Count; r++)
        {
            var y = top + row * (r + 0.5);
            svg.Add(ChartParts.RowName(left - 10, y, rows[r].Name, rows[r].Link));
            svg.Add(Shape.Line("strand", left, y + row / 2, left + step * columns.Count, y + row / 2));
            for (var c = 0; c < columns.Count; c++)
            {
                if (rows[r].Marks[c] is not { } mark)
                {
                    svg.Add(ChartParts.Dot(X(c), y, 0, 0));
                    continue;
                }
                svg.Add(ChartParts.Opens(mark.Link, mark.Says).Add(ChartParts.Dot(X(c) - 8, y, mark.Share, 10))
                    .Add(Shape.Text("clock", X(c) + 5, y + 4, mark.Count.ToString(CultureInfo.InvariantCulture)))
                    .Add(Shape.Rect("hit", X(c) - step / 2, y - row / 2, step, row)));
            }
        }
        return svg;
    }
}
