namespace InnerCadence.Core.Music;

/// <summary>A tempo from a place on, until the next.</summary>
public readonly record struct TempoChange(Tick At, Bpm Tempo)
{
    /// <summary>The way back: where in the music a second falls, in quarters.</summary>
    public static double QuartersAt(Seconds seconds, IReadOnlyList<TempoChange> tempos)
    {
        for (var i = 0; ; i++)
        {
            var length = i + 1 < tempos.Count ? tempos[i].Tempo.SecondsOf(tempos[i + 1].At - tempos[i].At) : new(double.PositiveInfinity);
            if (seconds < length) return (double)tempos[i].At.Value / Tick.PerQuarter + seconds / tempos[i].Tempo.SecondsPerQuarter;
            seconds -= length;
        }
    }

    /// <summary>Seconds from the start to a place, in a music whose tempo changes on its way.</summary>
    /// <param name="tempos">In order of time, the first at zero; a place before it goes on at its tempo.</param>
    public static Seconds SecondsTo(Tick at, IReadOnlyList<TempoChange> tempos)
    {
        var seconds = Seconds.Zero;
        for (var i = 0; i < tempos.Count; i++)
        {
            var end = i + 1 < tempos.Count && tempos[i + 1].At < at ? tempos[i + 1].At : at;
            seconds += tempos[i].Tempo.SecondsOf(end - tempos[i].At);
            if (end == at) break;
        }
        return seconds;
    }
}
