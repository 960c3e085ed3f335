using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Web.Drawing;

/// <summary>How early or late, and how fast: pictures of what was measured.</summary>
public static class TimingViews
{
    private const double Width = 560, Left = 84, Lane = 74;

    /// <summary>Each voice a lane, its places along the bar, the mean of each with its interval: what is late lies below its
    /// line.</summary>
    public static Shape Profile(MicroTiming timing, Meter meter)
    {
        var voices = timing.Places.Select(p => p.Voice).Distinct().Order().ToList();
        // Of two strokes an interval is so wide that it would leave no room for the rest.
        var reach = Math.Clamp(timing.Places.Max(p => Math.Max(Math.Abs(p.Mean), p is { Strokes: > 2, Interval: { } i }
            ? Math.Max(Math.Abs(i.Low), Math.Abs(i.High)) : 0)),
            10, 60);
        var height = 30 + Lane * voices.Count + 6;
        double X(Tick inBar) => Left + 14 + (Width - Left - 106) * inBar.Value / meter.Length.Value;
        var svg = Picture(height, $"Early or late by voice and place in the bar, to {reach:0} ms");
        foreach (var place in timing.Places.Select(p => p.InBar).Distinct().Order())
        {
            var count = CountNames.Place(place, meter);
            svg.Add(Shape.Text("count sounds", X(place), 16, count ?? "·").With("text-anchor", "middle"));
        }
        for (var lane = 0; lane < voices.Count; lane++)
        {
            var (voice, zero) = (voices[lane], 30 + Lane * (lane + 0.5));
            double Y(double ms) => zero + Math.Clamp(ms / reach, -1, 1) * (Lane / 2 - 9);
            svg.Add(Shape.Text("voice", Left - 10, zero + 4.5, voice.Name));
            svg.Add(Shape.Line("strand", Left, zero, Width - 8, zero));
            svg.Add(Shape.Text("clock", Width - 4, Y(-reach) + 8, string.Create(CultureInfo.InvariantCulture, $"{reach:0} ms early"))
                .With("text-anchor", "end"));
            svg.Add(Shape.Text("clock", Width - 4, Y(reach) + 2, "late").With("text-anchor", "end"));
            foreach (var place in timing.Places.Where(p => p.Voice == voice))
            {
                if (place.Interval is { } i) svg.Add(Shape.Line("whisker", X(place.InBar), Y(i.Low), X(place.InBar), Y(i.High)));
                svg.Add(new Shape("circle").With("class", "rate").With("cx", X(place.InBar)).With("cy", Y(place.Mean)).With("r", 3.5)
                    .Add(new Shape("title").Saying(Words(place, meter))));
            }
        }
        return svg;
    }

    /// <summary>snare on 2: 12 ms late (7 to 17), 8 strokes</summary>
    public static string Words(PlaceTiming place, Meter meter) => string.Create(CultureInfo.InvariantCulture,
        $"{place.Voice.Name} on {CountNames.Spoken(place.InBar, meter)}: {Late(place.Mean)}"
            + $"{(place.Interval is { } i ? $" ({i.Low:0} to {i.High:0})" : "")}, ")
        + (place.Strokes == 1 ? "1 stroke" : $"{place.Strokes} strokes");

    public static string Late(double ms) => Math.Abs(ms) < 0.5 ? "on it"
        : string.Create(CultureInfo.InvariantCulture, $"{Math.Abs(ms):0} ms {(ms > 0 ? "late" : "early")}");

