using InnerCadence.Core.Hands;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Rudiments;

/// <summary>One rudiment: both leads, to see and to hear, where it is found, and as an idea of the study.</summary>
public sealed class RudimentModel(StudyStore studies, WrittenPassages written, IdeaStore ideas) : StudyPage(studies)
{
    public Rudiment Rudiment { get; private set; } = null!;
    public IReadOnlyList<RudimentPlace> Found { get; private set; } = [];
    /// <summary>The idea that was made of it.</summary>
    public IdeaRow? Idea { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, string name, CancellationToken stop) =>
        await FindAsync(study, name, stop) ? Page() : NotFound();

    /// <summary>As an idea: any drums, any rate, led by either hand; its sightings are judged and counted as any idea's.</summary>
    public async Task<IActionResult> OnPostIdeaAsync(StudyId study, string name, CancellationToken stop)
    {
        if (!await FindAsync(study, name, stop)) return NotFound();
        if (Idea is { } made) return Redirect($"/ideas/{made.Id}");
        var id = await ideas.AddAsync(study, new()
        {
            Nickname = Rudiment.Name,
            Note = $"A rudiment: {Rudiment.Group}.",
            Text = Rudiment.Text,
            Span = Rudiment.Span,
            Tags = ["rudiment"],
            Rules = new()
            {
                Facets = new()
                {
                    Voicing = VoicingRule.HandOrFoot,
                    Sticking = FacetRule.Must,
                    Ornaments = FacetRule.Must,
                    Dynamics = FacetRule.Ignore
                },
                Rate = RateRule.Proportional,
                Transforms = [Transform.Mirrored],
            },
        }, stop);
        return Redirect(id is { } added ? $"/ideas/{added}" : $"/studies/{study}/ideas");
    }

    private async Task<bool> FindAsync(StudyId study, string name, CancellationToken stop)
    {
        if (Rudiment.Find(name) is not { } found || !await EnterAsync(study, stop)) return false;
        Rudiment = found;
        Found = [.. RudimentsModel.PlacesIn(await written.OfStudyAsync(study, stop)).Where(p => p.Found.Rudiment == found)];
        Idea = (await ideas.OfStudyAsync(study, stop)).FirstOrDefault(i =>
            string.Equals(i.Nickname, found.Name, StringComparison.OrdinalIgnoreCase));
        return true;
    }
}
