using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>A recording with those of its passages that are asked for.</summary>
/// <param name="Written">All passages of it that are written down.</param>
public sealed record RecordingWithPassages(WrittenPassage Recording, IReadOnlyList<ListedPassage> Passages, int Written)
{
    public int Bars => Passages.Sum(p => p.Row.Passage.Bars);
}

/// <summary>The recordings that have passages of a kind, a trait above all, for paper and the record shelf.</summary>
public sealed class ShelfModel(StudyStore studies, ListedPassages listed) : StudyPage(studies)
{
    public IReadOnlyList<RecordingWithPassages> List { get; private set; } = [];
    /// <summary>What is asked for, in words.</summary>
    public string Asked { get; private set; } = "";
    public string Back { get; private set; } = "";
    public int Recordings { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var all = await listed.OfStudyAsync(study, stop);
        var filter = PassagesAsked.In(Request.Query);
        var written = all.GroupBy(p => p.Row.RecordingId).ToDictionary(g => g.Key, g => g.Count());
        List = [.. (filter with { Sort = "recorded", Descending = false }).Of(all).GroupBy(p => p.Row.RecordingId)
            .Select(g => new RecordingWithPassages(g.First().Row, [.. g.OrderBy(p => p.Row.Bar)], written[g.Key]))];
        Recordings = written.Count;
        Back = $"/studies/{Study.Id}/passages" + PassagesAsked.Address(PassagesAsked.Parts(filter));
        var trait = filter.Asked["trait"] is [var word] ? Habit.Find(word)?.Says : null;
        var others = PassageFacet.All.Where(f => f.Word is not ("trait" or "idea" or "player" or "with"))
            .SelectMany(f => filter.Asked[f.Word].Select(v => $"{f.Says.ToLowerInvariant()} {v}"));
        Asked = string.Join(", ", others.Prepend(trait is null ? "" : $"that {trait}").Where(w => w.Length > 0));
        return Page();
    }
}
