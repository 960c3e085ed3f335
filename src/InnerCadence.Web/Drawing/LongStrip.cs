using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Web.Drawing;

/// <summary>Something found at a clock time, on the strip.</summary>
public sealed record StripMark(double Seconds, string Name, string Look, string Link);

/// <summary>A whole recording over clock time: sections, what was searched, tempo, passages and sightings.</summary>
public sealed class LongStrip
{
    private const double Whole = 1232, Width = 1196, Ruler = 16, Sections = 24, SectionHeight = 34, Cover = 70, CoverHeight = 12,
        Wave = 128, WaveHeight = 28, CurveHeight = 56;

    /// <summary>0 to 255, one a fiftieth of a second; nothing without a sound at hand.</summary>
    public byte[]? Sound { get; init; }

    private double Curve => Sound is null ? 104 : 174;
    private double Below => Curve + 80;

    public required string Label { get; init; }
    /// <summary>Seconds shown.</summary>
    public required double From { get; init; }
    public required double To { get; init; }
    public required Timeline Timeline { get; init; }
    /// <summary>The map, or a guess of it from length and bars.</summary>
    public required TempoMap? Map { get; init; }
    public required IReadOnlyList<CoveredRun> Covered { get; init; }
    public required int? TotalBars { get; init; }
    public required IReadOnlyList<StripMark> Marks { get; init; }
    /// <summary>Ideas for which the ear looked through the whole sound; none where it did for none.</summary>
    public IReadOnlyList<string> LookedFor { get; init; } = [];

    private double X(double seconds) => (seconds - From) / (To - From) * Width;

    private double? XOfBar(int bar) => Map is null ? null : X(Map.SecondsOf(new(bar, Core.Music.Tick.Zero)));

    public Shape Draw()
    {
        var rows = Rows();
        var height = rows.Count == 0 ? Curve + CurveHeight + 8 : Below + 20 + 17 * (rows.Max(r => r.Row) + 1);
        var picture = new Shape("svg").With("class", "longstrip").With("data-from", From).With("data-to", To)
            .With("data-width", Width / Whole).With("viewBox", FormattableString.Invariant($"0 0 {Whole} {height}")).With("role", "group")
            .With("aria-label", Label);
        DrawClock(picture, height);
        DrawSections(picture);
        DrawCover(picture);
        DrawSound(picture);
        DrawTempo(picture);
        foreach (var (mark, row) in rows)
        {
            var x = X(mark.Seconds);
            picture.Add(Shape.Line("drop", x, Sections + SectionHeight, x, Below - 8));
            var link = new Shape("a").With("href", mark.Link);
            link.Add(new Shape("circle").With("class", "found " + mark.Look).With("cx", x).With("cy", Below).With("r", 5));
            link.Add(Shape.Text("found-name " + mark.Look, Math.Min(x - 4, Whole - 7.2 * mark.Name.Length), Below + 20 + 17 * row,
                mark.Name));
            picture.Add(link);
        }
        return picture;
    }

    /// <summary>Names side by side where they fit, else a row lower.</summary>
    private List<(StripMark Mark, int Row)> Rows()
    {
        var ends = new List<double>();
        var placed = new List<(StripMark, int)>();
        foreach (var mark in Marks.Where(m => m.Seconds >= From && m.Seconds <= To).OrderBy(m => m.Seconds))
        {
            var x = X(mark.Seconds);
            var row = ends.FindIndex(end => end < x);
            if (row < 0 && ends.Count < 6)
            {
                row = ends.Count;
                ends.Add(0);
            }
            if (row < 0) row = ends.IndexOf(ends.Min());
            ends[row] = x + 7.4 * mark.Name.Length + 10;
            placed.Add((mark, row));
        }
        return placed;
    }

    private void DrawClock(Shape picture, double height)
    {
        var step = Steps.FirstOrDefault(s => (To - From) / s <= 10, Steps[^1]);
        for (var at = Math.Ceiling(From / step) * step; at <= To; at += step)
        {
            picture.Add(Shape.Line("second", X(at), Sections - 4, X(at), height));
            picture.Add(Shape.Text("clock", X(at) + 2, Ruler - 2, new ClockTime((int)Math.Round(at * 1000)).ToString()));
        }
    }

    private static readonly double[] Steps = [0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800];

