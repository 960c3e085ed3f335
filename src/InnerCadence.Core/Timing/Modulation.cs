using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>A note value of the old tempo takes over as one of the new.</summary>
/// <param name="OldBeat">What the old tempo counts; a quarter if not said.</param>
/// <param name="NewBeat">What the new tempo counts.</param>
public sealed record Modulation(NoteValue OldValue, NoteValue NewValue, NoteValue OldBeat, NoteValue NewBeat)
{
    /// <summary>Beats a minute after it.</summary>
    /// <remarks>time.md: old BPM x (new value / new beat) / (old value / old beat). At 80 the quarter of a triplet becomes the quarter: 80
    /// x (1/4) / (1/6) = 120.</remarks>
    public double Of(double bpm)
    {
        var ratio = NewValue / NewBeat / (OldValue / OldBeat);
        return bpm * ratio.Upper / ratio.Lower;
    }

    /// <summary>One modulation after another: the tempo after each.</summary>
    public static IReadOnlyList<double> Chain(double bpm, IEnumerable<Modulation> modulations)
    {
        var tempos = new List<double>();
        foreach (var modulation in modulations) tempos.Add(bpm = modulation.Of(bpm));
        return tempos;
    }

    /// <summary>After how many bars of each, played one over the other from one bar line on, two bar lines meet again.</summary>
    /// <param name="oldBar">Length of an old bar, 3/4 for three quarters.</param>
    public (long OldBars, long NewBars) BarLinesMeet(NoteValue oldBar, NoteValue newBar)
    {
        // A new bar in old whole notes: what lasted as long as the new value was written as the old value.
        var inOld = newBar * OldValue / NewValue;
        var ratio = inOld / oldBar;
        return (ratio.Upper, ratio.Lower);
    }
}
