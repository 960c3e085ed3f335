using InnerCadence.Core.Counting;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <summary>An idea's model above, a place of it below, their first strokes in one line, threads between what stands for what; only what
/// differs is marked.</summary>
/// <param name="start">Where the idea's first stroke falls in the passage.</param>
/// <param name="firstBar">Number of the passage's first bar in the recording.</param>
internal sealed class LaidPicture(LaidUnder laid, Passage exemplar, Passage passage, Tick start, Factor factor, int firstBar)
{
    private const double Width = 900, Left = 84, Counts = 30, Gap = 30, Foot = 8, LabelRoom = 13;
    private const int LongInBeats = 8;

    private readonly IReadOnlyList<Voice> ownVoices = [.. laid.Pairs.Select(p => p.Own.Voice).Distinct().Order()];
    private readonly IReadOnlyList<Voice> hereVoices = [.. passage.Voices.Union(laid.Pairs.Where(p => p.There is null)
        .Select(p => p.Own.Voice)).Order()];

    private Tick Pad => new(Tick.PerQuarter * (laid.Span.Value > Tick.PerQuarter * LongInBeats ? 1 : 2));
    private Tick From => start - Pad;
    private Tick To => start + laid.Span + Pad;
    private double PerTick => (Width - Left - 12) / (To - From).Value;

    /// <summary>The model, as it would be played in the passage.</summary>
    public Shape Model()
    {
        var svg = Frame(ownVoices, "The model", exemplar.Length, OfModel);
        var bottom = HeightOf(ownVoices);
        Window(svg, bottom);
        Strands(svg, ownVoices);
        var (from, to) = (laid.First - Unscaled(Pad), laid.First + Unscaled(laid.Span + Pad));
        CountsOf(svg, exemplar, from, to, OfModel);
        foreach (var pair in laid.Pairs.Where(p => p.There is not null))
            svg.Add(Shape.Line("thread", OfModel(pair.Own.At), Y(ownVoices, pair.Own.Voice), OfModel(pair.Own.At), bottom));
        foreach (var pair in laid.Pairs)
            svg.Add(BeadAt(exemplar, pair.Own, OfModel(pair.Own.At), Y(ownVoices, pair.Own.Voice), pair.Differs ? "differs" : ""));
        return svg;
    }

    public Shape Here()
    {
        var svg = Frame(hereVoices, "Here", passage.Length, X);
        Window(svg, HeightOf(hereVoices));
        Strands(svg, hereVoices);
        CountsOf(svg, passage, From, To, X);
        foreach (var bar in Enumerable.Range(0, passage.Bars).Where(b => Seen(passage.Meters.StartOf(b))))
            svg.Add(Shape.Line("bar-line", X(passage.Meters.StartOf(bar)) - 10, Counts - 4, X(passage.Meters.StartOf(bar)) - 10,
                HeightOf(hereVoices) - Foot));
        foreach (var pair in laid.Pairs)
        {
            if (pair.There is { } there)
                svg.Add(new Shape("path").With("class", "thread").With("d", FormattableString.Invariant(
                    $"M{OfModel(pair.Own.At):0.#} 0V{Counts - 6:0.#}L{Within(there.At):0.#} {Y(hereVoices, there.Voice):0.#}")));
            else if (!pair.Own.Optional)
                svg.Add(new Shape("circle").With("class", "expected").With("cx", Within(pair.Expected))
                    .With("cy", Y(hereVoices, pair.Own.Voice)).With("r", 7)
                        .Add(new Shape("title").Saying($"no {pair.Own.Voice.Name} here")));
        }
        var standing = laid.Pairs.Where(p => p.There is not null).ToDictionary(p => p.There!, p => p.Differs);
        for (var round = passage.Looped ? -1 : 0; round <= (passage.Looped ? 1 : 0); round++)
        {
            foreach (var stroke in passage.Strokes.Where(s => Seen(s.At + passage.Length * round)))
            {
                var look = standing.TryGetValue(stroke, out var differs) ? differs ? "differs" : ""
                    : laid.TooMany.Contains(stroke) ? "differs" : "context";
                svg.Add(BeadAt(passage, stroke, X(stroke.At + passage.Length * round), Y(hereVoices, stroke.Voice), look));
            }
        }
        return svg;
    }

    private double X(Tick at) => Left + 10 + (at - From).Value * PerTick;

    /// <summary>Of a place of a loop that comes round within the window.</summary>
    private double Within(Tick at) => X(at < start && passage.Looped ? at + passage.Length : at);

    private double OfModel(Tick at) => Left + 10 + (Pad.Value + (at - laid.First).Value * (double)factor.Over / factor.Under) * PerTick;

    private Tick Unscaled(Tick there) => new((int)((long)there.Value * factor.Under / factor.Over));

    private bool Seen(Tick at) => at >= From && at < To;

    private static double HeightOf(IReadOnlyList<Voice> voices) => Counts + Gap * voices.Count + Foot;

    private static double Y(IReadOnlyList<Voice> voices, Voice voice) => Counts + Gap * (voices.TakeWhile(v => v != voice).Count() + 0.45);

    private static Shape Frame(IReadOnlyList<Voice> voices, string name, Tick length, Func<Tick, double> x)
    {
        var height = HeightOf(voices);
        return new Shape("svg").With("class", "strands laid").With("viewBox", FormattableString.Invariant($"0 0 {Width} {height}"))
            .With("width", Width).With("height", height).With("role", "group").With("aria-label", name)
            .With("data-rows",
                FormattableString.Invariant($"[[0,{length},{x(Tick.Zero):0.#},{x(length):0.#},{Counts - 4},{height - Foot}]]"));
    }

    private void Window(Shape svg, double height) =>
        svg.Add(Shape.Rect("window", X(start) - 10, 0, laid.Span.Value * PerTick, height));

    private static void Strands(Shape svg, IReadOnlyList<Voice> voices)
    {
        foreach (var voice in voices)
        {
            svg.Add(Shape.Text("voice", Left - 10, Y(voices, voice) + 4.5, voice.Name));
            svg.Add(Shape.Line("strand", Left, Y(voices, voice), Width - 12, Y(voices, voice)));
        }
    }

    private static void CountsOf(Shape svg, Passage of, Tick from, Tick to, Func<Tick, double> x)
    {
        var last = double.MinValue;
        for (var bar = of.Meters.Locate(from).Bar; of.Meters.StartOf(bar) < to; bar++)
        {
            var start = of.Meters.StartOf(bar);
            foreach (var (inBar, count, onBeat, sounds) in Grid.Of(of, bar))
            {
                if (start + inBar < from || start + inBar >= to || count.Length == 0) continue;
                if (!onBeat && x(start + inBar) - last < LabelRoom) continue;
                last = x(start + inBar);
                svg.Add(Shape.Text($"count{(onBeat ? " beat" : "")}{(sounds ? " sounds" : "")}", last, Counts - 12, count));
            }
        }
    }

    private Shape BeadAt(Passage of, Stroke stroke, double x, double y, string look)
    {
        var (bar, inBar) = of.Meters.Locate(stroke.At);
        var spoken = CountNames.Spoken(inBar, of.Meters.MeterOf(bar));
        var title = Bead.Title(stroke, ReferenceEquals(of, passage) ? $"{spoken}, bar {firstBar + bar}" : spoken);
        return Bead.Of(stroke, x, y, title, 1, look);
    }
}
