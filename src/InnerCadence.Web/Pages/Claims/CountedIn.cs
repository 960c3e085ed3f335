using InnerCadence.Core.Claims;
using InnerCadence.Web.Pages.Ideas;

namespace InnerCadence.Web.Pages.Claims;

/// <summary>The list of exactly what a claim is counted from.</summary>
public static class CountedIn
{
    /// <summary>Nothing for a claim about bars or fills, whose witnesses stand on its own page.</summary>
    public static string? Link(ClaimTest test) => test switch
    {
        PresentIn t => PlaceQuery.Link(new(t.Idea), "counted", PlaceQuery.OfPlayer(new(t.Player)), "in=searched",
            t.Kind is { } kind ? $"recordingKind={kind}" : ""),
        RateAtLeast or MoreThan => PlaceQuery.Link(new(((IdeaClaim)test).Idea), "counted", PlaceQuery.OfPlayer(new(test.Player))),
        // One counter-example is enough against an only or a never, also one that no rate counts.
        IdeaClaim t => PlaceQuery.Link(new(t.Idea), "confirmed", PlaceQuery.OfPlayer(new(t.Player))),
        _ => null,
    };
}
