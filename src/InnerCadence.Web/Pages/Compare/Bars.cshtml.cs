using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Compare;

/// <summary>All bars of a study, a player, a recording: families of like bars, and the skeleton of all.</summary>
public sealed class BarsModel(StudyStore studies, StudyMaterial material) : StudyPage(studies)
{
    private List<(WrittenPassage Passage, int Index, Meter Meter, IReadOnlyList<Stroke> Strokes)> bars = [];

    public PassageScope Scope { get; private set; } = null!;
    public int Total => bars.Count;
    public IReadOnlyList<BarFamily> Families { get; private set; } = [];
    /// <summary>Of one recording only.</summary>
    public IReadOnlyList<FormedBar> Form { get; private set; } = [];
    public SkeletonView Skeleton { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(StudyId study, double? threshold, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var all = await material.PassagesAsync(study, stop);
        Scope = PassageScope.Of(Request.Query, Study, [.. all.Select(p => p.Row)]);
        bars = [.. all.Where(p => Scope.Takes(p.Row)).SelectMany(p => p.Bars.Select(bar => (p.Row, bar.Index, bar.Meter, bar.Strokes)))];
        var plain = bars.Select(b => (b.Meter, b.Strokes)).ToList();
        Families = BarFamilies.Of(plain);
        if (Scope.Recording is not null) Form = BarForm.Of(plain, i => (bars[i].Passage.Bar ?? 1) + bars[i].Index);
        Skeleton = SkeletonView.Of(plain, threshold, $"/studies/{study}/bars{Scope.Query}", Place, Scope.Recording);
        return Page();
    }

    public Passage PassageOf(int bar) => new(new([bars[bar].Meter]), 1, Passage.InOrder(bars[bar].Strokes));

    public int Recordings(BarFamily family) => family.Members.Select(m => bars[m.Bar].Passage.RecordingId).Distinct().Count();

    /// <summary>A groove kept up for sixteen bars is one decision: the mean of the titles' own shares.</summary>
    public Estimate Share(BarFamily family)
    {
        var of = family.Members.Select(m => m.Bar).ToHashSet();
        return Estimate.MeanShare(bars.Select((b, i) => (Title: (b.Passage.PlayerId, b.Passage.Title), Has: of.Contains(i))).GroupBy(b => b.Title).Select(g => new TitleAmount(g.Count(b => b.Has), g.Count())))!;
    }

    public (string Address, string Words) Place(int bar) => ($"/passages/{bars[bar].Passage.PassageId}", $"{bars[bar].Passage.RecordingName}, bar {(bars[bar].Passage.Bar ?? 1) + bars[bar].Index}");

    public string Difference(int exemplar, int bar) => string.Join(", ", ReadingDifference.Between(PassageOf(exemplar), PassageOf(bar)).Select(d => d.Words.Replace("bar 1, ", "")).Take(3));
}
