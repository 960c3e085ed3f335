using System.Net;
using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Tuning, lineage, pins, what was heard, and search by likeness, as a browser without scripts does them.</summary>
public class IdeasWithoutScripts(Application application) : IClassFixture<Application>
{
    private async Task<(HttpResponseMessage Response, IHtmlDocument Page)> SendAsync(string page, string address,
        params (string, string)[] fields) =>
        await application.SendAsync(await application.PageAsync(page), address, fields);

    [Fact]
    public async Task With_more_than_nine_ideas_the_first_nine_stand_on_the_keys()
    {
        foreach (var nickname in (string[])["first", "second", "third"])
            await application.SendAsync(await application.PageAsync("/passages/1/cut?from=1.1&to=1.4"), "/passages/1/cut",
                ("Input.Nickname", nickname));
        var boxes = (await application.PageAsync("/recordings/12/listen")).QuerySelectorAll("[name=sought]").OfType<IHtmlInputElement>()
            .ToList();
        boxes.Count.ShouldBeGreaterThan(9);
        boxes.Select(b => b.IsChecked).ShouldBe([.. Enumerable.Repeat(true, 9), .. Enumerable.Repeat(false, boxes.Count - 9)]);
    }

    [Fact]
    public async Task A_change_of_rules_is_tried_on_the_page_itself()
    {
        var (answer, page) = await SendAsync("/ideas/2/edit", "/ideas/2/edit?handler=Tune", ("Input.Voicing", "any"),
            ("Input.Nickname", ""));
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        page.QuerySelector("#tuned")!.TextContent.ShouldContain("go");
        page.QuerySelector("#Input_Voicing option[selected]")!.GetAttribute("value").ShouldBe("any", "what was chosen stays");
        (await application.PageAsync("/ideas/2/edit")).QuerySelector("#Input_Voicing option[selected]")!.GetAttribute("value")
            .ShouldBe("drum", "nothing is saved");
    }

    [Fact]
    public async Task Every_rule_and_note_of_an_idea_is_kept()
    {
        (string, string)[] fields = [("Input.Rate", "proportional"), ("Input.Swing", "as-sounding"), ("Input.Elision", "2"),
            ("Input.Transforms", "reversed"), ("Input.Tags", "toms, Fill,toms"), ("Input.Sounds", "knock"), ("Input.Avoid", "rushing")];
        var (answer, _) = await SendAsync("/ideas/4/edit", "/ideas/4/edit", fields);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        var page = await application.PageAsync("/ideas/4");
        page.Body!.TextContent.ShouldContain("proportional rate");
        page.Body!.TextContent.ShouldContain("first 2 may be left out");
        page.Body!.TextContent.ShouldContain("rushing");
        (await application.PageAsync("/studies/1/ideas?tag=Fill"))
            .QuerySelectorAll("table.list tbody tr").Length.ShouldBeGreaterThanOrEqualTo(1);
        (await application.PageAsync("/ideas/4/edit")).QuerySelector("input[name='Input.Transforms'][checked]")!.GetAttribute("value")
            .ShouldBe("reversed");
    }

    [Theory]
    [InlineData("Link", "Typed.Of", "5", "Typed.Kind", "grandchild of", "how this one comes from it")]
    [InlineData("Borrow", "Typed.Who", "", "Typed.Dated", "1958", "Whom was it borrowed from")]
    [InlineData("Borrow", "Typed.Who", "An uncle", "Typed.Dated", "long ago", "is no date")]
    [InlineData("Heard", "Typed.At", "", "Typed.Bar", "", "Where was it heard")]
    [InlineData("Heard", "Typed.At", "soon", "Typed.Bar", "3", "is no time")]
    public async Task What_cannot_be_kept_is_said_and_stays_typed(string handler, string one, string first, string two, string second,
        string told)
    {
        var (answer, page) = await SendAsync("/ideas/5", $"/ideas/5?handler={handler}",
            handler == "Heard" ? [(one, first), (two, second), ("Typed.Recording", "1")] : [(one, first), (two, second)]);
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.Body!.TextContent.ShouldContain(told);
        if (handler != "Link") page.QuerySelector($"[name='{two}']")!.GetAttribute("value").ShouldBe(second);
    }

