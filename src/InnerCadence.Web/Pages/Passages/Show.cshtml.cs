using InnerCadence.Core.Counting;
using InnerCadence.Core.Music;
using InnerCadence.Storage;
using InnerCadence.Web.Drawing;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>One passage: written down at left, seen at right, with the ideas found in it.</summary>
public sealed class ShowModel(Storage.Studies studies, Storage.Passages passages, Storage.Sightings sightings) : StudyPage(studies), IPassageForm
{
    [BindProperty]
    public PassageInput Input { get; set; } = new();

    public PassageRow Saved { get; private set; } = null!;
    public IReadOnlyList<SightingView> Found { get; private set; } = [];
    public PassageId? Previous { get; private set; }
    public PassageId? Next { get; private set; }
    public string? KeptText { get; private set; }
    public IReadOnlyList<ReadingRow> Others { get; private set; } = [];
    public CountText Read => CountLines.Parse(Input.Text ?? "");
    public int FirstBar => Saved.Bar ?? 1;
    public double? Tempo => Saved.RecordingTempo;

    public Shape Picture => Strands.Draw(Read.Passage, new()
    {
        FirstBar = FirstBar,
        Pickable = Input.Text == Saved.Text,
        Brackets = Input.Text != Saved.Text ? [] : [.. Found.Where(s => !s.Row.Vanished && s.Row.Judgement != "rejected").Select(s => new Bracket(
            new Tick(s.Row.StartTick), new Tick(s.Row.EndTick), s.Row.Idea, s.Row.Verdict == "near-miss", $"/sightings/{s.Row.Id}"))],
    });

    public async Task<IActionResult> OnGetAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        Input = PassageInput.Of(Saved);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        if (Input.Read(ModelState) is not { } draft) return Again();
        if (await passages.UpdateAsync(passage, draft, Input.Version, stop) == SaveResult.Saved)
        {
            Tell("Saved.");
            Kept();
            return Redirect($"/passages/{passage}");
        }
        ModelState.Remove("Input.Version");
        Input.Version = Saved.Version;
        KeptText = Saved.Text;
        return ChangedMeanwhile("This passage");
    }

    /// <summary>What was typed becomes another reading beside the preferred one.</summary>
    public async Task<IActionResult> OnPostSecondAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        if (Input.Read(ModelState) is not { } draft) return Again();
        await passages.AddReadingAsync(passage, draft.Text, draft.Bars, "ear", draft.Note, stop);
        Tell("Kept as another reading.");
        Kept();
        return Redirect($"/passages/{passage}#readings");
    }

    public async Task<IActionResult> OnPostPreferAsync(PassageId passage, ReadingId reading, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop) || !await passages.PreferAsync(passage, reading, stop)) return NotFound();
        Tell("This reading counts now.", $"/passages/{passage}?handler=Prefer&reading={Saved.ReadingId}");
        return Redirect($"/passages/{passage}");
    }

    public async Task<IActionResult> OnPostDeleteAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        await passages.DeleteAsync(passage, stop);
        Tell($"A {Saved.Kind} of {Saved.RecordingName} is deleted.", $"/studies/{Study.Id}/passages?handler=Restore&passage={passage}");
        return Redirect($"/recordings/{Saved.RecordingId}");
    }

    private async Task<bool> FindAsync(PassageId id, CancellationToken stop)
    {
        if (await passages.FindAsync(id, stop) is not { } found) return false;
        Saved = found;
        Found = [.. SightingView.Of(await sightings.OfPassageAsync(id, stop))];
        Others = [.. (await passages.ReadingsAsync(id, stop)).Where(r => !r.Preferred)];
        var siblings = (await passages.OfRecordingAsync(found.RecordingId, stop)).Select(p => p.Id).ToList();
        var here = siblings.IndexOf(id);
        if (here > 0) Previous = siblings[here - 1];
        if (here >= 0 && here + 1 < siblings.Count) Next = siblings[here + 1];
        return await EnterAsync(found.StudyId, stop);
    }
}
