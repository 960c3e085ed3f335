using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>How the ideas of the subject go together: what follows what, what never is in one tune, which recordings are richest.</summary>
public sealed class TogetherModel(StudyStore studies, IdeaStore ideas, EvidenceOfIdeas evidence) : StudyPage(studies)
{
    private const int FewRecordings = 20;

    /// <summary>How many recordings are drawn.</summary>
    public int Shown { get; private set; } = FewRecordings;

    public SetOfIdeas Set { get; private set; } = new([], [], []);
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];
    public string Name(long idea) => Ideas.First(i => i.Id.Value == idea).Nickname;
    public bool IsCut => Set.Recordings.Count > Shown;

    public async Task<IActionResult> OnGetAsync(StudyId study, string? show, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var account = await evidence.AccountAsync(study, stop);
        var all = await ideas.OfStudyAsync(study, stop);
        Set = SetOfIdeas.Of(all.ToDictionary(i => i.Id.Value, i =>
            (IReadOnlyList<Performance>)[.. account.Of(i.AsNamed()).Where(p => p.Player == Study.Subject.Id.Value)]));
        Ideas = all;
        if (show == "all") Shown = Set.Recordings.Count;
        return Page();
    }

    /// <summary>A row an idea, a column what follows it.</summary>
    public Shape Follows
    {
        get
        {
            var most = Math.Max(1, Set.Steps.Select(s => s.Followed).DefaultIfEmpty(1).Max());
            return SetOfIdeasViews.Grid("What follows what within four bars", [.. Ideas.Select(i => i.Nickname)], [.. Ideas.Select(row =>
                (row.Nickname, $"/ideas/{row.Id}/where", (IReadOnlyList<SetMark?>)[.. Ideas.Select(column =>
                    Set.Steps.Where(s => s.First == row.Id.Value && s.Then == column.Id.Value).Select(s => new SetMark(s.Followed,
                        (double)s.Followed / most, Places(row.Id, "sort=place"),
                        $"{row.Nickname}, then {column.Nickname}: after {s.Followed} of {s.Of} places")).FirstOrDefault())]))]);
        }
    }

    /// <summary>A row a recording, a column an idea; those with most ideas first.</summary>
    public Shape Richest
    {
        get
        {
            var shown = Set.Recordings.Take(Shown).ToList();
            var most = Math.Max(1, shown.SelectMany(r => r.Ideas).Select(i => i.Events).DefaultIfEmpty(1).Max());
            return SetOfIdeasViews.Grid("Ideas in the richest recordings", [.. Ideas.Select(i => i.Nickname)], [.. shown.Select(row =>
                (row.Name, $"/recordings/{row.Id}", (IReadOnlyList<SetMark?>)[.. Ideas.Select(column => row.Ideas
                    .Where(i => i.Idea == column.Id.Value).Select(i => new SetMark(i.Events, (double)i.Events / most,
                        Places(column.Id, $"recording={row.Id}"), $"{column.Nickname} in {row.Name}: {i.Events} in {row.Bars} bars"))
                    .FirstOrDefault())]))], 230);
        }
    }

    public string Places(IdeaId idea, string more) => PlaceQuery.Link(idea, "counted", PlaceQuery.OfPlayer(Study.Subject.Id), more);
}
