using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <summary>An idea found in a passage, as a bracket under the strands.</summary>
public sealed record Bracket(Tick From, Tick To, string Name, bool Near, string? Link);

/// <summary>How a passage's strands are to be drawn.</summary>
public sealed record StrandsStyle
{
    public double Width { get; init; } = 856;
    /// <summary>Space between strands.</summary>
    public double Gap { get; init; } = 37;
    /// <summary>Most sixteenths in a row, so that counts stay readable.</summary>
    public int RowSixteenths { get; init; } = 36;
    /// <summary>Number of the first bar in the recording.</summary>
    public int FirstBar { get; init; } = 1;
    /// <summary>Columns and strokes that can be picked: to cut an idea out, to change a stroke. What is empty has the strands to begin
    /// on.</summary>
    public bool Pickable { get; init; }
    /// <summary>In how many parts beats, both from 0, are shown where the writer said so.</summary>
    public IReadOnlyDictionary<(int Bar, int Beat), int> Divided { get; init; } = new Dictionary<(int, int), int>();
    /// <summary>Room for a finger on every count and strand.</summary>
    public bool Touch { get; init; }
    /// <summary>Voices that get a strand though they are silent.</summary>
    public IReadOnlyList<Voice> Also { get; init; } = [];
    /// <summary>Strokes that another reading has here and this one lacks: drawn as crosses.</summary>
    public IReadOnlyList<Stroke> Missing { get; init; } = [];
    /// <summary>Strokes that are drawn as differing.</summary>
    public IReadOnlySet<(Tick At, Voice Voice)> Differing { get; init; } = new HashSet<(Tick, Voice)>();
    /// <summary>Strokes that are drawn elsewhere than they are written, by so many ticks.</summary>
    public IReadOnlyDictionary<(Tick At, Voice Voice), double> Shifted { get; init; } = new Dictionary<(Tick, Voice), double>();
    public IReadOnlyList<Bracket> Brackets { get; init; } = [];
    /// <summary>Room above the counts of each row for the sound itself.</summary>
    public bool Sound { get; init; }
    /// <summary>For lists: thin strands, beats counted only, no hands and no numbers of bars.</summary>
    public bool Small { get; init; }
}

/// <summary>Our main picture: one strand a sounding voice, time in proportion, counts above as they are spoken.</summary>
public sealed class Strands
{
    private const double Left = 76, Counts = 42, SmallCounts = 25, Wave = 44, TailStop = 5, SmallGap = 11, SmallBead = 0.62;
    /// <summary>Height of what is pressed above the counts.</summary>
    private const double Press = 15, TouchPress = 44, TouchGap = 46;
    private const int TouchSixteenths = 16;
    private static readonly IReadOnlyList<Voice> ToBeginOn = [Voice.Hat, Voice.Snare, Voice.Kick];
    private readonly Passage passage;
    private readonly StrandsStyle style;
    private readonly IReadOnlyList<Voice> voices;
    private readonly bool anyHands;
    private readonly double gap, top, press;
    private readonly ILookup<int, Stroke> strokes;

    private Strands(Passage passage, StrandsStyle style)
    {
        if (style.Pickable && passage.Bars == 0)
            (passage, style) = (passage with { Bars = 1 }, style with { Also = [.. style.Also.Union(ToBeginOn)] });
        if (style.Touch) style = style with { Gap = TouchGap, RowSixteenths = TouchSixteenths };
        (this.passage, this.style) = (passage, style);
        press = style.Touch ? TouchPress : Press;
        voices = [.. passage.Voices.Concat(passage.Unheard.Select(u => u.Voice)).Concat(style.Also).Distinct().Order()];
        top = style.Small ? SmallCounts : Counts + (style.Sound ? Wave : 0) + (style.Touch ? TouchPress - Press : 0);
        anyHands = !style.Small && passage.Strokes.Any(s => s.Side is not null);
        gap = style.Small ? SmallGap : style.Touch ? style.Gap
            : voices.Count > 9 ? style.Gap * 0.62 : voices.Count > 6 ? style.Gap * 0.78 : style.Gap;
        strokes = passage.Strokes.ToLookup(s => passage.Meters.Locate(s.At).Bar);
    }

