using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <summary>A passage bent into a circle: time goes round from the top, a ring a voice, cymbals outside, feet inside.</summary>
/// <remarks>A voice with three to sixteen strokes shows them as a polygon, so that even groups stand out.</remarks>
public sealed class Ring
{
    private const double Size = 460, Middle = Size / 2, Outer = 188, Inner = 44;
    private readonly Passage passage;
    private readonly IReadOnlyList<Voice> voices;

    private Ring(Passage passage) => (this.passage, voices) =
        (passage, [.. passage.Voices.Concat(passage.Unheard.Select(u => u.Voice)).Distinct().Order()]);

    /// <summary>The whole drawing, an svg element; an empty passage gives an empty ring.</summary>
    /// <param name="grouping">Its markers make a polygon of their own.</param>
    public static Shape Draw(Passage passage, Core.Rhythm.Grouping? grouping = null)
    {
        var ring = new Ring(passage);
        var picture = ring.Draw();
        if (grouping is null || passage.Bars == 0) return picture;
        // Groups of fewer bars come round several times.
        var length = passage.Meters.StartOf(grouping.Bars);
        var corners = Enumerable.Range(0, passage.Bars / grouping.Bars)
            .SelectMany(i => grouping.Starts.Select(at => ring.At(at + length * i, Outer + 6)))
            .Select(p => FormattableString.Invariant($"{p.X:0.#},{p.Y:0.#}"));
        return picture.Add(new Shape("polygon").With("class", "group chosen").With("points", string.Join(' ', corners))
            .Add(new Shape("title").Saying($"{grouping.Markers}: {grouping}")));
    }

    private Shape Draw()
    {
        var picture = new Shape("svg").With("class", "ring").With("viewBox", FormattableString.Invariant($"0 0 {Size} {Size}"))
            .With("role", "group")
            .With("aria-label", voices.Count == 0 ? "Ring: nothing sounds yet"
                : $"Ring of {passage.Bars} {(passage.Bars == 1 ? "bar" : "bars")}: {string.Join(", ", voices.Select(v => v.Name))}")
            .With("data-length", passage.Length.Value).With("data-middle", Middle).With("data-outer", Outer + 10);
        if (passage.Bars == 0) return picture;
        DrawCounts(picture);
        foreach (var voice in voices) DrawVoice(picture, voice);
        return picture;
    }

    private void DrawCounts(Shape picture)
    {
        for (var bar = 0; bar < passage.Bars; bar++)
        {
            var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
            for (var count = 0; count < meter.Counts; count++)
            {
                var at = start + meter.Beat * count;
                var (x1, y1) = At(at, Inner - 8);
                var (x2, y2) = At(at, Outer + 8);
                picture.Add(Shape.Line(count == 0 ? "bar-line" : "beat-line", x1, y1, x2, y2));
                if (passage.Bars > 4 && count > 0) continue;
                var (x, y) = At(at, Outer + 22);
                picture.Add(Shape.Text("count beat sounds", x, y + 4, passage.Bars > 1 && count == 0 ? $"{bar + 1}.1" : $"{count + 1}"));
            }
        }
    }

    private void DrawVoice(Shape picture, Voice voice)
    {
        var radius = Radius(voice);
        picture.Add(new Shape("circle").With("class", "strand around").With("cx", Middle).With("cy", Middle).With("r", radius));
        foreach (var (bar, _) in passage.Unheard.Where(u => u.Voice == voice))
        {
            var ((x1, y1), (x2, y2)) = (At(passage.Meters.StartOf(bar), radius), At(passage.Meters.StartOf(bar + 1), radius));
            var large = passage.Meters.MeterOf(bar).Length.Value * 2 > passage.Length.Value ? 1 : 0;
            // A circle as a whole has no single arc.
            var path = passage.Bars == 1 ? FormattableString.Invariant(
                $"M{Middle:0.#} {Middle - radius:0.#}a{radius:0.#} {radius:0.#} 0 1 1 -0.1 0")
                : FormattableString.Invariant($"M{x1:0.#} {y1:0.#}A{radius:0.#} {radius:0.#} 0 {large} 1 {x2:0.#} {y2:0.#}");
            picture.Add(new Shape("path").With("class", "unheard-arc").With("d", path)
                .Add(new Shape("title").Saying($"{voice.Name} not heard in bar {bar + 1}")));
        }
        var strokes = passage.Strokes.Where(s => s.Voice == voice).ToList();
        if (strokes.Count is >= 3 and <= 16)
        {
            var corners = strokes.Select(s => At(s.At, radius)).Select(p => FormattableString.Invariant($"{p.X:0.#},{p.Y:0.#}"));
            picture.Add(new Shape("polygon").With("class", "group").With("points", string.Join(' ', corners)));
        }
        foreach (var stroke in strokes)
        {
            var (x, y) = At(stroke.At, radius);
            var (bar, inBar) = passage.Meters.Locate(stroke.At);
            var size = stroke.Dynamic switch { Dynamic.Accent => 6.6, Dynamic.Ghost => 3.8, _ => 5 };
            picture.Add(new Shape("circle").With("class",
                $"bead{(stroke.Dynamic == Dynamic.Ghost ? " ghost" : "")}{(stroke.Unsure ? " unsure" : "")}"
                    + $"{(stroke.Optional ? " optional" : "")}").With("cx", x).With("cy", y).With("r", size)
                        .With("data-tick", stroke.At.Value).With("data-voice", voice.Code)
                .Add(new Shape("title").Saying($"{voice.Name}, bar {bar + 1}, {CountNames.Spoken(inBar, passage.Meters.MeterOf(bar))}")));
        }
        // The name stands on its ring just before the top, where the circle closes.
        picture.Add(Shape.Text("ring-name", Middle - 8, Middle - radius - 4, voice.Name));
    }

    private double Radius(Voice voice) => voices.Count == 1 ? (Outer + Inner) / 2 + 30
        : Outer - (Outer - Inner) * (voices.ToList().IndexOf(voice) / (double)(voices.Count - 1));

    private (double X, double Y) At(Tick at, double radius)
    {
        var angle = 2 * Math.PI * at.Value / passage.Length.Value;
        return (Middle + radius * Math.Sin(angle), Middle - radius * Math.Cos(angle));
    }
}
