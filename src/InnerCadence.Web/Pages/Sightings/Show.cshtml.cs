using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Sightings;

/// <summary>One sighting against its exemplar, to be judged; the next that waits follows.</summary>
public sealed class SightingModel(StudyStore studies, IdeaStore ideas, SightingStore sightings, PlacesOfIdeas places, HeardStore heard,
    JudgementStore judges, LineageStore lineages, Records records, EvidenceOfIdeas evidence) : StudyPage(studies)
{
    public SightingView Sighting { get; private set; } = null!;
    /// <summary>The record at this place; nothing where none is at hand.</summary>
    public RecordView? Record { get; private set; }
    public string ExemplarText { get; private set; } = "";
    public Passage Exemplar { get; private set; } = Passage.Empty;
    public int Waiting { get; private set; }
    private const int MostSkipped = 100, MostAlike = 4;
    /// <summary>Passed over since the last judgement, this one too.</summary>
    public IReadOnlyList<SightingId> Skipped { get; private set; } = [];
    public int JudgedCount { get; private set; }
    /// <summary>True as a counter-example, false as an example; nothing where the passage is not pinned.</summary>
    public bool? Pinned { get; private set; }
    /// <summary>Nobody has said yet who judges here.</summary>
    public bool AsksForName { get; private set; }
    /// <summary>A reason that could not be kept yet.</summary>
    public string? TypedReason { get; private set; }
    /// <summary>The next of this idea that waits for judgement.</summary>
    public SightingId? Following { get; private set; }

    /// <summary>Model and place, their first strokes in one line; nothing where the idea has no stroke any more.</summary>
    public LaidUnder? Laid { get; private set; }
    /// <summary>What a listener hears first before the others.</summary>
    public IReadOnlyList<string> Said { get; private set; } = [];
    /// <summary>What becomes of the idea if this place counts.</summary>
    public IReadOnlyList<string> IfItCounts { get; private set; } = [];
    /// <summary>Places that differ as this one does and were judged.</summary>
    public IReadOnlyList<PlaceOfIdea> Alike { get; private set; } = [];

    public (Shape Model, Shape Here)? Pictures => Laid is null ? null
        : new LaidPicture(Laid, Exemplar, Sighting.Passage, new(Sighting.Row.StartTick), Factor.Of(Sighting.Row.Factor),
            Sighting.Row.Bar ?? 1)
            is var picture ? (picture.Model(), picture.Here()) : null;

    /// <summary>Where nothing can be laid under it: the passage with the place in a bracket.</summary>
    public Shape Picture => Strands.Draw(Sighting.Passage, new()
    {
        Gap = 28,
        FirstBar = Sighting.Row.Bar ?? 1,
        Brackets = [new(new Tick(Sighting.Row.StartTick), new Tick(Sighting.Row.EndTick), Sighting.Row.Idea,
            Sighting.Row.Verdict == Verdict.NearMiss, null)],
    });

    public async Task<IActionResult> OnGetAsync(SightingId sighting, string? skip, CancellationToken stop) =>
        await FindAsync(sighting, stop, skip) ? Page() : NotFound();

    public async Task<IActionResult> OnPostAsync(SightingId sighting, Judgement? judgement, string? reason, int version, string? back,
        string? judge, CancellationToken stop)
    {
        if (!await FindAsync(sighting, stop)) return NotFound();
        if (AsksForName && judge?.Trim() is { Length: > 0 and <= Typed.Name } name && !Typed.HasUnkeepable(name))
            await judges.SetNameAsync(name, stop);
        if (judgement is not { } made || !Enum.IsDefined(made) || reason?.Length > 2000
            || Typed.HasUnkeepable(reason ?? "")) return BadRequest();
        if (!await judges.JudgeAsync(sighting, version, made, reason?.Trim() ?? Sighting.Row.Reason, stop))
        {
            TypedReason = reason;
            ModelState.AddModelError("", $"This sighting was judged in another tab meanwhile: it is now "
                + $"{Sighting.JudgementWords}{(Sighting.Row.Reason.Length > 0 ? $", “{Sighting.Row.Reason}”" : "")}. Judge it again to "
                + $"change that.");
            Response.StatusCode = StatusCodes.Status409Conflict;
            return Page();
        }
        Tell(
            $"{Sighting.Row.RecordingName}, {Sighting.Where}: "
                + $"{made switch { Judgement.Confirmed => "confirmed", Judgement.NearMiss => "a near miss", _ => "rejected" }}.",
            $"/sightings/{sighting}?handler=Undo&was={Sighting.Row.JudgementWord}&version={version + 1}");
        return Redirect(back != "idea" && Following is { } next ? $"/sightings/{next}" : $"/ideas/{Sighting.Row.IdeaId}#concordance");
    }

    /// <summary>What is no longer found in the corrected text stays as heard by hand.</summary>
    public async Task<IActionResult> OnPostKeepAsync(SightingId sighting, int version, CancellationToken stop)
    {
        if (!await FindAsync(sighting, stop)) return NotFound();
        if (await heard.KeepAsync(Sighting.Row, Sighting.Clock, Sighting.Bar, version, stop)) Tell(
            $"{Sighting.Row.RecordingName}, {Sighting.Where}: kept as heard by hand.");
        else Tell("Not kept: it was judged in another tab meanwhile, or neither its bar nor its clock time is known.");
        return Redirect($"/ideas/{Sighting.Row.IdeaId}#heard");
    }

    /// <summary>The passage becomes an example of the idea, or a counter-example, on which changes of its rules are tried.</summary>
    public async Task<IActionResult> OnPostPinAsync(SightingId sighting, bool counter, CancellationToken stop)
    {
        if (!await FindAsync(sighting, stop)) return NotFound();
        await lineages.PinAsync(Sighting.Row.IdeaId, Sighting.Row.PassageId, counter, stop);
        Tell($"Pinned as {(counter ? "a counter-example" : "an example")} of {Sighting.Row.Idea}.");
        return Redirect($"/sightings/{sighting}");
    }

    /// <summary>Takes a judgement back to what it was.</summary>
    public async Task<IActionResult> OnPostUndoAsync(SightingId sighting, string? was, int version, CancellationToken stop)
    {
        if (!await FindAsync(sighting, stop)) return NotFound();
        Judgement? before = was switch
        {
            "confirmed" => Judgement.Confirmed,
            "near-miss" => Judgement.NearMiss,
            "rejected" =>
            Judgement.Rejected,
            _ => null
        };
        if (!await sightings.JudgeAsync(sighting, version, before, Sighting.Row.Reason, stop)) Tell(
            $"Not undone: it was judged again meanwhile and is {Sighting.JudgementWords}.");
        return Redirect($"/sightings/{sighting}");
    }

    private async Task<bool> FindAsync(SightingId id, CancellationToken stop, string? skip = null)
    {
        if (await sightings.FindAsync(id, stop) is not { } row || await ideas.FindAsync(row.IdeaId, stop) is not { } idea) return false;
        Sighting = SightingView.Of([row]).Single();
        (ExemplarText, Exemplar) = (idea.Text, CountLines.Parse(idea.Text).Passage);
        Record = await records.BesideAsync(row.RecordingId, Sighting.Passage, row.Bar, row.PassageStart, stop);
        var all = await places.OfIdeaAsync(row.StudyId, row.IdeaId, stop);
        Laid = LaidUnder.Of(idea.AsIdea(), Sighting.Passage, new(row.StartTick), Factor.Of(row.Factor), row.Transforms,
            SightingJson.Read(row.Edits, Sighting.Passage));
        Said = Laid?.Said() ?? [row.Summary];
        IfItCounts = Core.Evidence.IfItCounts.Of(await evidence.AccountAsync(row.StudyId, stop), idea.AsNamed(), row.PlayerId.Value,
            row.AsFound(Sighting.Passage));
        Alike = [.. all.Where(p => p.Id != id && p.Difference == row.Summary && p.Judged != Judged.Waiting).Take(MostAlike)];
        AsksForName = (await judges.NameAsync(stop)).Length == 0;
        Waiting = all.Count(s => s.IsWaiting);
        JudgedCount = all.Count - Waiting;
        Skipped = [.. (skip ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries).Take(MostSkipped)
            .Select(s => SightingId.TryParse(s, out var one) ? one : default).Append(id).Distinct()];
        Following = Judging.Next(all, Skipped) ?? Judging.Next(all, [id]);
        Pinned = (await lineages.PinsAsync(row.IdeaId, stop)).Where(p => p.PassageId == row.PassageId).Select(p => (bool?)p.Counter)
            .FirstOrDefault();
        return await EnterAsync(row.StudyId, stop);
    }
}
