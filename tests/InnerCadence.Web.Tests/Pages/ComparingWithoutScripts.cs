using System.Globalization;
using System.Net;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>The comparing views of the demo study: their numbers add up, and each opens what is behind it.</summary>
public class ComparingWithoutScripts(Application application) : IClassFixture<Application>
{
    [Theory]
    [InlineData(1)]
    [InlineData(3)]
    [InlineData(8)]
    public async Task Every_split_by_recording_adds_up_to_the_whole(int idea)
    {
        var page = await application.PageAsync($"/ideas/{idea}/where");
        var (events, bars) = Whole(page.QuerySelector(".lead-line")!.TextContent);
        foreach (var name in (string[])["By kind", "By year", "By ensemble"])
        {
            var table = page.QuerySelectorAll("h2").First(h => h.TextContent == name).NextElementSibling!;
            var rows = table.QuerySelectorAll("tbody tr").Select(r => r.QuerySelectorAll("td").Select(c => c.TextContent.Trim()).ToList())
                .ToList();
            rows.Sum(r => int.Parse(r[1], CultureInfo.InvariantCulture)).ShouldBe(events, name);
            rows.Sum(r => int.Parse(r[2], CultureInfo.InvariantCulture)).ShouldBe(bars, name);
        }
    }

    private static (int Events, int Bars) Whole(string lead)
    {
        var numbers = System.Text.RegularExpressions.Regex.Matches(string.Concat(lead.Where(c => !char.IsWhiteSpace(c))),
            @"(\d+)(?:confirmed|bars)");
        return (int.Parse(numbers[0].Groups[1].Value, CultureInfo.InvariantCulture),
            int.Parse(numbers[1].Groups[1].Value, CultureInfo.InvariantCulture));
    }

    [Fact]
    public async Task The_matrix_tells_rates_silence_and_what_was_not_searched_and_each_cell_opens_its_sightings()
    {
        var page = await application.PageAsync("/studies/1/compare");
        var cells = page.QuerySelectorAll("svg.matrix a[aria-label]").Select(a => (a.GetAttribute("aria-label")!, a.GetAttribute("href")!))
            .ToList();
        var (said, link) = cells.First(c => c.Item1.StartsWith("cellar door in Kelp Road", StringComparison.Ordinal));
        said.ShouldBe("cellar door in Kelp Road: 1 in 42 bars, 2.4 per 100");
        (await application.PageAsync(link.Split('#')[0])).QuerySelectorAll(".concordance tbody tr").Length.ShouldBe(1);
        cells.ShouldContain(c => c.Item1.EndsWith("0 in 64 bars, 0.0 per 100", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Views_come_as_csv_and_svg_with_their_filter()
    {
        var csv = await application.Client.GetStringAsync("/studies/1/compare?handler=Sheet&format=csv&recordingKind=live",
            TestContext.Current.CancellationToken);
        csv.ShouldStartWith("idea,player,title,take,recorded,kind,searched_bars,confirmed");
        csv.Split('\n').Skip(1).Where(l => l.Length > 0).ShouldAllBe(l => l.Contains(",live,"));
        foreach (var view in (string[])["matrix", "timeline", "profile", "forest"])
        {
            var answer = await application.Client.GetAsync($"/studies/1/compare?handler=Svg&view={view}",
                TestContext.Current.CancellationToken);
            answer.Content.Headers.ContentType!.MediaType.ShouldBe("image/svg+xml");
        }
    }

    [Fact]
    public async Task A_filter_is_saved_by_name_shown_again_and_removed()
    {
        var page = await application.PageAsync("/studies/1/compare?recordingKind=live&from=1965");
        var (answer, saved) = await application.SendAsync(page, "/studies/1/compare?handler=Save", ("name", "late live"),
            ("query", "?recordingKind=live&from=1965"));
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        var link = saved.QuerySelectorAll("a").First(a => a.TextContent == "late live").GetAttribute("href")!;
        (await application.PageAsync(link)).QuerySelector(".lead-line")!.TextContent.ShouldContain("live, from 1965");
        var (_, removed) = await application.SendAsync(saved, "/studies/1/compare?handler=Remove",
            ("filter", saved.QuerySelector("input[name=filter]")!.GetAttribute("value")!));
        removed.QuerySelectorAll("a").ShouldNotContain(a => a.TextContent == "late live");
    }

    [Fact]
    public async Task Without_what_is_unsure_there_is_never_more()
    {
        int Confirmed(AngleSharp.Html.Dom.IHtmlDocument page) => Whole(page.QuerySelector(".lead-line")!.TextContent).Events;
        for (var idea = 1; idea <= 8; idea++)
            Confirmed(await application.PageAsync($"/ideas/{idea}/where?cautious=true"))
                .ShouldBeLessThanOrEqualTo(Confirmed(await application.PageAsync($"/ideas/{idea}/where")));
    }

    [Fact]
    public async Task Two_takes_of_one_groove_are_told_apart_stroke_by_stroke()
    {
        var page = await application.PageAsync("/studies/1/pair");
        page.QuerySelectorAll("svg.strands").Length.ShouldBe(2);
        page.Body!.TextContent.ShouldContain("difference");
    }
}
