using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using InnerCadence.Web.Telling;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Where a few counts that have no name might be in the sound.</summary>
public sealed class LikeSoundModel(StudyStore studies, SoundQuestions questions, RecordingStore recordings, RidgePictures pictures)
    : StudyPage(studies)
{
    private const int Shown = 30;

    public LikeAsked Asked { get; private set; } = null!;
    public LikeAnswer? Answer { get; private set; }
    public Passage Passage => CountLines.Parse(Asked.Text).Passage;
    public IReadOnlyList<(FoundPlaceRow Row, Recording Recording, Shape? Picture)> Places { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, long question, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop) || await questions.FindAsync(question, stop) is not { Kind: SoundQuestions.Like } found
            || found.StudyId != study) return NotFound();
        (Asked, Answer) = (found.AskedAs<LikeAsked>(), found.ResultAs<LikeAnswer>());
        var all = (await recordings.OfStudyAsync(study, stop)).ToDictionary(r => r.Id);
        var places = new List<(FoundPlaceRow, Recording, Shape?)>();
        foreach (var row in (Answer?.Places ?? []).Select(p => p.AsFound()).Where(p => all.ContainsKey(p.RecordingId)).Take(Shown))
            places.Add((row, all[row.RecordingId], await pictures.OfAsync(row,
                $"What the ear heard there; {row.Heard} of {row.Strengths.Length} strokes", stop)));
        Places = places;
        return Page();
    }
}
