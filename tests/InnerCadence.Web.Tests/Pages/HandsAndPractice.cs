using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Sticking, rudiments and practice without scripts, and the API of stickings.</summary>
public class HandsAndPractice(Application application) : IClassFixture<Application>
{
    private async Task<(HttpStatusCode Status, JsonElement Answer)> StickingsAsync(object request)
    {
        var response = await application.Client.PostAsJsonAsync("/api/hands/stickings", request, TestContext.Current.CancellationToken);
        return (response.StatusCode, await response.Content.ReadFromJsonAsync<JsonElement>(TestContext.Current.CancellationToken));
    }

    [Fact]
    public async Task The_api_gives_options_with_costs_reasons_and_rudiments()
    {
        var (status, answer) = await StickingsAsync(new { text = "tempo 90\nSN: 1R e & aR 2L e & aL", most = 3 });
        status.ShouldBe(HttpStatusCode.OK);
        var options = answer.GetProperty("options").EnumerateArray().ToList();
        options.Count.ShouldBe(3);
        options.Select(o => o.GetProperty("cost").GetDouble()).ShouldBeInOrder();
        options.ShouldAllBe(o => o.GetProperty("sticking").GetString()!.Length == 8);
        options.SelectMany(o => o.GetProperty("rudiments").EnumerateArray()).Select(r => r.GetProperty("name").GetString())
            .ShouldContain("paradiddle");
        var (_, tied) = await StickingsAsync(new
        {
            text = "CB: 1 & 2 &\nSN: 1e 2e",
            fixedVoices = new { CB = "L" },
            handedness = "left",
            school = "ride-hand"
        });
        tied.GetProperty("options")[0].GetProperty("sticking").GetString().ShouldStartWith("L");
    }

    [Theory]
    [InlineData("""{}""")]
    [InlineData("""{"text": "SN: 1", "most": 0}""")]
    [InlineData("""{"text": "SN: 1", "handedness": "both"}""")]
    [InlineData("""{"text": "SN: 1", "handedness": "2"}""")]
    [InlineData("""{"text": "SN: 1", "school": "of life"}""")]
    [InlineData("""{"text": "SN: 1", "fixedVoices": {"BD": "R"}}""")]
    [InlineData("""{"text": "SN: 1", "fixedVoices": {"SN": "both"}}""")]
    public async Task The_api_refuses_in_a_sentence(string body)
    {
        var response = await application.Client.PostAsync("/api/hands/stickings",
            new StringContent(body, System.Text.Encoding.UTF8, "application/json"), TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await response.Content.ReadFromJsonAsync<JsonElement>(TestContext.Current.CancellationToken)).GetProperty("detail").GetString()
            .ShouldEndWith(".");
    }

    [Fact]
    public async Task A_sticking_is_kept_as_a_reading_with_its_argument()
    {
        var page = await application.PageAsync("/passages/3/hands?school=alternate");
        page.QuerySelectorAll("table.list").First().QuerySelectorAll("tbody tr").Length.ShouldBe(5);
        page.QuerySelectorAll("main svg.strands").Length.ShouldBe(5, "the cheapest, and one of each school");
        var (response, again) = await application.SendAsync(page, "/passages/3/hands", ("argument", ""));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        again.QuerySelector(".field-error")!.TextContent.ShouldContain("Say why");
        (response, var passage) = await application.SendAsync(page, "/passages/3/hands", ("argument", "sounds heavier"),
            ("source", "film of the hands"));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        passage.Body!.TextContent.ShouldContain("sounds heavier");
        (await application.PageAsync("/passages/3/hands?tie=nonsense"))
            .QuerySelector(".field-error")!.TextContent.ShouldContain("ties no drum");
    }

    [Fact]
    public async Task A_rudiment_is_found_and_becomes_an_idea_once()
    {
        var page = await application.PageAsync("/studies/1/rudiments/single%20strokes");
        page.QuerySelector("#found + table")!.TextContent.ShouldContain("of them");
        var (response, _) = await application.PressAsync(page, "/studies/1/rudiments/single%20strokes", "Look for it as an idea");
        var idea = response.RequestMessage!.RequestUri!.AbsolutePath;
        idea.ShouldStartWith("/ideas/");
        (await application.PageAsync("/studies/1/rudiments/single%20strokes")).QuerySelectorAll("a")
            .ShouldContain(a => a.TextContent == "Its idea" && a.GetAttribute("href") == idea);
    }

