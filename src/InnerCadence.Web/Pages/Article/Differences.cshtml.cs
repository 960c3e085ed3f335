using DiffPlex.DiffBuilder;
using DiffPlex.DiffBuilder.Model;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Article;

/// <summary>What changed from one edition to another: the text, and what its numbers say.</summary>
public sealed class DifferencesModel(StudyStore studies, ArticleStore articles) : StudyPage(studies)
{
    public IReadOnlyList<Edition> Editions { get; private set; } = [];
    public Edition From { get; private set; } = null!;
    public Edition To { get; private set; } = null!;
    public IReadOnlyList<DiffPiece> Lines { get; private set; } = [];
    public IReadOnlyList<(string Code, string? Was, string? Is)> Numbers { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, int from, int to, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Editions = await articles.EditionsAsync(study, stop);
        if (Editions.FirstOrDefault(e => e.Number == from) is not { } one
            || Editions.FirstOrDefault(e => e.Number == to) is not { } two) return NotFound();
        (From, To) = (one, two);
        Lines = InlineDiffBuilder.Diff(one.Text, two.Text).Lines;
        Numbers = [.. one.Numbers.Keys.Union(two.Numbers.Keys).Order(StringComparer.Ordinal)
            .Select(k => (k, one.Numbers.GetValueOrDefault(k), two.Numbers.GetValueOrDefault(k))).Where(n => n.Item2 != n.Item3)];
        return Page();
    }
}