    /// <summary>The whole drawing, an svg element; nothing to draw gives a small empty one.</summary>
    public static Shape Draw(Passage passage, StrandsStyle style) => new Strands(passage, style).Draw();

    private Shape Draw()
    {
        var rows = Rows();
        var longest = rows.Count == 0 ? 1 : rows.Max(r => LengthOf(r).Value);
        var beside = Left + 8 + (style.Pickable ? StrandPresses.Width : 0);
        var width = style.Touch ? Math.Max(style.Width, Math.Ceiling(beside + (double)longest * TouchPress / Finest())) : style.Width;
        var perTick = (width - beside) / longest;
        var svg = new Shape("g");
        var y = 0.0;
        var places = new List<string>();
        foreach (var row in rows)
        {
            var (from, to) = (passage.Meters.StartOf(row.First), passage.Meters.StartOf(row.First + row.Count));
            var bottom = y + top + gap * Math.Max(voices.Count - 0.3, 1);
            places.Add(FormattableString.Invariant(
                $"[{from},{to},{Left + 10:0.#},{Left + 10 + (to - from).Value * perTick:0.#},{y + top - 8:0.#},{bottom:0.#}]"));
            var drawn = new Shape("g").With("class", "bars-row");
            var least = style.Pickable && row == rows[^1] ? StrandPresses.Onward(drawn,
                Left + (to - from).Value * perTick + 12, y + top - 8, bottom, passage.Bars > 1, style.Touch ? TouchPress : 26) : 0;
            y = Math.Max(y + DrawRow(drawn, row, y, perTick), least);
            svg.Add(drawn);
        }
        var height = Math.Max(y, 40);
        return new Shape("svg").With("class", style.Small ? "strands small" : "strands")
            .With("viewBox", FormattableString.Invariant($"0 0 {width} {Math.Ceiling(height)}"))
            .With("width", width).With("height", Math.Ceiling(height)).With("role", "group").With("aria-label", Label())
            .With("data-rows", $"[{string.Join(',', places)}]")
            .With("data-bars", $"[{string.Join(',', Enumerable.Range(0, passage.Bars).Select(bar => passage.Meters.StartOf(bar).Value))}]")
            .With("data-voices", $"[{string.Join(',', voices.Select(Named))}]")
            .With("data-wave", style.Sound ? Wave : 0).Add(svg);
    }

    /// <summary>The shortest step between two counts that can be pressed.</summary>
    private int Finest() => Enumerable.Range(0, passage.Bars).SelectMany(bar =>
    {
        var ends = PlacesOf(bar).Select(p => p.InBar.Value).Append(passage.Meters.MeterOf(bar).Length.Value).ToList();
        return ends.Zip(ends.Skip(1), (from, to) => to - from);
    }).Append(Tick.PerQuarter).Where(step => step >= Tick.PerQuarter / 16).Min();

    private string Label() => passage.Strokes.IsEmpty ? "Strands: nothing sounds yet"
        : $"Strands of {passage.Bars} {(passage.Bars == 1 ? "bar" : "bars")}: {string.Join(", ", voices.Select(v => v.Name))}";

    private List<(int First, int Count)> Rows()
    {
        var rows = new List<(int First, int Count)>();
        var most = Tick.PerQuarter / 4 * style.RowSixteenths;
        for (var bar = 0; bar < passage.Bars; bar++)
        {
            if (rows.Count > 0 && LengthOf((rows[^1].First, rows[^1].Count + 1)).Value <= most) rows[^1] =
                (rows[^1].First, rows[^1].Count + 1);
            else rows.Add((bar, 1));
        }
        return rows;
    }

