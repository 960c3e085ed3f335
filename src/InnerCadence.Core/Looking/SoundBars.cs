using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Looking;

/// <summary>The bars of a whole sound on its clock: as they are marked, or as the ear takes them.</summary>
public sealed class SoundBars
{
    private readonly LaidBars laid;
    private readonly MeterCycle meters;

    /// <summary>In turn from the first bar on.</summary>
    public MeterCycle Meters => meters;

    private SoundBars(MeterCycle meters, int bars, IReadOnlyList<Seconds> lines, bool areKnown) =>
        (this.meters, Count, AreKnown, laid) = (meters, bars, areKnown, new(lines, new(meters, bars, [])));

    public int Count { get; }

    /// <summary>They were told; else their numbers mean nothing to anybody.</summary>
    public bool AreKnown { get; }

    public Tick StartOf(int bar) => meters.StartOf(bar);
    public Meter MeterOf(int bar) => meters.MeterOf(bar);
    public Seconds At(Tick tick) => laid.At(tick);

    /// <summary>A time within a bar or just before it, in ticks after its line.</summary>
    public double TickIn(int bar, Seconds at) => laid.TickAt(at) - meters.StartOf(bar).Value;

    public Seconds End => laid.At(meters.StartOf(Count));

    /// <summary>Bar of a time, from 0; below 0 before the first.</summary>
    public int BarOf(Seconds at) => at < laid.Start ? -1 : Math.Min(Count - 1, meters.Locate(new((int)Math.Max(0, laid.TickAt(at)))).Bar);

    /// <summary>As they are marked; where none is, as the ear takes them.</summary>
    /// <returns>Nothing where neither knows any.</returns>
    public static SoundBars? Of(IReadOnlyList<(int Bar, Seconds At)> marks, MeterCycle meters, Bpm? tempo, Seconds lasts, Activations heard,
        Ear ear) => Marked(marks, meters, tempo, lasts) ?? Heard(HeardBeats.Of(heard, HeardStrokes.In(heard, ear), meters, tempo));

    /// <summary>From marks, with the tempo before and after them.</summary>
    /// <param name="marks">Bars from 1 and their seconds, ascending.</param>
    /// <returns>Nothing where no bar of the sound is known.</returns>
    public static SoundBars? Marked(IReadOnlyList<(int Bar, Seconds At)> marks, MeterCycle meters, Bpm? tempo, Seconds lasts)
    {
        if (marks.Count == 0 || (marks.Count == 1 && tempo is null)) return null;
        Seconds Length(int bar) => tempo is { } bpm ? bpm.SecondsOf(meters.MeterOf(bar).Length)
            : (marks[^1].At - marks[^2].At) * ((double)meters.MeterOf(bar).Length.Value
                / (meters.StartOf(marks[^1].Bar - 1) - meters.StartOf(marks[^2].Bar - 1)).Value);
        var lines = new List<Seconds>();
        for (var bar = 0; bar == 0 || lines[^1] < lasts; bar++)
        {
            var after = marks.FirstOrDefault(m => m.Bar - 1 >= bar);
            var before = marks.LastOrDefault(m => m.Bar - 1 <= bar);
            if (before.Bar == 0) return null;
            lines.Add(before.Bar - 1 == bar ? before.At : after.Bar == 0 ? lines[^1] + Length(bar - 1)
                : before.At + (after.At - before.At) * ((double)(meters.StartOf(bar) - meters.StartOf(before.Bar - 1)).Value
                    / (meters.StartOf(after.Bar - 1) - meters.StartOf(before.Bar - 1)).Value));
            if (bar > 100_000) break;
        }
        return lines.Count < 2 ? null : new(meters, lines.Count - 1, lines, true);
    }

    /// <summary>Each beat that the ear takes is a quarter; bars are as long as most of them are.</summary>
    public static SoundBars? Heard(HeardBeats beats)
    {
        if (beats.Beats.Count < 2) return null;
        var starts = beats.Beats.Select((b, i) => (b.Bar, i)).Where(b => b.Bar).Select(b => b.i).ToList();
        var usual = starts.Zip(starts.Skip(1), (a, b) => b - a).GroupBy(n => n).OrderByDescending(g => g.Count()).FirstOrDefault()?.Key
            ?? 4;
        var first = starts.Count > 0 ? starts[0] % usual : 0;
        var lines = Enumerable.Range(0, beats.Beats.Count).Where(i => i >= first && (i - first) % usual == 0)
            .Select(i => beats.Beats[i].At).ToList();
        if (lines.Count < 2 || Meter.Parse($"{usual}/4") is not { } meter) return null;
        return new(new([meter]), lines.Count - 1, lines, false);
    }
}
