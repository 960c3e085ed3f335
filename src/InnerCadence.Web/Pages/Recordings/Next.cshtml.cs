using InnerCadence.Core.Claims;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>What to listen to next: strata with what is known and searched of each, the reasoned suggestion, and a random pick that can be
/// repeated.</summary>
public sealed class NextModel(StudyStore studies, ClaimStore claims, NextSteps next, WishStore wishes) : StudyPage(studies)
{
    private const int MostText = 20_000;

    public Player Player { get; private set; } = null!;
    public bool ByTempo { get; private set; }
    public bool ByRelease { get; private set; }
    public int Seed { get; private set; }
    public IReadOnlyList<Stratum> Strata { get; private set; } = [];
    public NextToHear? Suggested { get; private set; }
    public IReadOnlyList<Wish> Wishes { get; private set; } = [];
    /// <summary>What was typed and could not be kept.</summary>
    public string TypedWish { get; private set; } = "";
    public string TypedSlips { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync(StudyId study, PlayerId? player, bool tempo, bool release, int seed, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        await ReadAsync(player, tempo, release, seed, stop);
        return Page();
    }

    /// <summary>A wish with its votes, or slips that are counted, a line each.</summary>
    public async Task<IActionResult> OnPostAsync(StudyId study, string? wish, string? votes, string? slips, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        (TypedWish, TypedSlips) = (wish ?? "", slips ?? "");
        IReadOnlyList<(string Words, int Votes)> counted = [];
        if (slips is null)
        {
            var words = ModelState.Text("wish", wish, "Say what is wished: a title, or what should be looked at.");
            var many = Typed.Number(votes, message => ModelState.AddModelError("wish", message), 1, Slips.MostVotes,
                "a number of votes") ?? 1;
            counted = [(words, many)];
        }
        else
        {
            var text = Typed.Text(slips, message => ModelState.AddModelError("slips", message), "Write a slip a line.", MostText);
            counted = Slips.Count(text);
            if (counted.FirstOrDefault(s => s.Words.Length > Typed.Name) is { Words: not null } tooLong)
                ModelState.AddModelError("slips", $"“{tooLong.Words[..40]}…” is longer than {Typed.Name} letters: shorten it.");
        }
        if (!ModelState.IsValid)
        {
            await ReadAsync(null, false, false, 1, stop);
            return Again();
        }
        await wishes.AddAsync(study, counted, stop);
        return Redirect($"/studies/{study}/next#wishes");
    }

    public async Task<IActionResult> OnPostVoteAsync(StudyId study, WishId wish, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if ((await wishes.OfStudyAsync(study, stop)).FirstOrDefault(w => w.Id == wish) is not { } one) return NotFound();
        await wishes.AddAsync(study, [(one.Words, 1)], stop);
        return Redirect($"/studies/{study}/next#wishes");
    }

    /// <summary>Takes a wish off the list, or puts it back.</summary>
    public async Task<IActionResult> OnPostFulfilledAsync(StudyId study, WishId wish, bool again, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop) || await wishes.FulfilAsync(study, wish, !again, stop) is not { } words) return NotFound();
        if (!again) Tell($"{words} is off the wish list.", $"/studies/{study}/next?handler=Fulfilled&wish={wish}&again=true");
        return Redirect($"/studies/{study}/next#wishes");
    }

    private async Task ReadAsync(PlayerId? player, bool tempo, bool release, int seed, CancellationToken stop)
    {
        Player = Study.Players.FirstOrDefault(p => p.Id == player) ?? Study.Subject;
        (ByTempo, ByRelease, Seed) = (tempo, release, seed is > 0 and < 1_000_000 ? seed : 1);
        Strata = Stratum.Of([.. (await next.ShelfAsync(Study, stop)).Where(r => r.Player == Player.Id.Value)], tempo, release);
        Suggested = await next.OfAsync(Study, await claims.StandAsync(Study, stop), stop);
        Wishes = await wishes.OfStudyAsync(Study.Id, stop);
    }
}