    private Tick LengthOf((int First, int Count) row) => passage.Meters.StartOf(row.First + row.Count) - passage.Meters.StartOf(row.First);

    private double DrawRow(Shape svg, (int First, int Count) row, double y, double perTick)
    {
        var (start, length) = (passage.Meters.StartOf(row.First), LengthOf(row));
        double X(Tick at) => Left + (at - start).Value * perTick + 10;
        double Y(Voice voice) => y + top + gap * (Index(voice) + 0.35);
        var bottom = y + top + gap * Math.Max(voices.Count - 0.3, 1);

        foreach (var voice in voices)
        {
            var look = style.Pickable && !passage.Voices.Contains(voice) ? " offered" : "";
            svg.Add(Shape.Text("voice" + look, Left - 10, Y(voice) + (style.Small ? 3.5 : 4.5), voice.Name));
            svg.Add(Shape.Line("strand" + look, Left, Y(voice), Left + length.Value * perTick, Y(voice)));
        }
        if (style.Pickable) DrawCells(svg, row, X, y, bottom, perTick);
        for (var bar = row.First; bar < row.First + row.Count; bar++) DrawBar(svg, bar, X, y, bottom, Y);
        svg.Add(Shape.Line("bar-line", Left + length.Value * perTick, y + top - 8, Left + length.Value * perTick, bottom));
        for (var bar = row.First; bar < row.First + row.Count; bar++)
            foreach (var stroke in strokes[bar]) DrawStroke(svg, stroke, bar, X, Y, start + length);

        foreach (var gone in style.Missing.Where(s => s.At >= start && s.At < start + length))
        {
            var (mx, my) = (X(gone.At), Y(gone.Voice));
            svg.Add(new Shape("path").With("class", "missing")
                .With("d", FormattableString.Invariant($"M{mx - 4:0.#} {my - 4:0.#}l8 8m0 -8l-8 8"))
                .Add(new Shape("title").Saying($"no {gone.Voice.Name} here")));
        }

        if (anyHands)
        {
            svg.Add(Shape.Text("hands-name", Left - 10, bottom + 19, "hands"));
            var hands = passage.Strokes.Where(s => s.At >= start && s.At < start + length && s.Side is not null
                && s.Voice.Limbs == LimbClass.Hand).GroupBy(s => s.At);
            foreach (var moment in hands)
            {
                var letter = moment.Select(s => s.Side).Distinct().Count() > 1 ? "B" : moment.First().Side == Side.Right ? "R" : "L";
                svg.Add(Shape.Text("hand", X(moment.Key), bottom + 19, letter));
            }
            bottom += 26;
        }
        return DrawBrackets(svg, start, length, X, bottom + (style.Small ? 0 : 8)) + (style.Small ? 2 : 12) - y;
    }

    private void DrawBar(Shape svg, int bar, Func<Tick, double> x, double y, double bottom, Func<Voice, double> strandY)
    {
        var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
        var counts = PlacesOf(bar);
        var said = Readable(counts, inBar => x(start + inBar));
        foreach (var (inBar, count, onBeat, sounds) in counts)
        {
            if (said.TryGetValue(inBar, out var level))
                svg.Add(Shape.Text($"count{(onBeat ? " beat" : "")}{(sounds ? " sounds" : "")}", x(start + inBar),
                    y + top - 14 - level * 11, count));
            if (onBeat && inBar > Tick.Zero) svg.Add(Shape.Line("beat-line", x(start + inBar) - 10, y + top - 8, x(start + inBar) - 10,
                bottom));
        }
        svg.Add(Shape.Line("bar-line", x(start) - 10, y + top - 8, x(start) - 10, bottom));
        if (!style.Small && (passage.Bars > 1 || style.FirstBar > 1))
            svg.Add(Shape.Text("bar-number", x(start) - 10, y + 10, $"bar {style.FirstBar + bar}"));
        if (style.Pickable)
            StrandPresses.OfBar(svg, passage, bar, style.FirstBar + bar, at => x(at) - 10, (y, press),
                beat => style.Divided.TryGetValue((bar, beat), out var parts) ? parts : Grid.PartsOf(passage, bar, beat));
        foreach (var (_, voice) in passage.Unheard.Where(u => u.Bar == bar))
            svg.Add(Shape.Rect("unheard", x(start) - 8, strandY(voice) - 7, x(start + meter.Length) - x(start) - 4, 14)
                .Add(new Shape("title").Saying($"{voice.Name} not heard in bar {style.FirstBar + bar}")));
    }

