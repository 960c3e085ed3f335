using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Takes a span of a passage to where anything like it is looked for.</summary>
public sealed class PassageLikeModel(StudyStore studies, PassageStore passages) : StudyPage(studies)
{
    public async Task<IActionResult> OnGetAsync(PassageId passage, string? from, string? to, CancellationToken stop)
    {
        if (await passages.FindAsync(passage, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        var whole = CountLines.Parse(found.Text).Passage;
        var (start, end) = (Excerpt.Place(whole, from ?? "1.1"), to is null or "end" ? whole.Length : Excerpt.Place(whole, to));
        if (start is null || end is null || end <= start)
        {
            Tell($"From ‘{from}’ up to ‘{to}’ is no span: places are bar, point, count: 1.3&, 2.1, or end.");
            return Redirect($"/passages/{passage}");
        }
        var cut = CountWriter.Write(Excerpt.Cut(whole, start.Value, end.Value));
        return Redirect($"/studies/{found.StudyId}/like?text={Uri.EscapeDataString(cut)}");
    }
}
