using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Storage.Tests;

/// <summary>The discography filtered and sorted.</summary>
public class FilteringTheCatalogue : StorageTests
{
    private RecordingCatalogue Catalogue => new(Source);

    private async Task<string> NamesAsync(CatalogueFilter filter) =>
        string.Join(" | ", (await Catalogue.PageAsync(Study, filter, 0, 100, Stop)).Select(r => r.Name));

    [Fact]
    public async Task Takes_stand_together_where_the_first_of_them_belongs()
    {
        await AddAsync("Alpha", "", "1970", "studio", 100);
        await AddAsync("Beta", "take 2", "1968", "studio", 120);
        await AddAsync("beta", "harbour", "1972", "live", 90);
        await AddAsync("Gamma", "", null, "broadcast", null);
        (await NamesAsync(new())).ShouldBe("Beta, take 2 | beta, harbour | Alpha | Gamma");
        (await NamesAsync(new() { Descending = true })).ShouldBe("beta, harbour | Beta, take 2 | Alpha | Gamma");
        (await NamesAsync(new() { Sort = "tempo" })).ShouldBe("beta, harbour | Beta, take 2 | Alpha | Gamma");
        (await NamesAsync(new() { Sort = "title", Descending = true })).ShouldStartWith("Gamma");
        (await NamesAsync(new() { Kind = RecordingKind.Live })).ShouldBe("beta, harbour");
        (await NamesAsync(new() { Text = "BET" })).ShouldBe("Beta, take 2 | beta, harbour");
        (await NamesAsync(new() { Text = "%" })).ShouldBe("");
        (await NamesAsync(new() { FromYear = 1970, ToYear = 1971 })).ShouldBe("Alpha");
        (await Catalogue.TotalsAsync(Study, new(), Stop)).ShouldBe(new(4, 3, 400, 0));
    }

    [Fact]
    public async Task How_much_is_searched_can_be_asked_for()
    {
        var all = await AddAsync("All", "", "1970", "studio", null);
        var part = await AddAsync("Part", "", "1971", "studio", null);
        await AddAsync("None", "", "1972", "studio", null);
        await Coverages.AddAsync(all, new(Closeness.Listened, null, 100, [], new(2026, 1, 1)), Stop);
        await Coverages.AddAsync(part, new(Closeness.Listened, 1, 10, [], new(2026, 1, 1)), Stop);
        (await NamesAsync(new() { Searched = "all" })).ShouldBe("All");
        (await NamesAsync(new() { Searched = "part" })).ShouldBe("Part");
        (await NamesAsync(new() { Searched = "none" })).ShouldBe("None");
        (await NamesAsync(new() { Sort = "searched", Descending = true })).ShouldBe("All | Part | None");
    }

    [Fact]
    public async Task Ensembles_and_releases_come_with_their_recordings_and_get_dates()
    {
        await AddAsync("Alpha", "", "1970", "studio", null, "The Five", "First");
        await AddAsync("Beta", "", "1971", "studio", null, "The Five", "Second");
        var discography = new Discography(Source);
        var five = (await discography.EnsemblesAsync(Study, Stop)).Single();
        (five.Name, five.Recordings, five.Players.Single()).ShouldBe(("The Five", 2, "Nell Tarrow"));
        (await discography.SaveAsync(five.Id, "The Five", PartialDate.Parse("1968 to 1975-03"), "", 1, Stop)).ShouldBe(NameResult.Saved);
        (await discography.FindAsync(five.Id, Stop))!.Active!.Value.ToString().ShouldBe("1968-01 to 1975-03");
        (await discography.SaveAsync(five.Id, "The Six", null, "", 1, Stop)).ShouldBe(NameResult.ChangedMeanwhile);
        var (first, second) = ((await discography.ReleasesAsync(Study, Stop))[0], (await discography.ReleasesAsync(Study, Stop))[1]);
        (await discography.SaveAsync(second.Id, first.Title, five.Id, null, "", second.Version, Stop)).ShouldBe(NameResult.NameTaken);
        (await NamesAsync(new() { Release = second.Id })).ShouldBe("Beta");
    }

    private async Task<RecordingId> AddAsync(string title, string take, string? recorded, string kind, double? tempo, string ensemble = "",
        string release = "") =>
        await Recordings.AddAsync(Study, new()
        {
            PlayerId = (await Studies.FindAsync(Study, Stop))!.Subject.Id,
            Title = title,
            Take = take,
            Kind = OneOf<RecordingKind>.Find(kind)!.Value,
            Tempo = tempo,
            TotalBars = 100,
            Ensemble = ensemble,
            Release = release,
            Recorded = recorded is null ? null : PartialDate.Parse(recorded),
        }, null, Stop);
}
