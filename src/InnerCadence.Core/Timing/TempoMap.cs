using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>A bar line at a clock time, as tapped or typed.</summary>
public readonly record struct BarMark(int Bar, ClockTime At);

/// <summary>A mark whose neighbours say otherwise, or a stretch that is whole beats too long or short.</summary>
/// <param name="Beats">Beats of the meter by which the stretch up to the mark is longer on the clock than its bars; none where only the
/// mark is off.</param>
public sealed record MarkDoubt(BarMark Mark, double Milliseconds, int Beats);

/// <summary>Bars to clock times and back: exact at the marks, linear between, the nearest tempo beyond.</summary>
/// <remarks>time.md, "Bar marks". Tempos are quarters a minute.</remarks>
public sealed class TempoMap
{
    private readonly BarGrid grid;
    private readonly Knot[] knots;

    private TempoMap(BarGrid grid, Knot[] knots, IReadOnlyList<BarMark> marks) => (this.grid, this.knots, Marks) = (grid, knots, marks);

    public IReadOnlyList<BarMark> Marks { get; }

    /// <summary>Nothing without a mark, or with a single one and no tempo.</summary>
    /// <param name="marks">In any order; of marks that do not go forward in bars and time together the later bars are left out.</param>
    public static TempoMap? Of(BarGrid grid, IEnumerable<BarMark> marks, Bpm? tempo)
    {
        var used = new List<BarMark>();
        foreach (var mark in marks.OrderBy(m => m.Bar))
        {
            if (used.Count == 0 || (mark.Bar > used[^1].Bar && mark.At.Milliseconds > used[^1].At.Milliseconds)) used.Add(mark);
        }
        if (used.Count == 0 || (used.Count == 1 && tempo is null)) return null;
        // Clock without the pauses, so that between knots only the tempo counts.
        var knots = used.Select(m => new Knot(grid.StartOf(m.Bar), m.At.Milliseconds / 1000.0 - grid.PausesBefore(m.Bar), 0)).ToArray();
        for (var i = 0; i < knots.Length; i++)
        {
            var (from, to) = i + 1 < knots.Length ? (knots[i], knots[i + 1]) : (knots[Math.Max(0, i - 1)], knots[i]);
            knots[i] = knots[i] with
            {
                SecondsAQuarter = knots.Length == 1 ? 60 / tempo!.Value.Value
                : Math.Max(1e-6, (to.Seconds - from.Seconds) / (to.Quarters - from.Quarters))
            };
        }
        return new(grid, knots, used);
    }

    /// <summary>On the clock of the recording; negative before its start.</summary>
    public Seconds SecondsOf(BarPlace place) => new(Sounding(grid.QuartersTo(place)) + grid.PausesBefore(place.Bar));

    /// <summary>Nothing where the place lies before the recording starts.</summary>
    public ClockTime? ClockOf(BarPlace place) => Math.Round(SecondsOf(place) * 1000) is >= 0 and < 86_400_000 and var ms
        ? new ClockTime((int)ms) : null;

    public ClockTime? ClockOf(int bar) => ClockOf(new BarPlace(bar, Tick.Zero));

    /// <summary>The bar that sounds at a clock time and how far in it is; in a pause the start of the bar after it. Within a millisecond of
    /// a bar line it is the bar that starts there.</summary>
    public BarPlace PlaceOf(ClockTime at)
    {
        var seconds = at.Milliseconds / 1000.0;
        // Bars start in order: look for the last that starts not after the time.
        var (low, high) = (-1, 1);
        while (low > -Farthest && SecondsOf(new(low, Tick.Zero)) > seconds + Tolerance) low *= 2;
        while (high < Farthest && SecondsOf(new(high, Tick.Zero)) <= seconds + Tolerance) high *= 2;
        while (high - low > 1)
        {
            var middle = low + (high - low) / 2;
            if (SecondsOf(new(middle, Tick.Zero)) <= seconds + Tolerance) low = middle;
            else high = middle;
        }
        var quarters = Math.Max(0, Quarters(seconds - grid.PausesBefore(low)) - grid.StartOf(low));
        return quarters < (double)grid.MeterOf(low).Length.Value / Tick.PerQuarter ? new(low, quarters) : new(low + 1, Tick.Zero);
    }

    /// <summary>Which bars a span on the clock takes in: those that begin in it, and one that has begun by half.</summary>
    public (int From, int Bars)? BarsOf(ClockTime from, ClockTime to)
    {
        var (first, last) = (Nearest(from), Nearest(to) - 1);
        return last >= first && last >= 1 ? (Math.Max(1, first), last - Math.Max(1, first) + 1) : null;
    }

    /// <summary>How many bars there are up to the end of the recording, where marks reach into its last quarter: from fewer nobody
    /// knows.</summary>
    public int? BarsUpTo(ClockTime end) => end.Milliseconds > 0 && Marks[^1].At.Milliseconds * 4L >= end.Milliseconds * 3L
        && BarsOf(default, end) is { } bars ? bars.From + bars.Bars - 1 : null;

    private int Nearest(ClockTime at)
    {
        var place = PlaceOf(at);
        return place.InBar * 2 * Tick.PerQuarter > grid.MeterOf(place.Bar).Length.Value ? place.Bar + 1 : place.Bar;
    }

    /// <summary>Quarters a minute at a bar.</summary>
    public double TempoAt(int bar) => 60 / knots[KnotAt(grid.StartOf(bar))].SecondsAQuarter;

    /// <summary>Quarters a minute over everything that is marked, pauses left out; nothing with one mark only.</summary>
    public double? MeanTempo => knots.Length < 2 ? null
        : 60 * (knots[^1].Quarters - knots[0].Quarters) / (knots[^1].Seconds - knots[0].Seconds);

