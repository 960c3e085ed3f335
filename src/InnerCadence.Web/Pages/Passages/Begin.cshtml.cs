using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>Which recording a passage is written down of.</summary>
public sealed class BeginPassageModel(StudyStore studies, RecordingStore recordings) : StudyPage(studies)
{
    private const int MostText = 200;

    /// <summary>More are found by a part of their name.</summary>
    public const int Shown = 200;

    public string Text { get; private set; } = "";
    public IReadOnlyList<Recording> Found { get; private set; } = [];
    public bool IsEmpty { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, string? q, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Text = q?.Length <= MostText ? q.Trim() : "";
        var all = await recordings.OfStudyAsync(study, stop);
        IsEmpty = all.Count == 0;
        Found = [.. all.Where(r => r.Name.Contains(Text, StringComparison.OrdinalIgnoreCase))
            .OrderBy(r => r.Name, StringComparer.OrdinalIgnoreCase)];
        return Text.Length > 0 && Found is [var only] ? Redirect($"/recordings/{only.Id}/passages/new") : Page();
    }
}
