using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Rudiments;

/// <summary>A stretch of a passage that is a rudiment, with where it is.</summary>
public sealed record RudimentPlace(FoundRudiment Found, WrittenPassage Passage);

/// <summary>The catalogue, and how often each rudiment is written down in the study.</summary>
public sealed class RudimentsModel(StudyStore studies, WrittenPassages written) : StudyPage(studies)
{
    public ILookup<Rudiment, RudimentPlace> Found { get; private set; } = Enumerable.Empty<RudimentPlace>().ToLookup(p => p.Found.Rudiment);
    public int Stuck { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var all = await written.OfStudyAsync(study, stop);
        Stuck = all.Count(p => p.Passage.Strokes.Any(s => s.Side is not null));
        Found = PlacesIn(all).ToLookup(p => p.Found.Rudiment);
        return Page();
    }

    internal static IEnumerable<RudimentPlace> PlacesIn(IEnumerable<WrittenPassage> all) =>
        all.Where(p => p.Passage.Strokes.Any(s => s.Side is not null))
            .SelectMany(p => RudimentFinder.In(p.Passage).Select(f => new RudimentPlace(f, p)));
}
