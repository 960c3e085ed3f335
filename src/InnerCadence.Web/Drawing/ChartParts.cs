namespace InnerCadence.Web.Drawing;

/// <summary>The parts that pictures of numbers are drawn of: a frame, names of rows and columns, marks that open what they count.</summary>
public static class ChartParts
{
    /// <summary>Most letters of a name above a column; the whole of it is its label.</summary>
    public const int LongestName = 20;

    public static Shape Frame(string look, double width, double height, string label) => new Shape("svg").With("class", look)
        .With("viewBox", FormattableString.Invariant($"0 0 {width:0} {height:0}")).With("width", width).With("height", height)
            .With("role", "group").With("aria-label", label);

    /// <summary>The name of a row, before it.</summary>
    public static Shape RowName(double x, double y, string name, string? link = null)
    {
        var text = Shape.Text("matrix-name", x, y + 4, name);
        return link is null ? text : new Shape("a").With("href", link).Add(text);
    }

    /// <summary>The name of a column, slanting up from it.</summary>
    public static Shape ColumnName(double x, double y, string name, string whole) =>
        Shape.Text("matrix-head", x, y, name.Length > LongestName ? name[..(LongestName - 1)] + "…" : name).With("aria-label", whole)
            .With("transform", FormattableString.Invariant($"rotate(-52 {x:0.#} {y:0.#})"));

    /// <summary>A dot whose area says how much; a speck for nothing.</summary>
    /// <param name="share">Of the largest, 0 to 1.</param>
    /// <param name="largest">Its radius.</param>
    public static Shape Dot(double x, double y, double share, double largest, string look = "rate") => new Shape("circle")
        .With("class", share > 0 ? look : "none").With("cx", x).With("cy", y)
        .With("r", share > 0 ? 3 + (largest - 3) * Math.Sqrt(Math.Min(1, share)) : 1.4);

    /// <summary>What opens what it counts, with its words for pointer and reader.</summary>
    public static Shape Opens(string link, string says) =>
        new Shape("a").With("href", link).With("aria-label", says).Add(new Shape("title").Saying(says));
}
