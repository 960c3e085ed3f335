using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <param name="Judges">What each said last, whose name is empty where none was given.</param>
public sealed record DisagreedPlace(SightingView View, IReadOnlyList<MadeJudgement> Judges);

/// <summary>Places that two judges see differently: both verdicts with their names, one key settles each.</summary>
public sealed class DisagreeModel(StudyStore studies, JudgementStore judges, SightingStore sightings) : StudyPage(studies)
{
    private const int Most = 60;

    public IReadOnlyList<DisagreedPlace> Places { get; private set; } = [];
    public int All { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var differ = await judges.DisagreementsAsync(study, stop);
        All = differ.Count;
        var shown = differ.Take(Most).ToDictionary(d => new SightingId(d.Sighting));
        var rows = await sightings.TheseAsync([.. shown.Keys], stop);
        Places = [.. SightingView.Of(rows).Select(v => new DisagreedPlace(v, shown[v.Row.Id].Last))];
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(StudyId study, SightingId sighting, Judgement? judgement, int version,
        CancellationToken stop)
    {
        if (!await EnterAsync(study, stop) || await sightings.FindAsync(sighting, stop) is not { } row || row.StudyId != study)
            return NotFound();
        if (judgement is not { } made || !Enum.IsDefined(made)) return BadRequest();
        Tell(await judges.JudgeAsync(sighting, version, made, row.Reason, stop, settles: true)
            ? $"{row.Idea} in {row.RecordingName}: settled as {made.Word().Replace('-', ' ')}."
            : $"Not settled: {row.Idea} in {row.RecordingName} was judged in another tab meanwhile. Look again.");
        return Redirect($"/studies/{study}/disagree");
    }
}
