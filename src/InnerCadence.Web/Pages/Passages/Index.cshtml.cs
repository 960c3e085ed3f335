using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <param name="Count">Passages that would be shown with it.</param>
public sealed record FacetChoice(string Value, string Says, int Count, bool IsAsked);

/// <summary>Everything that was written down, to be found again.</summary>
public sealed class PassagesModel(StudyStore studies, PassageStore passages, ListedPassages listed, IdeaStore ideas) : StudyPage(studies)
{
    public const int PageRows = 60;
    private const int MostBars = 2;

    public PageOfList<ListedPassage> List { get; private set; } = null!;
    public PassageFilter Filter { get; private set; } = null!;
    public int All { get; private set; }
    public int Bars { get; private set; }
    public IReadOnlyList<(PassageFacet Facet, IReadOnlyList<FacetChoice> Choices)> Facets { get; private set; } = [];
    /// <summary>With the trait that is asked for, to be printed.</summary>
    public Habit? Trait { get; private set; }
    /// <summary>Recordings of what is shown, where a trait is asked for.</summary>
    public IReadOnlyList<(RecordingId Id, string Name, int? Year, int Passages)> Recordings { get; private set; } = [];

    public static Shape Picture(ListedPassage passage)
    {
        var whole = passage.Row.Passage with { Looped = false };
        var first = whole.Bars > MostBars ? Excerpt.Cut(whole, Tick.Zero, whole.Meters.StartOf(MostBars)) : whole;
        return Strands.Draw(first, new() { Width = 400, RowSixteenths = 40, Small = true });
    }

    /// <summary>This list in the address, with one part changed.</summary>
    public string With(string name, string? value)
    {
        var parts = PassagesAsked.Parts(Filter);
        parts.RemoveAll(p => p.Name == name || (name == "sort" && p.Name == "order"));
        if (value is not null) parts.Add((name, value));
        if (name == "sort" && value == Filter.Sort && !Filter.Descending) parts.Add(("order", "down"));
        return $"/studies/{Study.Id}/passages" + PassagesAsked.Address(parts);
    }

    /// <summary>The recordings of this list, on paper.</summary>
    public string OnPaper => $"/studies/{Study.Id}/passages/recordings" + PassagesAsked.Address(PassagesAsked.Parts(Filter));

    public async Task<IActionResult> OnGetAsync(StudyId study, string? after, string? before, CancellationToken stop,
        [FromQuery(Name = "page")] int page = 1)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var all = await listed.OfStudyAsync(study, stop);
        Filter = PassagesAsked.In(Request.Query);
        var shown = Filter.Of(all);
        (All, Bars) = (all.Count, shown.Sum(p => p.Row.Passage.Bars));
        List = PageOfList<ListedPassage>.Of(shown, p => p.Row.PassageId.ToString(), PageRows, after, before, page);
        var names = (await ideas.OfStudyAsync(study, stop)).ToDictionary(i => i.Id.ToString(), i => i.Nickname);
        Facets = [.. PassageFacet.All.Select(f => (f, Choices(f, all, names))).Where(f => f.Item2.Count > 0)];
        if (Filter.Asked["trait"] is [var asked] && Habit.Find(asked) is { } trait) (Trait, Recordings) = (trait,
            [.. shown.GroupBy(p => p.Row.RecordingId).Select(g => (g.Key, g.First().Row.RecordingName, g.First().Row.RecordedFrom?.Year,
                g.Count()))]);
        return Page();
    }

    public async Task<IActionResult> OnPostRestoreAsync(StudyId study, PassageId passage, CancellationToken stop)
    {
        await passages.RestoreAsync(passage, stop);
        return Redirect($"/passages/{passage}");
    }

    private IReadOnlyList<FacetChoice> Choices(PassageFacet facet, IReadOnlyList<ListedPassage> all,
        IReadOnlyDictionary<string, string> names)
    {
        var counts = Filter.Counts(facet, all);
        string Says(string value) => facet.Word switch
        {
            "player" => Study.Players.FirstOrDefault(p => p.Id.ToString() == value)?.Name ?? value,
            "idea" => names.GetValueOrDefault(value, value),
            "trait" => Habit.Find(value)?.Says ?? value,
            "with" => value switch
            {
                PassageFacet.HandsUnknown => "hands unknown",
                PassageFacet.InDoubt => "reading in doubt",
                PassageFacet.Sound => "has sound",
                _ => "waits for judgement",
            },
            _ => value,
        };
        return [.. counts.Keys.Union(Filter.Asked[facet.Word]).Select(v => new FacetChoice(v, Says(v), counts.GetValueOrDefault(v),
            Filter.Asks(facet, v))).OrderBy(c => facet.Word == "tempo" ? c.Value.Length : 0)
            .ThenBy(c => c.Says, StringComparer.OrdinalIgnoreCase)];
    }
}