    private IReadOnlyList<(Tick InBar, string Count, bool OnBeat, bool Sounds)> PlacesOf(int bar) =>
        Grid.Of(passage, bar, beat => style.Divided.TryGetValue((bar, beat), out var parts) ? parts : null);

    /// <summary>The counts that have room, by the line they stand on, 0 above the strands: beats first, then what sounds, then the others.
    /// What sounds and has no room beside its beat stands a line higher.</summary>
    private Dictionary<Tick, int> Readable(IReadOnlyList<(Tick InBar, string Count, bool OnBeat, bool Sounds)> counts, Func<Tick, double> x)
    {
        const double letter = 7.4, air = 3;
        List<(double From, double To)>[] taken = [[], []];
        var said = new Dictionary<Tick, int>();
        foreach (var (inBar, count, onBeat, sounds) in counts.Where(c => c.Count.Length > 0 && (c.OnBeat || !style.Small))
            .OrderBy(c => c.OnBeat ? 0 : c.Sounds ? 1 : 2))
        {
            var half = (count.Length * letter + air) / 2;
            var (from, to) = (x(inBar) - half, x(inBar) + half);
            var line = Array.FindIndex(taken, l => !l.Any(t => from < t.To && to > t.From));
            if (onBeat) line = 0;
            if (line < 0 || line == 1 && !sounds) continue;
            taken[line].Add((from, to));
            said[inBar] = line;
        }
        return said;
    }