    [Fact]
    public async Task An_idea_is_practised_climbs_hurts_rests_and_is_planned()
    {
        var (response, page) = await application.PressAsync(await application.PageAsync("/ideas/5"), "/ideas/5", "Practise it");
        var item = response.RequestMessage!.RequestUri!.AbsolutePath;
        var start = page.QuerySelector("#tempo")!.TextContent;
        page.QuerySelector(".cautions")!.TextContent.ShouldContain("physician");
        for (var i = 0; i < 3; i++) (_, page) = await application.SendAsync(await application.PageAsync(item), item, ("outcome", "clean"));
        page.QuerySelector("#tempo")!.TextContent.ShouldNotBe(start);
        (_, page) = await application.SendAsync(page, item, ("pain", "3"), ("note", "wrist"));
        page.Body!.TextContent.ShouldContain("Stopped by pain");
        page.QuerySelector("#round").ShouldBeNull();
        (await application.PageAsync("/studies/1/practice")).Body!.TextContent.ShouldContain("stopped by pain");
        (_, page) = await application.PressAsync(page, item, $"I have rested: begin again at {start}");
        page.QuerySelector("#tempo")!.TextContent.ShouldBe(start);
        (_, page) = await application.PressAsync(page, item, "Done for today e");
        page.QuerySelector(".notice")!.TextContent.ShouldContain("is due again on");

        (_, page) = await application.PressAsync(await application.PageAsync(item), item, "Stop practising this");
        await application.PageAsync(item, HttpStatusCode.NotFound);
        await application.PressAsync(page, item, "Undo");
        await application.PageAsync(item);
    }

    [Fact]
    public async Task A_variation_is_kept_as_something_to_practise_and_never_as_a_sighting()
    {
        var before = (await application.PageAsync("/ideas/3")).QuerySelectorAll("table.concordance tbody tr").Length;
        var (response, page) = await application.PressAsync(await application.PageAsync("/practice/1?seed=5"), "/practice/1",
            "Practise it: inverted");
        response.RequestMessage!.RequestUri!.AbsolutePath.ShouldStartWith("/practice/");
        page.QuerySelector("h1")!.TextContent.ShouldBe("rope ladder, inverted");
        (await application.PageAsync("/ideas/3")).QuerySelectorAll("table.concordance tbody tr").Length.ShouldBe(before);
        // A variation of a rudiment, and of that variation again, is what is practised and not the plain rudiment.
        (response, page) = await application.PressAsync(await application.PageAsync("/practice/3?seed=5"), "/practice/3",
            "Practise it: displaced");
        page.QuerySelector("h1")!.TextContent.ShouldBe("paradiddle, displaced");
        page.QuerySelector("#sounding")!.TextContent.ShouldNotBe((await application.PageAsync("/practice/3"))
            .QuerySelector("#sounding")!.TextContent);
        (response, page) = await application.PressAsync(page, response.RequestMessage!.RequestUri!.AbsolutePath, "Practise it: inverted");
        page.QuerySelector("h1")!.TextContent.ShouldBe("paradiddle, displaced, inverted");
    }

    [Fact]
    public async Task Minutes_and_limits_are_told_where_they_cannot_be_read()
    {
        var (response, page) = await application.SendAsync(await application.PageAsync("/studies/1/practice"), "/studies/1/practice",
            ("minutes", "an hour"));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.QuerySelector(".field-error")!.TextContent.ShouldContain("from 0 to 600");
        page.QuerySelectorAll("input[name=minutes]").OfType<IHtmlInputElement>().First().Value.ShouldBe("an hour", "what was typed stays");
        (response, page) = await application.SendAsync(await application.PageAsync("/settings"), "/settings", ("Limit", "fast"));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.QuerySelector(".field-error")!.TextContent.ShouldContain("from 1 to 40");
    }

    [Fact]
    public async Task What_is_practised_already_goes_on_where_it_is()
    {
        var (first, _) = await application.PressAsync(await application.PageAsync("/ideas/6"), "/studies/1/practice?handler=Add&idea=6",
            "Practise it");
        var (second, _) = await application.PressAsync(await application.PageAsync("/ideas/6"), "/studies/1/practice?handler=Add&idea=6",
            "Practise it");
        second.RequestMessage!.RequestUri!.AbsolutePath.ShouldBe(first.RequestMessage!.RequestUri!.AbsolutePath);
        second.RequestMessage.RequestUri.AbsolutePath.ShouldStartWith("/practice/");
    }

    [Fact]
    public async Task Nothing_to_practise_is_said()
    {
        var page = await application.PageAsync("/ideas/5");
        var form = (IHtmlFormElement)page.QuerySelector("#practise")!;
        var response = await application.Client.PostAsync("/studies/1/practice?handler=Add&rudiment=nothing",
            new FormUrlEncodedContent(form.QuerySelectorAll("input").OfType<IHtmlInputElement>().ToDictionary(i => i.Name!, i => i.Value)),
            TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }
}
