using InnerCadence.Core.Claims;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>What to listen to next, for the desk, the recordings and the claims.</summary>
public sealed class NextSteps(RecordingStore recordings)
{
    public async Task<IReadOnlyList<Listenable>> ShelfAsync(Study study, CancellationToken stop, IReadOnlyList<Recording>? known = null) =>
        [.. (known ?? await recordings.OfStudyAsync(study.Id, stop))
            .Select(r => new Listenable(r.Id.Value, r.Name, r.PlayerId.Value, r.Kind, r.Release, r.RecordedFrom?.Year, r.FeltTempo,
            r.TotalBars, r.SearchedBars, r.RecordedTo))];

    /// <summary>Only what could settle this claim; nothing where no unsearched recording could.</summary>
    public async Task<NextToHear?> ForAsync(Study study, StandingClaim claim, CancellationToken stop)
    {
        var strata = (await ShelfAsync(study, stop)).GroupBy(r => r.Player).SelectMany(g => Stratum.Of([.. g])).ToList();
        return NextToHear.Of(strata, [new(claim.Claim.Id.Value, claim.Claim.Sentence, claim.Claim.Test, claim.Stand)]) is
        {
            For: not null
        } next ? next : null;
    }

    /// <summary>Where claims are open for the one that rests on least, else for the subject's least searched stratum.</summary>
    /// <param name="known">The study's recordings, where they are at hand.</param>
    public async Task<NextToHear?> OfAsync(Study study, IReadOnlyList<StandingClaim> claims, CancellationToken stop,
        IReadOnlyList<Recording>? known = null)
    {
        var shelf = await ShelfAsync(study, stop, known);
        var open = claims.Where(c => c.Stand.Standing == Standing.Open)
            .Select(c => new OpenClaim(c.Claim.Id.Value, c.Claim.Sentence, c.Claim.Test, c.Stand)).ToList();
        // Strata are a player's own: how well the others are searched says nothing about the subject.
        var strata = shelf.GroupBy(r => r.Player).OrderByDescending(g => g.Key == study.Subject.Id.Value)
            .SelectMany(g => Stratum.Of([.. g])).ToList();
        var subjects = shelf.Where(r => r.Player == study.Subject.Id.Value).ToList();
        return NextToHear.Of(strata, open) is { For: not null } next ? next : subjects.Count > 0 ? NextToHear.Of(Stratum.Of(subjects), [])
            : null;
    }
}
