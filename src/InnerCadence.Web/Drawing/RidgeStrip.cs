using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <param name="IsHeard">Else it is drawn as a ring: it would fall here.</param>
public readonly record struct RidgeBead(Voice Voice, Seconds At, bool IsHeard);

/// <summary>A short stretch of a record: what the ear heard of each family as a ridge, and beads over it.</summary>
public static class RidgeStrip
{
    public const double Width = 260;
    private const double Left = 36, Row = 18;

    /// <summary>A family with nothing higher is not drawn.</summary>
    private const double Faint = 0.25;

    private static readonly IReadOnlyList<Family> TopToBottom =
        [Family.Crash, Family.Ride, Family.Bell, Family.Hat, Family.Tom, Family.Snare, Family.Kick];

    /// <param name="ridges">From the frame at or before <paramref name="from"/> on, a value each <see cref="Ridges.Step"/>.</param>
    public static Shape Draw(IReadOnlyDictionary<Family, IReadOnlyList<double>> ridges, Seconds from, Seconds to,
        IReadOnlyList<RidgeBead> beads, string label)
    {
        var rows = TopToBottom.Where(f => beads.Any(b => b.Voice.Family == f)
            || ridges.GetValueOrDefault(f)?.Any(v => v >= Faint) == true).ToList();
        var height = Math.Max(1, rows.Count) * Row + 4;
        var first = Ridges.FirstFrame(from) * Ridges.Step;
        double X(double second) => Left + (Width - Left - 4) * Math.Clamp((second - from) / Math.Max(0.01, to - from), 0, 1);
        var svg = new Shape("svg").With("class", "strip ridged").With("viewBox", FormattableString.Invariant($"0 0 {Width} {height}"))
            .With("width", Width).With("height", height).With("role", "img").With("aria-label", label);
        foreach (var (family, i) in rows.Select((f, i) => (f, i)))
        {
            var ground = (i + 1) * Row;
            svg.Add(Shape.Text("ridge-name", 0, ground - 2, family.ToString().ToLowerInvariant()));
            svg.Add(Shape.Line("strand", Left, ground, Width, ground));
            if (ridges.GetValueOrDefault(family) is { Count: > 0 } values)
                svg.Add(new Shape("path").With("class", "ridge").With("d", string.Join("", values.Select((v, n) =>
                    FormattableString.Invariant($"{(n == 0 ? 'M' : 'L')}{X(first + n * Ridges.Step):0.#} {ground - v * (Row - 2):0.#}")))
                    + FormattableString.Invariant($"L{X(first + values.Count * Ridges.Step):0.#} {ground}L{X(first):0.#} {ground}Z")));
        }
        foreach (var bead in beads)
            if (rows.IndexOf(bead.Voice.Family) is >= 0 and var row)
                svg.Add(new Shape("circle").With("class", bead.IsHeard ? "bead" : "bead ghost").With("cx", X(bead.At))
                    .With("cy", (row + 1) * Row - 4).With("r", 3.2).Add(new Shape("title").Saying(
                        $"{bead.Voice.Name}{(bead.IsHeard ? "" : ", hardly heard")}")));
        return svg;
    }
}
