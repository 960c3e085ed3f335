using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>One player's first sighting beside the subject's.</summary>
public sealed record PlayerFirst(Player Player, FirstOnRecord First, int Searched, int Bars, int Found, Precedence? AgainstSubject);

/// <summary>Who had it first: one idea over all players, with what was searched in vain and from whom it is said to be borrowed.</summary>
public sealed class PlayersModel(StudyStore studies, IdeaStore ideas, EvidenceOfIdeas evidence, LineageStore lineages) : StudyPage(studies)
{
    public IdeaRow Idea { get; private set; } = null!;
    public IReadOnlyList<PlayerFirst> Firsts { get; private set; } = [];
    public IReadOnlyList<PlayerLine> Lines { get; private set; } = [];
    public IReadOnlyList<SourceRow> Borrowed { get; private set; } = [];
    public int Undated { get; private set; }

    public Shape Picture => PlayersOverTime.Draw(Lines, [.. Borrowed.Where(b => b.Dated is not null).Select(b => (b.Who, b.Dated!.Value))]);

    public async Task<IActionResult> OnGetAsync(IdeaId idea, CancellationToken stop) => await ReadAsync(idea, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnGetSvgAsync(IdeaId idea, CancellationToken stop) =>
        await ReadAsync(idea, stop) ? File(System.Text.Encoding.UTF8.GetBytes(StandaloneSvg.Of(Picture)), "image/svg+xml", "players.svg")
            : NotFound();

    private static string Found(Performance p) =>
        p.Appearances.Count > 0
            ? $"{p.Appearances.Count} confirmed{(p.Appearances.Any(a => a.SureWhoPlays) ? "" : ", not certain who drums")}"
            : p.IsSearched ? $"{Words.Bars(p.Bars)} searched without it" : "not searched";

    private async Task<bool> ReadAsync(IdeaId idea, CancellationToken stop)
    {
        if (await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        Idea = found;
        var all = (await evidence.ByRecordingAsync(found, stop)).Select(r => r.Performance).ToList();
        IReadOnlyList<Performance> Of(Player player) => [.. all.Where(p => p.Player == player.Id.Value)];
        var own = Of(Study.Subject);
        Firsts = [.. Study.Players.OrderByDescending(p => p.IsSubject).Select(player =>
        {
            var theirs = Of(player);
            return new PlayerFirst(player, FirstOnRecord.Of(theirs), theirs.Count(p => p.IsSearched), theirs.Sum(p => p.Bars),
                theirs.Sum(p => p.Appearances.Count), player.IsSubject ? null
                : Precedence.Of(own, theirs, Study.Subject.Name, player.Name));
        })];
        Lines = [.. Study.Players.OrderByDescending(p => p.IsSubject)
            .Select(player => new PlayerLine(player.Name, [.. Of(player).Where(p => p.Recorded is not null).Select(p => new DatedRecording(
            p.Recorded!.Value, p.IsSearched, p.Appearances.Count, p.Appearances.Any(a => a.SureWhoPlays), p.Appearances.Count > 0
                ? $"/ideas/{idea}?recording={p.Id}#concordance" : $"/recordings/{p.Id}",
            $"{p.Name}, {p.Recorded}: {Found(p)}{(p.Issued is { } issued ? $"; issued {issued}" : "")}"))]))];
        Undated = all.Count(p => p.Recorded is null);
        Borrowed = await lineages.SourcesAsync(idea, stop);
        return true;
    }
}
