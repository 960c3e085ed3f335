using InnerCadence.Core.Ideas;
using InnerCadence.Storage.Ideas;

namespace InnerCadence.Web.Drawing;

/// <summary>The family of an idea as a small tree: what it comes from at left, what comes from it at right.</summary>
public static class FamilyTree
{
    private const double Column = 190, Row = 30, Wide = 170;

    /// <param name="sources">From whom the idea itself was borrowed; they stand above the tree.</param>
    public static Shape Draw(IReadOnlyCollection<Descent> links, IReadOnlyList<IdeaRow> ideas, IdeaRow of, IReadOnlyList<SourceRow> sources)
    {
        var family = Lineage.Family(links, of.Id.Value);
        var first = sources.Count > 0 ? 1 : 0;
        var places = family.GroupBy(m => m.Depth).SelectMany(column =>
            column.Select((m, i) => (m.Idea, X: column.Key * Column + 4, Y: (i + first) * Row + 16)))
            .ToDictionary(m => m.Idea, m => (m.X, m.Y));
        var (width, height) = (family.Max(m => m.Depth) * Column + Wide + 12, places.Values.Max(p => p.Y) + 18);
        var svg = new Shape("svg").With("class", "family").With("viewBox", FormattableString.Invariant($"0 0 {width} {height}"))
            .With("width", width).With("height", height)
            .With("role", "group").With("aria-label", "Lineage: each line runs from an idea to one that comes from it");
        foreach (var link in links.Where(l => places.ContainsKey(l.Idea) && places.ContainsKey(l.Of)))
        {
            var ((x1, y1), (x2, y2)) = (places[link.Of], places[link.Idea]);
            svg.Add(new Shape("path").With("class", link.Kind == "opposite of" ? "descent opposite" : "descent")
                .With("d", FormattableString.Invariant(
                    $"M{x1 + Wide - 8:0.#} {y1:0.#}C{x1 + Wide + 8:0.#} {y1:0.#} {x2 - 20:0.#} {y2:0.#} {x2 - 4:0.#} {y2:0.#}"))
                .Add(new Shape("title").Saying(link.Kind)));
        }
        for (var i = 0; i < sources.Count; i++)
            svg.Add(Shape.Text("family-name borrowed", places[of.Id.Value].X, 16,
                string.Join("; ", sources.Select(s => $"{s.Who}{(s.Dated is { } when ? $" {when}" : "")}"))));
        foreach (var (id, (x, y)) in places)
        {
            var name = ideas.FirstOrDefault(i => i.Id.Value == id)?.Nickname ?? "?";
            svg.Add(new Shape("a").With("href", $"/ideas/{id}")
                .Add(Shape.Text(id == of.Id.Value ? "family-name own" : "family-name", x, y + 4, name.Length > 24 ? name[..23] + "…"
                : name)));
        }
        return svg;
    }
}
