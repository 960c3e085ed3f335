using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using InnerCadence.Web.Telling;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Stretches that come back in what the ear heard of several titles, and that nobody named.</summary>
public sealed class RecurringModel(StudyStore studies, SoundQuestions questions, RecordingStore recordings, RidgePictures pictures)
    : StudyPage(studies)
{
    public const int Shown = 20;

    public int Titles { get; private set; } = 2;
    public SoundQuestion? Question { get; private set; }
    public RecurringAnswer? Answer { get; private set; }
    /// <summary>The first place of a cell, and the recordings it is told in.</summary>
    public IReadOnlyList<(RecurringCell Cell, IReadOnlyList<(AnsweringPlace Place, Recording Recording)> Places, Shape? Picture)> Cells
    { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (await questions.LatestAsync(study, SoundQuestions.Recurring, stop) is not { } latest) return Page();
        (Question, Answer, Titles) = (latest, latest.ResultAs<RecurringAnswer>(), latest.AskedAs<RecurringAsked>().Titles);
        var all = (await recordings.OfStudyAsync(study, stop)).ToDictionary(r => r.Id.Value);
        var cells = new List<(RecurringCell, IReadOnlyList<(AnsweringPlace, Recording)>, Shape?)>();
        foreach (var cell in (Answer?.Cells ?? []).Take(Shown))
        {
            var places = cell.Places.Where(p => all.ContainsKey(p.Recording)).Select(p => (p, all[p.Recording])).ToList();
            if (places.Count == 0) continue;
            cells.Add((cell, places, await pictures.OfAsync(places[0].p.AsFound(), $"In {places[0].Item2.Name}, as the ear heard it",
                stop)));
        }
        Cells = cells;
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(StudyId study, int titles, CancellationToken stop) => !await EnterAsync(study, stop)
        ? NotFound() : Redirect($"/jobs/{await questions.AskAsync(study, SoundQuestions.Recurring,
            new RecurringAsked(Math.Clamp(titles, 2, 50)), stop)}");
}