    /// <summary>The tempo of each bar, in quarters a minute.</summary>
    public static Shape Tempos(IReadOnlyList<double> bars, int first)
    {
        const double height = 120, floor = 92;
        var (low, high) = (Math.Floor(bars.Min()) - 1, Math.Ceiling(bars.Max()) + 1);
        double Y(double bpm) => floor - (floor - 14) * (bpm - low) / (high - low);
        double X(double bar) => Left + (Width - Left - 14) * bar / bars.Count;
        var svg = Picture(height, string.Create(CultureInfo.InvariantCulture,
            $"Tempo of {bars.Count} bars, {bars.Min():0.#} to {bars.Max():0.#}"));
        foreach (var bpm in (double[])[low + 1, high - 1])
        {
            svg.Add(Shape.Line("beat-line", Left, Y(bpm), Width - 8, Y(bpm)));
            svg.Add(Shape.Text("clock", Left - 10, Y(bpm) + 4, bpm.ToString("0", CultureInfo.InvariantCulture)).With("text-anchor", "end"));
        }
        svg.Add(new Shape("polyline").With("class", "tempo-curve").With("points", string.Join(' ', bars.SelectMany((bpm, bar) =>
            (string[])[FormattableString.Invariant($"{X(bar):0.#},{Y(bpm):0.#}"),
                FormattableString.Invariant($"{X(bar + 1):0.#},{Y(bpm):0.#}")]))));
        var every = (bars.Count + 11) / 12;
        for (var bar = 0; bar < bars.Count; bar += every)
            svg.Add(Shape.Text("clock", X(bar + 0.5), height - 8, $"{first + bar}").With("text-anchor", "middle"));
        return svg;
    }

    /// <summary>A dot a recording, along the years: below the line behind, above it ahead; the other side's are open.</summary>
    public static Shape Recordings(IReadOnlyList<RecordedGap> own, IReadOnlyList<RecordedGap> others)
    {
        const double height = 210, zero = 96, reach = 78;
        var dated = own.Concat(others).Where(g => g.Year is not null).ToList();
        if (dated.Count == 0) return Picture(20, "No recording has a year");
        var (first, last) = (dated.Min(g => g.Year!.Value), dated.Max(g => g.Year!.Value));
        var far = Math.Max(10, dated.Max(g => Math.Abs(g.Mean)) * 1.1);
        double X(int year) => Left + 14 + (Width - Left - 40) * (last == first ? 0.5 : (year - first) / (double)(last - first));
        double Y(double ms) => zero + ms / far * reach;
        var svg = Picture(height, string.Create(CultureInfo.InvariantCulture,
            $"{dated.Count} recordings from {first} to {last}, up to {far:0} ms early or late"));
        svg.Add(Shape.Line("strand", Left, zero, Width - 8, zero));
        foreach (var ms in (double[])[-far, far])
            svg.Add(Shape.Text("clock", Left - 10, Y(ms) + 4, string.Create(CultureInfo.InvariantCulture, $"{Math.Abs(ms):0} ms"))
                .With("text-anchor", "end"));
        svg.Add(Shape.Text("clock", Left - 10, Y(-far) + 18, "ahead").With("text-anchor", "end"));
        svg.Add(Shape.Text("clock", Left - 10, Y(far) - 10, "behind").With("text-anchor", "end"));
        foreach (var year in (int[])[.. new[] { first, last }.Distinct()])
            svg.Add(Shape.Text("clock", X(year), height - 8, year.ToString(CultureInfo.InvariantCulture)).With("text-anchor", "middle"));
        foreach (var (gap, look) in own.Select(g => (g, "rate")).Concat(others.Select(g => (g, "other")))
            .Where(g => g.Item1.Year is not null))
            svg.Add(new Shape("a").With("href", $"/passages/{gap.Passage}/timing")
                .Add(new Shape("circle").With("class", look).With("cx", X(gap.Year!.Value))
                .With("cy", Y(gap.Mean)).With("r", 5).Add(new Shape("title").Saying(string.Create(CultureInfo.InvariantCulture,
                    $"{gap.Year} {gap.Name}: {Math.Abs(gap.Mean):0.0} ms {(gap.Mean < 0 ? "ahead" : "behind")}, {gap.Strokes} strokes")))));
        return svg;
    }

    private static Shape Picture(double height, string label) => new Shape("svg").With("class", "timing").With("viewBox",
        FormattableString.Invariant($"0 0 {Width:0} {height:0}")).With("width", Width).With("height", height).With("role", "img")
            .With("aria-label", label);
}
