using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>Many recordings typed one under the other; a " takes what stands above.</summary>
public sealed class SheetModel(StudyStore studies, RecordingStore recordings) : StudyPage(studies)
{
    public const int Rows = 20;
    public const string Ditto = "\"";

    [BindProperty]
    public List<RecordingText> Input { get; set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Input = [.. Enumerable.Range(0, Rows).Select(_ => Empty())];
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (Input.Count > 10 * Rows) return BadRequest();
        var drafts = new List<(RecordingDraft, CoverageDraft?)>();
        RecordingText? above = null;
        for (var i = 0; i < Input.Count; i++)
        {
            var row = i;
            if (IsBlank(Input[i])) continue;
            var text = Filled(Input[i], above);
            void Tell(string field, string message) => ModelState.AddModelError($"Input[{row}].{field}", message);
            var searched = text.ReadSearched(DateOnly.FromDateTime(DateTime.Now), Tell);
            if (text.Read(Study, Tell) is { } draft) drafts.Add((draft, searched));
            above = text;
        }
        if (ModelState.IsValid && drafts.Count == 0) ModelState.AddModelError("", "No row has a title yet.");
        if (!ModelState.IsValid) return Again();
        await recordings.AddAsync(study, drafts, stop);
        Kept();
        Tell($"{drafts.Count} {(drafts.Count == 1 ? "recording is" : "recordings are")} added.");
        return Redirect($"/studies/{study}/recordings");
    }

    private static RecordingText Empty() => new() { Kind = "", Meter = "", Closeness = "", Sure = "", TempoRead = "" };

    private static bool IsBlank(RecordingText row) =>
        ((string?[])[row.Title, row.Take, row.Player, row.Meter, row.Ensemble, row.Release, row.Recorded, row.Kind, row.Tempo,
        row.Duration, row.TotalBars, row.Searched])
        .All(string.IsNullOrWhiteSpace);

    private static RecordingText Filled(RecordingText row, RecordingText? above)
    {
        static string? Take(string? typed, string? over) => typed?.Trim() is Ditto or "”" or "“" ? over : typed;
        return new()
        {
            Title = Take(row.Title, above?.Title),
            Take = Take(row.Take, above?.Take),
            Player = Take(row.Player, above?.Player),
            Ensemble = Take(row.Ensemble, above?.Ensemble),
            Release = Take(row.Release, above?.Release),
            Recorded = Take(row.Recorded, above?.Recorded),
            Kind = Take(row.Kind, above?.Kind),
            Meter = Take(row.Meter, above?.Meter),
            Tempo = Take(row.Tempo, above?.Tempo),
            Duration = Take(row.Duration, above?.Duration),
            TotalBars = Take(row.TotalBars, above?.TotalBars),
            Searched = Take(row.Searched, above?.Searched),
        };
    }
}
