using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <summary>One stroke as a bead: size is loudness, a ring a ghost, a flat cap an accent, a satellite a flam, a fringe a buzz.</summary>
internal static class Bead
{
    /// <param name="scale">1 in the strands, less where there is less room.</param>
    /// <param name="look">Further classes of the whole bead, such as context or differs.</param>
    public static Shape Of(Stroke stroke, double x, double y, string title, double scale = 1, string look = "")
    {
        var group = new Shape("g").With("class", $"stroke {look}{(stroke.Optional ? " optional" : "")}".Trim());
        group.Add(new Shape("title").Saying(title));
        var (kind, radius) = stroke.Dynamic switch
        {
            Dynamic.Ghost => ("bead ghost", 4.2),
            Dynamic.Accent => ("bead", 6.4),
            _ => ("bead", 5.5),
        };
        radius *= scale;
        if (stroke.Unsure) kind += " unsure";
        group.Add(new Shape("circle").With("class", kind).With("cx", x).With("cy", y).With("r", radius));
        if (stroke.Dynamic == Dynamic.Accent)
            group.Add(Shape.Rect("cap", x - 6.5 * scale, y - radius - 4.4 * scale, 13 * scale, 2.2 * scale));
        var satellites = stroke.Ornaments.HasFlag(Ornaments.Drag) ? 2 : stroke.Ornaments.HasFlag(Ornaments.Flam) ? 1 : 0;
        for (var i = 1; i <= satellites; i++)
            group.Add(new Shape("circle").With("class", "satellite").With("cx", x - radius - 4.2 * scale * i).With("cy", y - 3 * scale)
                .With("r", 1.9 * scale));
        if (stroke.Ornaments.HasFlag(Ornaments.Buzz))
            for (var i = -1; i <= 1; i++)
                group.Add(Shape.Line("fringe", x + i * 3.2 * scale, y + radius + 1 * scale, x + i * 3.2 * scale, y + radius + 5 * scale));
        if (stroke.Ornaments.HasFlag(Ornaments.Rimshot))
            group.Add(Shape.Line("tick", x - 8.5 * scale, y, x + 8.5 * scale, y));
        if (stroke.Ornaments.HasFlag(Ornaments.Choke))
            group.Add(Shape.Line("tick", x + 9 * scale, y - 5 * scale, x + 9 * scale, y + 5 * scale));
        return group;
    }

    /// <summary>snare on the a of 2, ghost, left hand.</summary>
    public static string Title(Stroke stroke, string place)
    {
        var parts = new List<string> { $"{stroke.Voice.Name} on {place}" };
        if (stroke.Dynamic != Dynamic.Normal) parts.Add(stroke.Dynamic.ToString().ToLowerInvariant());
        if (stroke.Openness is { } openness && openness != Openness.Closed) parts.Add(openness.ToString().ToLowerInvariant());
        if (stroke.Ornaments != Ornaments.None) parts.Add(stroke.Ornaments.ToString().ToLowerInvariant());
        if (stroke.Side is { } side) parts.Add($"{side.ToString().ToLowerInvariant()} {(stroke.Voice.IsFoot ? "foot" : "hand")}");
        if (stroke.Unsure) parts.Add("unsure");
        if (stroke.Optional) parts.Add("optional");
        parts.AddRange(stroke.Notes);
        return string.Join(", ", parts);
    }
}