    [Fact]
    public async Task Lineage_is_drawn_and_a_circle_refused()
    {
        // The demo study says that 8, slow tumble, is a variant of 3, rope ladder.
        (await application.PageAsync("/ideas/8")).QuerySelector("svg.family")!.TextContent.ShouldContain("rope ladder");
        var (answer, page) = await SendAsync("/ideas/3", "/ideas/3?handler=Link", ("Typed.Of", "8"), ("Typed.Kind", "variant of"));
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.Body!.TextContent.ShouldContain("its own ancestor");
    }

    [Fact]
    public async Task A_place_heard_is_listed_counted_and_taken_away_again()
    {
        var (answer, page) = await SendAsync("/ideas/6", "/ideas/6?handler=Heard", ("Typed.Recording", "1"), ("Typed.At", "1:02.5"),
            ("Typed.Bar", ""), ("Typed.HeardNote", "behind the voice"));
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        page.QuerySelector("#heard")!.TextContent.ShouldContain("behind the voice");
        var remove = page.QuerySelector("#heard td form")!;
        var token = remove.QuerySelector("[name=__RequestVerificationToken]")!.GetAttribute("value")!;
        (await application.Client.PostAsync(remove.GetAttribute("action"),
            new FormUrlEncodedContent(new Dictionary<string, string> { ["__RequestVerificationToken"] = token }),
            TestContext.Current.CancellationToken)).EnsureSuccessStatusCode();
        (await application.PageAsync("/ideas/6")).QuerySelector("#heard")!.TextContent.ShouldNotContain("behind the voice");
    }

    [Fact]
    public async Task A_passage_is_pinned_from_a_sighting_and_unpinned_on_the_idea()
    {
        var sighting = await application.PageAsync("/sightings/1");
        var (_, pinned) = await application.SendAsync(sighting, "/sightings/1?handler=Pin", ("counter", "true"));
        pinned.Body!.TextContent.ShouldContain("pinned as a counter-example");
        var idea = pinned.QuerySelector("h1 a")!.GetAttribute("href")!;
        (await application.PageAsync(idea)).QuerySelector("#pins")!.TextContent.ShouldContain("is let in");
    }

    [Fact]
    public async Task The_concordance_is_grouped_and_comes_as_a_picture()
    {
        var page = await application.PageAsync("/ideas/1?group=year");
        page.QuerySelectorAll(".concordance th[scope=rowgroup]").Select(h => h.TextContent.Trim())
            .ShouldBe(["1965", "1966", "1969", "1970", "1971", "1974"]);
        var svg = await application.Client.GetAsync("/ideas/1?handler=Svg&show=confirmed", TestContext.Current.CancellationToken);
        svg.Content.Headers.ContentType!.MediaType.ShouldBe("image/svg+xml");
        (await svg.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain("Tarred Rope");
    }

    [Fact]
    public async Task Anything_like_a_cell_leads_to_naming_it()
    {
        var page = await application.PageAsync("/studies/1/like?text=" + Uri.EscapeDataString("SN: (3e) 3a> 4>\nBD: 3&"));
        page.Body!.TextContent.ShouldContain("cellar door");
        var cut = page.QuerySelectorAll("a").First(a => a.TextContent == "name it").GetAttribute("href")!;
        (await application.PageAsync(cut)).QuerySelector("#Input_Text")!.TextContent.ShouldContain("SN:");
        (await application.PageAsync("/studies/1/like?text=SN:+9", HttpStatusCode.UnprocessableEntity)).Body!.TextContent.ShouldContain(
            "there is no 9 in it");
    }

    [Fact]
    public async Task Judgements_get_the_name_that_is_set_and_a_second_blind_look_changes_nothing()
    {
        await SendAsync("/settings", "/settings", ("Judge", "Odd"));
        (await application.PageAsync("/settings")).QuerySelector("#Judge")!.GetAttribute("value").ShouldBe("Odd");
        var blind = await application.PageAsync("/studies/1/blind?seed=3&number=1&since=1790000000");
        blind.Body!.TextContent.ShouldContain("judged by Odd");
        var (answer, next) = await application.SendAsync(blind, "/studies/1/blind", ("judgement", "Rejected"));
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        next.Body!.TextContent.ShouldContain("Excerpt 2 of");
    }
}
