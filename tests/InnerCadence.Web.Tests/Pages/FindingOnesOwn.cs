using System.Net;
using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Passages and ideas of one's own are found again: by what they are, with counts, in the address.</summary>
public class FindingOnesOwn(Application application) : IClassFixture<Application>
{
    private const string Passages = "/studies/1/passages";

    private static int Shown(IHtmlDocument page) => page.QuerySelectorAll("#as-listed tbody tr").Length;

    private static int Said(IHtmlDocument page, string facet, string value) => int.Parse(System.Text.RegularExpressions.Regex.Match(
        (page.QuerySelector($"select[name={facet}] option[value='{value}']")
            ?? page.QuerySelector($"[name={facet}][value='{value}']")!.ParentElement!).TextContent, @"\((\d+)\)").Groups[1].Value,
        System.Globalization.CultureInfo.InvariantCulture);

    [Theory]
    [InlineData("kind", "fill"), InlineData("trait", "flam-or-drag"), InlineData("with", "hands-unknown"), InlineData("idea", "1")]
    [InlineData("with", "waiting"), InlineData("player", "2"), InlineData("tempo", "100 to 119")]
    public async Task What_a_choice_says_is_what_it_shows(string facet, string value)
    {
        var all = await application.PageAsync(Passages);
        var said = Said(all, facet, value);
        said.ShouldBeGreaterThan(0);
        var chosen = await application.PageAsync($"{Passages}?{facet}={Uri.EscapeDataString(value)}");
        chosen.QuerySelector(".lead-line")!.TextContent.ShouldStartWith($"{said} of ");
        Shown(chosen).ShouldBe(Math.Min(said, 60));
    }

    [Fact]
    public async Task Choices_narrow_one_another_and_stay_in_the_address()
    {
        var fills = await application.PageAsync($"{Passages}?kind=fill&sort=tempo&order=down");
        var unknown = Said(fills, "with", "hands-unknown");
        unknown.ShouldBeLessThan(Shown(fills));
        var both = await application.PageAsync($"{Passages}?kind=fill&with=hands-unknown&sort=tempo&order=down");
        Shown(both).ShouldBe(unknown);
        both.QuerySelector("th[aria-sort=descending] a")!.TextContent.Trim().ShouldBe("tempo ↓");
        both.QuerySelector("th a[href*='sort=bars']")!.GetAttribute("href")!.ShouldContain("kind=fill&with=hands-unknown");
        ((IHtmlOptionElement)both.QuerySelector("select[name=kind] option[value=fill]")!).IsSelected.ShouldBeTrue();
        Said(both, "kind", "groove").ShouldBeGreaterThan(0, "other kinds are counted as if none were asked for");
        (await application.PageAsync($"{Passages}?kind=opera")).Body!.TextContent.ShouldContain("No passage is like that");
        (await application.PageAsync($"{Passages}?q=rope&trait=nothing&tempo=fast&page=9&after=x")).ShouldNotBeNull();
    }

    [Fact]
    public async Task Recordings_with_a_trait_are_a_list()
    {
        var page = await application.PageAsync($"{Passages}?trait=flam-or-drag");
        page.QuerySelectorAll("#with-trait li").Length.ShouldBeGreaterThan(1);
        page.QuerySelector("#with-trait summary")!.TextContent.ShouldContain("have a flam or drag");
        (await application.PageAsync(Passages)).QuerySelector("#with-trait").ShouldBeNull();

        var paper = await application.PageAsync(page.QuerySelector("#with-trait p a")!.GetAttribute("href")!);
        paper.QuerySelector("h1")!.TextContent.ShouldBe("Recordings with passages that have a flam or drag");
        paper.QuerySelectorAll("tbody tr").Length.ShouldBe(page.QuerySelectorAll("#with-trait li").Length);
        paper.QuerySelector("tbody td:nth-child(7)")!.TextContent.ShouldMatch(@"^\d+ of \d+$");
    }

    [Fact]
    public async Task A_passage_is_begun_by_choosing_its_recording()
    {
        var choose = await application.PageAsync("/studies/1/passages/begin");
        choose.QuerySelectorAll("tbody tr").Length.ShouldBeGreaterThan(20);
        (await application.PageAsync("/studies/1/passages/begin?q=seven+gulls")).Title.ShouldNotBeNull().ShouldContain("Write");
        (await application.PageAsync("/studies/1/passages/begin?q=nowhere")).Body!.TextContent.ShouldContain("No recording is called that");
    }

    [Fact]
    public async Task The_wish_list_takes_wishes_votes_and_slips_and_an_empty_wish_is_told()
    {
        const string next = "/studies/1/next";
        var (bad, told) = await application.SendAsync(await application.PageAsync(next), next, ("wish", " "), ("votes", "2"));
        bad.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        told.TextContentOf("main").ShouldContain("Say what is wished");
        var (_, one) = await application.SendAsync(told, next, ("wish", "Kelp Road"), ("votes", "2"));
        one.QuerySelector("#wish-list")!.TextContent.ShouldContain("Kelp Road");
        one.QuerySelector("#wish-list a")!.GetAttribute("href")!.ShouldStartWith("/recordings/");
        var (_, counted) = await application.SendAsync(one, next, ("slips", "kelp road\n3x more brushes"));
        counted.QuerySelectorAll("#wish-list tbody tr td.num").Select(c => c.TextContent.Trim()).ShouldBe(["3", "3"]);
        var (_, voted) = await application.PressAsync(counted, $"{next}?handler=Vote", "One vote more for more brushes");
        voted.QuerySelector("#wish-list tbody tr")!.TextContent.ShouldContain("more brushes");
        var (_, done) = await application.PressAsync(voted, $"{next}?handler=Fulfilled", "more brushes is done");
        done.QuerySelector("#wish-list")!.TextContent.ShouldNotContain("more brushes");
        done.QuerySelector(".notice")!.TextContent.ShouldContain("off the wish list");
    }

    [Fact]
    public async Task Tags_of_ideas_are_counted_and_choose()
    {
        var page = await application.PageAsync("/studies/1/ideas");
        var tag = page.QuerySelectorAll("#tags a").First(a => a.TextContent == "fill (3)");
        var chosen = await application.PageAsync("/studies/1/ideas" + tag.GetAttribute("href"));
        Shown(chosen).ShouldBe(3);
        chosen.QuerySelector("#tags [aria-current]")!.TextContent.ShouldBe("fill (3)");
    }
}
