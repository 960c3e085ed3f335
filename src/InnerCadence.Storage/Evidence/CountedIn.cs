using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;

namespace InnerCadence.Storage.Evidence;

/// <summary>What of an idea's first numbers would change if one more of its places counted.</summary>
public static class CountedIn
{
    /// <summary>In how many recordings it would be, and since when, beside how it is; nothing where it counts already.</summary>
    /// <param name="all">The places of the idea, by recording date.</param>
    public static IReadOnlyList<string> If(SightingId one, bool bySubject, IReadOnlyList<PlaceOfIdea> all)
    {
        if (all.FirstOrDefault(p => p.Id == one) is not { } place || Counts(place)) return [];
        var now = all.Where(p => Counts(p) && p.Recording.PlayerId == place.Recording.PlayerId).ToList();
        var recordings = now.Select(p => p.Recording.Id).Distinct().ToList();
        var of = bySubject ? "" : $" by {place.Recording.Player}";
        var said = new List<string>
        {
            recordings.Contains(place.Recording.Id)
                ? $"{Many(now.Count + 1, "place")} instead of {now.Count}{of}; its recording is counted already"
                : $"in {Many(recordings.Count + 1, "recording")} instead of {recordings.Count}{of}",
        };
        var first = now.Where(p => p.Recording.RecordedFrom is not null).Min(p => p.Recording.RecordedFrom);
        if (place.Recording.RecordedFrom is { } day)
            said.Add(first is not { } was ? $"first in {day.Year}"
                : day.Year < was.Year ? $"first in {day.Year} instead of {was.Year}" : $"first in {was.Year} as now");
        return said;
    }

    private static bool Counts(PlaceOfIdea place) => place.Judged == Judged.Confirmed && !place.Vanished;

    private static string Many(int n, string what) => $"{n} {what}{(n == 1 ? "" : "s")}";
}
