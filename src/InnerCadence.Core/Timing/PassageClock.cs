using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>What bar lines on the clock of a recording come from.</summary>
public enum LinesBy
{
    /// <summary>A clock time and a tempo.</summary>
    Tempo,

    /// <summary>Bars that are marked.</summary>
    Marks,

    /// <summary>A clock time and the beats that the ear hears.</summary>
    Beats,
}

/// <summary>Where the bar lines of a passage fall on the clock of its recording.</summary>
/// <remarks>sound.md, "A passage on its record".</remarks>
public sealed class PassageClock
{
    /// <summary>A start that is further from the marked bar line than this is told.</summary>
    public static readonly Seconds Doubtful = Seconds.OfMilliseconds(20);

    private PassageClock(IReadOnlyList<Seconds> lines, LinesBy by, Seconds off) => (Lines, By, Off) = (lines, by, off);

    /// <summary>On the clock of the recording: one a bar, and the end of the last.</summary>
    public IReadOnlyList<Seconds> Lines { get; }

    public LinesBy By { get; }

    /// <summary>By how much the start that was typed is later than the marked bar line; zero where only one of them is known.</summary>
    public Seconds Off { get; }

    public bool IsDoubtful => IsOver(Off);

    /// <summary>In whole milliseconds, as clock times are typed.</summary>
    private static bool IsOver(Seconds off) => Math.Round(Math.Abs(off.Milliseconds)) > Doubtful.Milliseconds;

    public Seconds Start => Lines[0];
    public Seconds End => Lines[^1];

    /// <summary>Quarters a minute over all bars, which last so long as they are written.</summary>
    public double TempoOver(Tick length) => 60.0 * length.Value / Tick.PerQuarter / (End - Start);

    /// <summary>
    /// Bars that are marked lie where they are marked; a start that was typed and differs doubtfully moves all of them, since it was heard
    /// at this place. Where no bar is known the start and the tempo say it.
    /// </summary>
    /// <param name="bar">Of the recording, from 1.</param>
    /// <param name="otherwise">Tempo of a passage that names none.</param>
    /// <returns>Nothing where the passage has no bar yet, or neither a start nor a marked bar is known.</returns>
    public static PassageClock? Of(TempoMap? map, Passage passage, int? bar, ClockTime? start, Bpm? otherwise)
    {
        if (passage.Bars == 0) return null;
        Seconds? typed = start is { } at ? Seconds.OfMilliseconds(at.Milliseconds) : null;
        if (map is not null && bar is { } first)
        {
            Seconds[] marked = [.. Enumerable.Range(first, passage.Bars + 1).Select(b => map.SecondsOf(new(b, Tick.Zero)))];
            var off = typed is { } t ? t - marked[0] : Seconds.Zero;
            return new(IsOver(off) ? [.. marked.Select(line => line + off)] : marked, LinesBy.Marks, off);
        }
        if (typed is not { } begins) return null;
        var tempos = passage.Tempos is { Count: > 0 } said ? said
            : map is not null && Bpm.Of(map.TempoAt(map.PlaceOf(start!.Value).Bar)) is { } there ? [new(Tick.Zero, there)]
            : otherwise is { } usual ? [new TempoChange(Tick.Zero, usual)] : null;
        return tempos is null ? null : new([.. Enumerable.Range(0, passage.Bars + 1)
            .Select(b => begins + TempoChange.SecondsTo(passage.Meters.StartOf(b), tempos))], LinesBy.Tempo, Seconds.Zero);
    }

    /// <summary>The same start, with bars that go as is told.</summary>
    /// <param name="lines">As many as these.</param>
    public PassageClock Along(IReadOnlyList<Seconds> lines, LinesBy by) =>
        lines.Count == Lines.Count && lines.Zip(lines.Skip(1)).All(two => two.First < two.Second) ? new(lines, by, Off)
            : throw new ArgumentException($"{Lines.Count} bar lines go forward, not these {lines.Count}.");
}
