using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>The order in which the sightings of an idea are judged.</summary>
internal static class Judging
{
    /// <summary>The sighting to judge next, the one from which most is learned; nothing where none waits but those that are
    /// skipped.</summary>
    public static SightingId? Next(IReadOnlyList<PlaceOfIdea> all, IReadOnlyCollection<SightingId> skipped)
    {
        var order = JudgingOrder.Of([.. all.Select(s => new ToJudge(
            s.Id.Value, s.Verdict, s.Cost, s.Difference, s.Recording.Id.Value, !s.IsWaiting || skipped.Contains(s.Id)))], 1);
        return order.Count > 0 ? new(order[0]) : null;
    }
}
