using InnerCadence.Core.Counting;
using InnerCadence.Core.Music;
using InnerCadence.Storage;
using InnerCadence.Web.Drawing;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Sightings;

/// <summary>One sighting against its exemplar, to be judged; the next that waits follows.</summary>
public sealed class ShowModel(Storage.Studies studies, Storage.Ideas ideas, Storage.Sightings sightings) : StudyPage(studies)
{
    public SightingView Sighting { get; private set; } = null!;
    public string ExemplarText { get; private set; } = "";
    public Passage Exemplar { get; private set; } = Passage.Empty;
    public int Waiting { get; private set; }
    /// <summary>A reason that could not be kept yet.</summary>
    public string? TypedReason { get; private set; }
    /// <summary>The next of this idea that waits for judgement.</summary>
    public SightingId? Following { get; private set; }

    public Shape Picture => Strands.Draw(Sighting.Passage, new()
    {
        Gap = 28,
        FirstBar = Sighting.Row.Bar ?? 1,
        Brackets = [new(new Tick(Sighting.Row.StartTick), new Tick(Sighting.Row.EndTick), Sighting.Row.Idea, Sighting.Row.Verdict == "near-miss", null)],
    });

    public async Task<IActionResult> OnGetAsync(SightingId sighting, CancellationToken stop) => await FindAsync(sighting, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnPostAsync(SightingId sighting, Judgement? judgement, string? reason, int version, string? back, CancellationToken stop)
    {
        if (!await FindAsync(sighting, stop)) return NotFound();
        if (judgement is not { } made || !Enum.IsDefined(made) || reason?.Length > 2000 || Typed.HasUnkeepable(reason ?? "")) return BadRequest();
        if (!await sightings.JudgeAsync(sighting, version, made, reason?.Trim() ?? Sighting.Row.Reason, stop))
        {
            TypedReason = reason;
            ModelState.AddModelError("", $"This sighting was judged in another tab meanwhile: it is now {Sighting.JudgementWords}{(Sighting.Row.Reason.Length > 0 ? $", “{Sighting.Row.Reason}”" : "")}. Judge it again to change that.");
            Response.StatusCode = StatusCodes.Status409Conflict;
            return Page();
        }
        Tell(
            $"{Sighting.Row.RecordingName}, {Sighting.Where}: {made switch { Judgement.Confirmed => "confirmed", Judgement.NearMiss => "a near miss", _ => "rejected" }}.",
            $"/sightings/{sighting}?handler=Undo&was={Sighting.Row.Judgement}&version={version + 1}");
        return Redirect(back != "idea" && Following is { } next ? $"/sightings/{next}" : $"/ideas/{Sighting.Row.IdeaId}#concordance");
    }

    /// <summary>Takes a judgement back to what it was.</summary>
    public async Task<IActionResult> OnPostUndoAsync(SightingId sighting, string? was, int version, CancellationToken stop)
    {
        if (!await FindAsync(sighting, stop)) return NotFound();
        Judgement? before = was switch { "confirmed" => Judgement.Confirmed, "near-miss" => Judgement.NearMiss, "rejected" => Judgement.Rejected, _ => null };
        if (!await sightings.JudgeAsync(sighting, version, before, Sighting.Row.Reason, stop)) Tell($"Not undone: it was judged again meanwhile and is {Sighting.JudgementWords}.");
        return Redirect($"/sightings/{sighting}");
    }

    private async Task<bool> FindAsync(SightingId id, CancellationToken stop)
    {
        if (await sightings.FindAsync(id, stop) is not { } row || await ideas.FindAsync(row.IdeaId, stop) is not { } idea) return false;
        Sighting = SightingView.Of([row]).Single();
        (ExemplarText, Exemplar) = (idea.Text, CountLines.Parse(idea.Text).Passage);
        var waiting = (await sightings.OfIdeaAsync(row.IdeaId, stop)).Where(s => s.IsWaiting).Select(s => s.Id).ToList();
        Waiting = waiting.Count;
        var here = waiting.IndexOf(id);
        Following = here >= 0 && here + 1 < waiting.Count ? waiting[here + 1] : waiting.FirstOrDefault(w => w != id) is { Value: > 0 } first ? first : null;
        return await EnterAsync(row.StudyId, stop);
    }
}
