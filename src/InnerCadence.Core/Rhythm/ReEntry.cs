using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>A count on which a player who lost a figure can rejoin it.</summary>
/// <param name="Bar">From 0.</param>
/// <param name="OnBeatOrAnd">It falls on a beat or its and.</param>
public sealed record Rejoin(int Bar, Tick InBar, string Count, bool OnBeatOrAnd);

/// <summary>Where a long or crooked figure can be taken up again (rhythm.md, "Re-entry").</summary>
/// <param name="Places">Starts of its groups.</param>
/// <param name="Waits">From each beat 1 of the cycle to the next safe place, in ticks; the next place of any kind where none is on a beat
/// or an and.</param>
public sealed record ReEntry(ValueList<Rejoin> Places, ValueList<Tick> Waits)
{
    /// <summary>Nothing for a figure of one bar that starts on the beat.</summary>
    public static ReEntry? Of(Passage passage, Grouping grouping)
    {
        var places = grouping.Starts.Select(at =>
        {
            var (bar, inBar) = passage.Meters.Locate(at);
            var meter = passage.Meters.MeterOf(bar);
            return new Rejoin(bar, inBar, CountNames.Spoken(inBar, meter), inBar.Value * 2 % meter.Beat.Value == 0);
        }).ToList();
        var startsOnBeat = places[0].InBar.Value % passage.Meters.MeterOf(places[0].Bar).Beat.Value == 0;
        if (grouping.Bars == 1 && startsOnBeat) return null;
        var length = passage.Meters.StartOf(grouping.Bars);
        var safe = places.Any(p => p.OnBeatOrAnd) ? places.Where(p => p.OnBeatOrAnd) : places;
        var at = safe.Select(p => passage.Meters.StartOf(p.Bar) + p.InBar).ToList();
        return new(places, [.. Enumerable.Range(0, grouping.Bars).Select(bar =>
        {
            var one = passage.Meters.StartOf(bar);
            return at.Select(a => a >= one ? a - one : a + length - one).Min();
        })]);
    }
}
