using System.Collections.Immutable;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>What one recording says about an idea.</summary>
/// <param name="TotalBars">Nothing where it is not known.</param>
/// <param name="Exposure">Bars searched for this idea.</param>
/// <param name="Confirmed">Sightings that the researcher confirmed.</param>
/// <param name="Occasions">Confirmed sightings, adjacent ones counted once.</param>
/// <param name="Outside">Confirmed sightings that lie outside what was searched: shown, and not in rates.</param>
public sealed record RecordingEvidence(int? TotalBars, int Exposure, int Confirmed, int Occasions, int NearMisses, int Waiting, int Outside)
{
    /// <summary>Enough of the recording was searched for its silence to mean something.</summary>
    public bool IsSearched(double share) => TotalBars is { } total && total > 0 && Exposure >= total * share;
}

/// <summary>How often an idea appears: in how many recordings, and how often per 100 bars, both with 95 % intervals.</summary>
public sealed record Answer(int Found, int Searched, Interval? Presence, int Events, int Occasions, int Bars, Interval? Rate, Interval? OccasionRate)
{
    /// <summary>Share of a recording that must have been searched for it to count, unless the researcher sets another.</summary>
    public const double UsualShare = 0.5;

    public bool FewRecordings => Searched < 5;
    public bool FewBars => Bars < 50;

    public static Answer Of(IEnumerable<RecordingEvidence> recordings, double share = UsualShare)
    {
        var all = recordings.ToList();
        var searched = all.Where(r => r.IsSearched(share)).ToList();
        var found = searched.Count(r => r.Confirmed - r.Outside > 0);
        var bars = all.Sum(r => r.Exposure);
        var events = all.Where(r => r.Exposure > 0).Sum(r => r.Confirmed - r.Outside);
        var occasions = all.Where(r => r.Exposure > 0).Sum(r => r.Occasions);
        return new(found, searched.Count, Estimates.Presence(found, searched.Count), events, occasions, bars, Estimates.Rate(events, bars), Estimates.Rate(occasions, bars));
    }
}

/// <summary>Adjacent sightings of one idea in one stretch are one decision of the player's.</summary>
public static class Occasions
{
    /// <summary>Counts spans of one reading, joined where the next starts within one bar of the last one's end.</summary>
    public static int Count(IEnumerable<(Tick Start, Tick End)> sightings, Tick bar)
    {
        var (count, end) = (0, new Tick(int.MinValue / 2));
        foreach (var sighting in sightings.OrderBy(s => s.Start))
        {
            if (sighting.Start > end + bar) count++;
            if (sighting.End > end) end = sighting.End;
        }
        return count;
    }
}
