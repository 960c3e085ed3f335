using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Compare;

/// <summary>Two sides of one voice against the timekeeper.</summary>
public sealed record FeelRow(Voice Voice, Voice Against, Lateness? One, Lateness? Two);

/// <summary>How early and late one side plays beside another, over all that was measured.</summary>
public sealed class FeelModel(StudyStore studies, FeelStore feels, RecordingStore recordings, WrittenPassages written, IdeaStore ideas,
    SightingStore sightings,
    JobStore jobs) : StudyPage(studies)
{
    public IReadOnlyList<ComparedSide> Sides { get; private set; } = [];
    public ComparedSide One { get; private set; } = null!;
    public ComparedSide Two { get; private set; } = null!;
    public IReadOnlyList<FeelRow> Rows { get; private set; } = [];
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];
    public int Measured { get; private set; }
    public FeelRow? Chosen { get; private set; }

    /// <param name="voice">Code of the voice whose recordings are shown; the first where it is none.</param>
    public async Task<IActionResult> OnGetAsync(StudyId study, string? a, string? b, string? voice, string? against, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Ideas = await ideas.OfStudyAsync(study, stop);
        var all = await recordings.OfStudyAsync(study, stop);
        Sides = ComparedSide.Of(Study, [.. all.Select(Attributes.Of)]);
        (One, Two) = (ComparedSide.Find(Sides, a, "subject"), ComparedSide.Find(Sides, b, "others"));
        var gaps = await feels.OfStudyAsync(study, stop);
        Measured = gaps.DistinctBy(g => g.Recording).Count();
        var one = Lateness.Of(Of(One));
        var two = Lateness.Of(Of(Two));
        Rows = [.. one.Concat(two).Select(f => (f.Voice, f.Against)).Distinct().Select(of => new FeelRow(of.Voice, of.Against,
            one.FirstOrDefault(f => (f.Voice, f.Against) == of), two.FirstOrDefault(f => (f.Voice, f.Against) == of)))];
        Chosen = Rows.FirstOrDefault(r => r.Voice.Code == voice && (against is null || r.Against.Code == against))
            ?? Rows.FirstOrDefault(r => r.Voice == Voice.Snare)
            ?? (Rows.Count > 0 ? Rows[0] : null);
        return Page();

        IEnumerable<RecordedGap> Of(ComparedSide side)
        {
            var own = all.Where(side.Takes).Select(r => r.Id.Value).ToHashSet();
            return gaps.Where(g => own.Contains(g.Recording));
        }
    }

    /// <summary>Passages are measured against their sounds in the background: all of the study, or those in which an idea was
    /// confirmed.</summary>
    public async Task<IActionResult> OnPostMeasureAsync(StudyId study, IdeaId? idea, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var name = "All passages";
        var chosen = (await written.OfStudyAsync(study, stop)).Select(p => p.PassageId.Value).ToList();
        if (idea is { } of)
        {
            if (await ideas.FindAsync(of, stop) is not { } row || row.StudyId != study) return NotFound();
            var confirmed = (await sightings.OfIdeaAsync(of, stop)).Where(s => s is { Judged: Judged.Confirmed, Stands: true })
                .Select(s => s.PassageId.Value).ToHashSet();
            (name, chosen) = (row.Nickname, [.. chosen.Where(confirmed.Contains)]);
        }
        if (chosen.Count == 0)
        {
            Tell($"{name}: no passage to measure.");
            return Redirect($"/studies/{study}/feel");
        }
        return Redirect($"/jobs/{await jobs.AddAsync(MeasuringWork.MeasurementKind, study, MeasuringWork.InputOf(chosen, name), stop)}");
    }

    public string Address(FeelRow row) =>
        $"/studies/{Study.Id}/feel?a={Uri.EscapeDataString(One.Word)}&b={Uri.EscapeDataString(Two.Word)}&voice={row.Voice.Code}&against="
            + $"{row.Against.Code}";

    public Shape Picture => TimingViews.Recordings(Chosen!.One?.Recordings ?? [], Chosen.Two?.Recordings ?? []);
}
