using InnerCadence.Core.Music;
using InnerCadence.Storage.Passages;

namespace InnerCadence.Storage.Tests;

/// <summary>The list of a study's passages, filtered and sorted.</summary>
public class FilteringPassages : StorageTests
{
    private async Task<IReadOnlyList<ListedPassage>> AllAsync() =>
        await new ListedPassages(Source, new(Source), Evidence).OfStudyAsync(Study, Stop);

    private static PassageFilter Asking(params (string Facet, string Value)[] asked) => new(PassageFacet.All.ToDictionary(f => f.Word,
        f => (IReadOnlyList<string>)[.. asked.Where(a => a.Facet == f.Word).Select(a => a.Value)]), "", "recorded", false);

    private static string Names(IReadOnlyList<ListedPassage> passages) => string.Join(", ", passages.Select(p => p.Row.RecordingName));

    private async Task PassageAsync(string title, string text, PassageKind kind, string section = "", string confidence = "certain") =>
        await Passages.AddAsync(await RecordAsync(title, 64), Draft(text) with
        {
            Kind = kind,
            Section = section,
            Confidence = confidence
        }, Stop);

    private async Task StudyAsync()
    {
        await PassageAsync("Alder", "HH: 8ths\nSN: 2 4\nBD: 1 3", PassageKind.Groove, "verse");
        await PassageAsync("Birch", "tempo 90\nmeter 3/4\nSN: 1R 1eL 1&R 1aL 2R", PassageKind.Fill, "Bridge");
        await PassageAsync("Cedar", "tempo 168\nSN: 1 2 3 4 | 1 2 3 4", PassageKind.Fill, "bridge", "guess");
        await NameAsync("march", "SN: 1 2 3 4");
    }

    [Fact]
    public async Task Facets_narrow_together_and_each_counts_what_it_would_show()
    {
        await StudyAsync();
        var all = await AllAsync();
        Names(Asking().Of(all)).ShouldBe("Alder, Birch, Cedar");
        Asking().IsOpen.ShouldBeTrue();
        Names(Asking(("kind", "fill")).Of(all)).ShouldBe("Birch, Cedar");
        Names(Asking(("section", "bridge")).Of(all)).ShouldBe("Birch, Cedar", "in any case");
        Names(Asking(("kind", "fill"), ("meter", "3/4")).Of(all)).ShouldBe("Birch");
        Names(Asking(("with", PassageFacet.InDoubt)).Of(all)).ShouldBe("Cedar");
        Names(Asking(("with", PassageFacet.HandsUnknown), ("with", PassageFacet.Waiting)).Of(all)).ShouldBe("Cedar");
        var fills = Asking(("kind", "fill"));
        PassageFacet Facet(string word) => PassageFacet.All.Single(f => f.Word == word);
        // Of another kind than the one that is asked for too; of other facets what is left.
        fills.Counts(Facet("kind"), all).ShouldBe(new Dictionary<string, int> { ["groove"] = 1, ["fill"] = 2 }, ignoreOrder: true);
        fills.Counts(Facet("meter"), all).ShouldBe(new Dictionary<string, int> { ["3/4"] = 1, ["4/4"] = 1 }, ignoreOrder: true);
        fills.Counts(Facet("with"), all)[PassageFacet.HandsUnknown].ShouldBe(1);
    }

    [Fact]
    public async Task What_is_typed_is_looked_for_in_names_and_every_column_sorts_both_ways()
    {
        await StudyAsync();
        var all = await AllAsync();
        Names((Asking() with { Text = "IRC" }).Of(all)).ShouldBe("Birch");
        (Asking() with { Text = "IRC" }).IsOpen.ShouldBeFalse();
        foreach (var (sort, order) in new[] { ("recording", "Alder, Birch, Cedar"), ("tempo", "Birch, Alder, Cedar"),
            ("bars", "Alder, Birch, Cedar"), ("waiting", "Alder, Birch, Cedar") })
            Names((Asking() with { Sort = sort }).Of(all)).ShouldBe(order, sort);
        Names((Asking() with { Sort = "tempo", Descending = true }).Of(all)).ShouldBe("Cedar, Alder, Birch");
        Names((Asking() with { Descending = true }).Of(all)).ShouldBe("Cedar, Birch, Alder");
    }
}