    /// <summary>The bar line that is meant by a clock time which somebody wrote down roughly; nothing where none is so near.</summary>
    /// <param name="seconds">How far away it may be.</param>
    public BarMark? BarLineNear(ClockTime at, Seconds seconds)
    {
        var bar = PlaceOf(at).Bar;
        return new[] { bar, bar + 1 }.Select(b => ClockOf(b) is { } clock ? new BarMark(b, clock) : (BarMark?)null)
            .Where(m => m is { } mark && Math.Abs(mark.At.Milliseconds - at.Milliseconds) <= seconds * 1000)
            .OrderBy(m => Math.Abs(m!.Value.At.Milliseconds - at.Milliseconds)).FirstOrDefault();
    }

    /// <summary>The tempo of each stretch between two marks.</summary>
    public IReadOnlyList<(BarMark From, BarMark To, double Bpm)> Tempos =>
        [.. Marks.Zip(Marks.Skip(1)).Select((pair, i) => (pair.First, pair.Second, 60 / knots[i].SecondsAQuarter))];

    /// <summary>Stretches that would go slower or faster than any tempo that can be written: most often a bar or a clock time that was
    /// mistyped.</summary>
    public IEnumerable<(BarMark From, BarMark To, double Bpm)> Impossible => Tempos.Where(t => Music.Bpm.Of(t.Bpm) is null);

    /// <summary>Marks over 30 ms from where their neighbours put them, and stretches whole beats off: a miscounted bar.</summary>
    public IReadOnlyList<MarkDoubt> Doubts
    {
        get
        {
            var doubts = new List<MarkDoubt>();
            for (var i = 1; i < knots.Length; i++)
            {
                if (BeatsTooLong(i - 1) is var beats and not 0) doubts.Add(new(Marks[i], 0, beats));
                // A slip makes its neighbours look late or early by half as much: the largest of them is the slip.
                else if (Math.Abs(Slip(i)) > 30.5 && Math.Abs(Slip(i)) > Math.Max(Math.Abs(Slip(i - 1)), Math.Abs(Slip(i + 1))))
                    doubts.Add(new(Marks[i], Slip(i), 0));
            }
            return doubts;
        }
    }

    /// <summary>What of a mark's residual is its own: a tempo that drifts bends every stretch alike, and is no slip.</summary>
    private double Slip(int mark)
    {
        var round = Enumerable.Range(mark - 3, 7).Where(i => i != mark && i > 0 && i + 1 < knots.Length).Select(Residual).ToArray();
        var residual = Residual(mark);
        return residual == 0 || round.Length < 2 ? residual : residual - TappedTempo.Median(round);
    }

    /// <summary>Milliseconds by which a mark is later than the straight line between its neighbours; 0 at the ends and beside a miscounted
    /// stretch.</summary>
    private double Residual(int mark)
    {
        if (mark < 1 || mark + 1 >= knots.Length || BeatsTooLong(mark - 1) != 0 || BeatsTooLong(mark) != 0) return 0;
        var (before, here, after) = (knots[mark - 1], knots[mark], knots[mark + 1]);
        return 1000 * (here.Seconds - before.Seconds - (after.Seconds - before.Seconds) * (here.Quarters - before.Quarters) / (
            after.Quarters - before.Quarters));
    }

    /// <summary>By how many whole beats a stretch is longer on the clock than its bars at the tempo of the stretches round it; 0 where that
    /// is no whole number.</summary>
    private int BeatsTooLong(int stretch)
    {
        var round = Enumerable.Range(Math.Max(0, stretch - 3), 7).Where(i => i != stretch && i < knots.Length - 1)
            .Select(i => (At: i, knots[i].SecondsAQuarter)).ToArray();
        if (round.Length < 2) return 0;
        // A tempo that drifts goes on drifting here: the trend of the stretches round it, by medians, so that another miscounted one bends
        // nothing.
        var slope = round.Length < 3 ? 0 : TappedTempo.Median([.. round.SelectMany((a, i) => round.Skip(i + 1)
            .Select(b => (b.SecondsAQuarter - a.SecondsAQuarter) / (b.At - a.At)))]);
        var usual = TappedTempo.Median([.. round.Select(r => r.SecondsAQuarter + slope * (stretch - r.At))]);
        var (quarters, seconds) = (knots[stretch + 1].Quarters - knots[stretch].Quarters,
            knots[stretch + 1].Seconds - knots[stretch].Seconds);
        var beat = (double)grid.MeterOf(Marks[stretch].Bar).Beat.Value / Tick.PerQuarter;
        var off = (seconds / usual - quarters) / beat;
        var whole = (int)Math.Round(off);
        return Math.Abs(off - whole) < 0.3 && Math.Abs(off) > 0.02 * quarters / beat ? whole : 0;
    }

    private const double Tolerance = 0.001;

    /// <summary>Wild marks may put a clock time further out; no recording has so many bars.</summary>
    private const int Farthest = 1 << 22;

    private double Sounding(double quarters)
    {
        var knot = knots[KnotAt(quarters)];
        return knot.Seconds + (quarters - knot.Quarters) * knot.SecondsAQuarter;
    }

    private double Quarters(double sounding)
    {
        var knot = knots[Math.Max(0, Array.FindLastIndex(knots, k => k.Seconds <= sounding))];
        return knot.Quarters + (sounding - knot.Seconds) / knot.SecondsAQuarter;
    }

    private int KnotAt(double quarters)
    {
        var (low, high) = (0, knots.Length - 1);
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            if (knots[middle].Quarters <= quarters) low = middle;
            else high = middle - 1;
        }
        return low;
    }

    /// <param name="Seconds">Without the pauses before it.</param>
    private readonly record struct Knot(double Quarters, double Seconds, double SecondsAQuarter);
}