    private void DrawSections(Shape picture)
    {
        foreach (var section in Timeline.Form.Sections.Where(s => s.Bars > 0))
        {
            if (XOfBar(section.FirstBar) is not { } left || XOfBar(section.FirstBar + section.Bars) is not { } right || right < 0
                || left > Width) continue;
            var (a, b) = (Math.Max(0, left), Math.Min(Width, right));
            var group = new Shape("g").Add(Shape.Rect("section", a, Sections, Math.Max(0.5, b - a), SectionHeight));
            if (left >= 0) group.Add(Shape.Line("section-line", left, Sections, left, Sections + SectionHeight));
            var bars = section.Bars == 1 ? $"{section.FirstBar}" : $"{section.FirstBar}–{section.LastBar}";
            group.Add(new Shape("title").Saying($"{section.Name}, {(section.Bars == 1 ? "bar" : "bars")} "
                + $"{bars}{(section.Meters is { } m ? $", {m}" : "")}"));
            var name = section.Name + (section.Meters is { } meters && section.Bars > 1 ? $", {meters}" : "");
            if (b - a > 7.5 * section.Name.Length + 8) group.Add(Shape.Text("section-name", a + 6, Sections + 15,
                b - a > 7.5 * name.Length + 8 ? name : section.Name));
            if (b - a > 8 * bars.Length + 8) group.Add(Shape.Text("section-bars", a + 6, Sections + 29, bars));
            picture.Add(group);
        }
    }

    private void DrawCover(Shape picture)
    {
        var end = Math.Min(Width, TotalBars is { } total && XOfBar(total + 1) is { } x ? x : Width);
        picture.Add(new Shape("path").With("class", "cover-none")
            .With("d", string.Concat(Enumerable.Range(0, (int)Math.Max(0, end / 9))
            .Select(i => FormattableString.Invariant($"M{i * 9} {Cover + CoverHeight}l{CoverHeight}-{CoverHeight}")))));
        if (LookedFor.Count > 0) picture.Add(Shape.Rect("cover-looked", 0, Cover + CoverHeight + 2, Width, 3).Add(new Shape("title")
            .Saying($"looked through by the ear for {string.Join(", ", LookedFor)}")));
        foreach (var run in Covered)
        {
            if (XOfBar(run.From) is not { } left || XOfBar(run.Last + 1) is not { } right || right < 0 || left > Width) continue;
            var (a, b) = (Math.Max(0, left), Math.Min(Width, right));
            picture.Add(Shape.Rect("cover-" + run.Closeness.ToString().ToLowerInvariant(), a, Cover, Math.Max(0.5, b - a), CoverHeight)
                .Add(new Shape("title").Saying(FormattableString.Invariant(
                    $"bars {run.From} to {run.Last} {run.Closeness.ToString().ToLowerInvariant()}"))));
        }
    }

    private void DrawSound(Shape picture)
    {
        if (Sound is not { Length: > 0 } sound) return;
        const int step = 2;
        var path = new System.Text.StringBuilder();
        for (var x = 0; x < Width; x += step)
        {
            var (first, last) = ((int)((From + x / Width * (To - From)) * Core.Hearing.Overview.AColumn),
                (int)((From + (x + step) / Width * (To - From)) * Core.Hearing.Overview.AColumn));
            if (first >= sound.Length) break;
            var loud = 0;
            for (var i = first; i <= Math.Min(last, sound.Length - 1); i++) loud = Math.Max(loud, sound[i]);
            var half = Math.Max(0.5, loud / 255.0 * WaveHeight);
            path.Append(CultureInfo.InvariantCulture, $"M{x + 0.5} {Wave - half:0.#}v{2 * half:0.#}");
        }
        picture.Add(new Shape("path").With("class", "wave").With("d", path.ToString()));
        picture.Add(Shape.Rect("wave-room", 0, Wave - WaveHeight - 4, Width, 2 * WaveHeight + 8));
    }

    private void DrawTempo(Shape picture)
    {
        if (Timeline.Map?.Tempos is not { Count: > 1 } tempos) return;
        var (low, high) = (Math.Floor(tempos.Min(t => t.Bpm)) - 1, Math.Ceiling(tempos.Max(t => t.Bpm)) + 1);
        double Y(double bpm) => Curve + CurveHeight - (bpm - low) / (high - low) * CurveHeight;
        foreach (var bpm in (double[])[low + 1, (low + high) / 2, high - 1])
        {
            picture.Add(Shape.Line("second", 0, Y(bpm), Width, Y(bpm)));
            picture.Add(Shape.Text("tempo-name", Whole, Y(bpm) + 4, bpm.ToString("0.#", CultureInfo.InvariantCulture)));
        }
        var points = tempos.Select(t => FormattableString.Invariant(
            $"{X((t.From.At.Milliseconds + t.To.At.Milliseconds) / 2000.0):0.#},{Y(t.Bpm):0.#}"));
        picture.Add(new Shape("polyline").With("class", "tempo-curve").With("points", string.Join(' ', points)));
    }
}
