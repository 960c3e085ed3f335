using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <summary>One sighting with a bar of context on either side, aligned with all others on the idea's first stroke.</summary>
public sealed class ConcordanceStrip(double height, Tick before, Tick span, Tick after)
{
    public const double Width = 366;

    private double PerTick => (Width - 8) / (before + span + after).Value;

    private double X(Tick fromStart) => 4 + (fromStart + before).Value * PerTick;

    /// <summary>The beats counted from the idea's first stroke, as the head of the column.</summary>
    public Shape Head()
    {
        var svg = Frame(18, "Beats from the idea’s first stroke");
        for (var beat = -(before.Value / Tick.PerQuarter); beat * Tick.PerQuarter < (span + after).Value; beat++)
        {
            var at = new Tick(beat * Tick.PerQuarter);
            svg.Add(Shape.Text($"count{(at >= Tick.Zero && at < span ? " sounds" : "")}{(beat == 0 ? " beat" : "")}", X(at), 13,
                beat < 0 ? $"−{-beat}" : $"{beat + 1}"));
        }
        return svg;
    }

    /// <param name="start">Where the idea's first stroke falls in the passage.</param>
    /// <param name="scope">The voices of the idea; all others are context.</param>
    /// <param name="edits">Strokes of the passage at which something differs.</param>
    public Shape Draw(Passage passage, Tick start, Tick length, IReadOnlySet<Voice> scope,
        IReadOnlyCollection<(Tick At, Voice Voice)> edits, string label)
    {
        var svg = Frame(height, label);
        svg.Add(Shape.Rect("window", X(Tick.Zero) - 5, 0, length.Value * PerTick, height));
        svg.Add(Shape.Line("strand", 0, height * 0.52, Width, height * 0.52));
        var repetitions = passage.Looped && passage.Length > Tick.Zero
            ? (from: -1 - before.Value / passage.Length.Value, to: 1 + (length + after).Value / passage.Length.Value) : (from: 0, to: 0);
        for (var round = repetitions.from; round <= repetitions.to; round++)
        {
            foreach (var stroke in passage.Strokes)
            {
                var fromStart = stroke.At + passage.Length * round - start;
                if (fromStart < Tick.Zero - before || fromStart >= length + after) continue;
                var inside = fromStart >= Tick.Zero && fromStart < length && scope.Contains(stroke.Voice);
                var look = !inside ? "context" : edits.Contains((stroke.At, stroke.Voice)) ? "differs" : "";
                var (bar, inBar) = passage.Meters.Locate(stroke.At);
                svg.Add(Bead.Of(stroke, X(fromStart), Y(stroke.Voice),
                    Bead.Title(stroke, CountNames.Spoken(inBar, passage.Meters.MeterOf(bar))), 0.72, look));
            }
        }
        return svg;
    }

    private static Shape Frame(double height, string label) =>
        new Shape("svg").With("class", "strip").With("viewBox", FormattableString.Invariant($"0 0 {Width} {height}")).With("width", Width)
            .With("height", height)
            .With("role", "img").With("aria-label", label);

    /// <summary>Cymbals and hats above, drums by pitch, feet below.</summary>
    private double Y(Voice voice) => height * (voice.Family switch
    {
        Family.Crash => 0.2,
        Family.Ride or Family.Bell => 0.24,
        Family.Hat when !voice.IsFoot => 0.26,
        Family.Tom when voice == Voice.Tom1 => 0.42,
        Family.Tom when voice == Voice.Tom2 || voice == Voice.Tom3 || voice == Voice.AnyTom => 0.5,
        Family.Snare => 0.58,
        Family.Tom => 0.67,
        Family.Kick => 0.8,
        Family.Hat => 0.92,
        _ => 0.06,
    });
}
