using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Discovery;
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
    private Stock stock = new([], []);

    public PassageScope Scope { get; private set; } = null!;
    public int Total => stock.Bars.Count;
    public IReadOnlyList<StockRow> Families => stock.Families;
    /// <summary>Of one recording only.</summary>
    public IReadOnlyList<FormedBar> Form { get; private set; } = [];
    public SkeletonView Skeleton { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(StudyId study, double? threshold, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var all = await material.PassagesAsync(study, stop);
        Scope = PassageScope.Of(Request.Query, Study, [.. all.Select(p => p.Row)]);
        IEnumerable<CountedPassage> Taken(IEnumerable<CountedPassage> from) => from.Where(p => Scope.Takes(p.Row));
        stock = await material.ChosenAsync(study, Scope.Query, from => Stock.Of(Taken(from)), kept => kept.Bars.Count, stop);
        if (Scope.Recording is not null) Form = BarForm.Of([.. stock.Bars.Select(b => (b.Bar.Meter, b.Bar.Strokes))], NumberOf);
        var share = SkeletonView.ShareOf(threshold);
        var skeleton = await material.ChosenAsync(study, (Scope.Query, share), from =>
            Core.Rhythm.Skeleton.Of([.. Taken(from).SelectMany(p => p.Bars).Select(b => (b.Meter, b.Strokes))], share), _ => 100, stop);
        Skeleton = new(skeleton, share, $"/studies/{study}/bars{Scope.Query}", Place, Scope.Recording);
        return Page();
    }

    public Passage PassageOf(int bar) => new(new([stock.Bars[bar].Bar.Meter]), 1, Passage.InOrder(stock.Bars[bar].Bar.Strokes));

    public int Recordings(BarFamily family) => family.Members.Select(m => stock.Bars[m.Bar].Of.RecordingId).Distinct().Count();

    public (string Address, string Words) Place(int bar) =>
        ($"/passages/{stock.Bars[bar].Of.PassageId}", $"{stock.Bars[bar].Of.RecordingName}, bar {NumberOf(bar)}");

    public string Difference(int exemplar, int bar) =>
        string.Join(", ", ReadingDifference.Between(PassageOf(exemplar), PassageOf(bar)).Select(d => d.Words.Replace("bar 1, ", ""))
        .Take(3));

    private int NumberOf(int bar) => (stock.Bars[bar].Of.Bar ?? 1) + stock.Bars[bar].Bar.Index;

    /// <summary>The bars of one choice of passages, and their families.</summary>
    private sealed record Stock(IReadOnlyList<(Bar Bar, WrittenPassage Of)> Bars, IReadOnlyList<StockRow> Families)
    {
        public static Stock Of(IEnumerable<CountedPassage> passages)
        {
            IReadOnlyList<(Bar Bar, CountedPassage Of)> bars = [.. passages.SelectMany(p => p.Bars.Select(bar => (bar, p)))];
            return new([.. bars.Select(b => (b.Bar, b.Of.Row))],
                BarStock.Of([.. bars.Select(b => (b.Bar.Meter, b.Bar.Strokes, b.Of.Title))]));
        }
    }
}