    private void DrawStroke(Shape svg, Stroke stroke, int bar, Func<Tick, double> x, Func<Voice, double> y, Tick rowEnd)
    {
        if (stroke.Openness is Openness.Open or Openness.Loose && stroke.Voice == Voice.Hat)
        {
            var closes = stroke.Length is { } length ? stroke.At + length
                : passage.Strokes.FirstOrDefault(s => s.At > stroke.At && s.Voice.Family == Family.Hat)?.At ?? passage.Length;
            var end = x(closes < rowEnd ? closes : rowEnd) - (closes < rowEnd ? 7 : 10);
            var tail = stroke.Openness == Openness.Loose ? "tail loose" : "tail";
            svg.Add(Shape.Line(tail, x(stroke.At), y(stroke.Voice), end, y(stroke.Voice)));
            svg.Add(Shape.Line("tick", end, y(stroke.Voice) - TailStop, end, y(stroke.Voice) + TailStop));
        }
        else if (stroke.Length is { } length)
        {
            var end = stroke.At + length < rowEnd ? stroke.At + length : rowEnd;
            svg.Add(Shape.Line("tail loose", x(stroke.At), y(stroke.Voice), x(end) - 8, y(stroke.Voice)));
        }
        var place = CountNames.Spoken(stroke.At - passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
        var shifted = style.Shifted.GetValueOrDefault((stroke.At,
            stroke.Voice)) * (x(new(Tick.PerQuarter)) - x(Tick.Zero)) / Tick.PerQuarter;
        if (Math.Abs(shifted) > 0.5) svg.Add(Shape.Line("written", x(stroke.At), y(stroke.Voice) - 9, x(stroke.At), y(stroke.Voice) + 9));
        svg.Add(Bead.Of(stroke, x(stroke.At) + shifted, y(stroke.Voice), Bead.Title(stroke, place),
            style.Small ? SmallBead : 1, style.Differing.Contains((stroke.At, stroke.Voice)) ? "differs" : "")
            .With("data-tick", stroke.At.Value).With("data-voice", stroke.Voice.Code));
    }

    /// <summary>Brackets that would cover one another go on lines of their own.</summary>
    private double DrawBrackets(Shape svg, Tick start, Tick length, Func<Tick, double> x, double y)
    {
        var lanes = new List<double>();
        foreach (var bracket in style.Brackets.Where(b => b.To > start && b.From < start + length).OrderBy(b => b.From))
        {
            var from = x(bracket.From > start ? bracket.From : start) - 6;
            var to = x(bracket.To < start + length ? bracket.To : start + length) - 14;
            var extent = Math.Max(to, from + 7.2 * bracket.Name.Length) + 8;
            var lane = lanes.FindIndex(end => end <= from);
            if (lane < 0)
            {
                lane = lanes.Count;
                lanes.Add(0);
            }
            lanes[lane] = extent;
            var (top, look) = (y + lane * 30, bracket.Near ? " near" : "");
            var group = new Shape(bracket.Link is null ? "g" : "a");
            if (bracket.Link is not null) group.With("href", bracket.Link);
            group.Add(new Shape("path").With("class", "bracket" + look)
                .With("d", FormattableString.Invariant($"M{from:0.#} {top:0.#}v7H{to:0.#}v-7")));
            group.Add(Shape.Text("bracket-name" + look, from + 3, top + 20, bracket.Name));
            svg.Add(group);
        }
        return y + lanes.Count * 30;
    }

    private void DrawCells(Shape svg, (int First, int Count) row, Func<Tick, double> x, double y, double bottom, double perTick)
    {
        var cells = new Shape("g").With("class", "cells");
        for (var bar = row.First; bar < row.First + row.Count; bar++)
        {
            var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
            var places = PlacesOf(bar).Select(p => p.InBar).Where(p => CountNames.Place(p, meter) is not null).ToList();
            for (var i = 0; i < places.Count; i++)
            {
                var (from, to) = (places[i], i + 1 < places.Count ? places[i + 1] : meter.Length);
                cells.Add(Shape.Rect("cell", x(start + from) - 10, y + 14, (to - from).Value * perTick, bottom - y - 14)
                    .With("data-tick", (start + from).Value).With("data-top", y + top - 8).With("data-from", Place(bar, from))
                        .With("data-to", to < meter.Length ? Place(bar, to) : bar + 1 < passage.Bars ? Place(bar + 1, Tick.Zero) : "end"));
            }
        }
        svg.Add(cells);

        string Place(int bar, Tick inBar) => $"{bar + 1}.{CountNames.Place(inBar, passage.Meters.MeterOf(bar))}";
    }

    /// <summary>A voice as the modules read it: its code, its name, where its strand lies, its layer, its band, its family.</summary>
    private string Named(Voice voice) => FormattableString.Invariant(
        $"[\"{voice.Code}\",{System.Text.Json.JsonSerializer.Serialize(voice.Name)},{8 + gap * (Index(voice) + 0.35):0.#},")
        + $"{LayerOf(voice)},\"{BandOf(voice)}\",\"{voice.Family.ToString().ToLowerInvariant()}\"]";

    /// <summary>The order in which a groove is written down and learned: 1 cymbals and hat, 2 the drums of the hands, 3 the feet and the
    /// band. Ghosts come last.</summary>
    internal static int LayerOf(Voice voice) => voice.Family is Family.Snare or Family.Tom ? 2 : voice.IsFoot
        || voice.Family == Family.Ensemble ? 3 : 1;

    /// <summary>The band of a sound in which a voice is strongest.</summary>
    private static string BandOf(Voice voice) => voice.Family switch
    {
        Family.Kick => "low",
        Family.Hat or Family.Ride or Family.Bell or Family.Crash => "high",
        _ => "middle",
    };

    private int Index(Voice voice)
    {
        for (var i = 0; i < voices.Count; i++)
            if (voices[i] == voice) return i;
        return 0;
    }
}
