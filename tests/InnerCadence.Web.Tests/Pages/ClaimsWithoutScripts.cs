using System.Net;
using AngleSharp.Html.Dom;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Claims made, broken, mended, changed in two tabs, deleted and brought back, as a browser without scripts does it.</summary>
public class ClaimsWithoutScripts(Application application) : IClassFixture<Application>
{
    private const string New = "/studies/1/claims/new";

    private async Task<(string Address, IHtmlDocument Page)> MakeAsync(string test, params (string, string)[] fields)
    {
        var (response, page) = await application.SendAsync(await application.PageAsync($"{New}?test={test}"), New,
            [("Input.Test", test), .. fields]);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        return (response.RequestMessage!.RequestUri!.AbsolutePath, page);
    }

    private static string Standing(IHtmlDocument page) => page.QuerySelector(".lead-line .standing")!.TextContent;

    [Fact]
    public async Task A_claim_falls_by_one_sighting_and_stands_again_when_it_is_rejected_and_the_history_says_why()
    {
        // Demo idea 4 is three in hand: all of it in solos, with enough written down elsewhere.
        var (address, page) = await MakeAsync("only-section", ("Input.Idea", "4"), ("Input.Section", "solo"));
        Standing(page).ShouldBe("supported");
        page.QuerySelector("h1")!.TextContent.ShouldBe("Ilse Marrowby plays three in hand only in the solo");
        page.Body!.TextContent.ShouldContain("One confirmed sighting outside the solo.");

        await application.SendAsync(await application.PageAsync("/ideas/4"), "/ideas/4?handler=Heard", ("Typed.Recording", "4"),
            ("Typed.Bar", "100"));
        page = await application.PageAsync(address);
        Standing(page).ShouldBe("open", "it was heard, and nobody said in which section");
        page.QuerySelectorAll("h2").ShouldContain(h => h.TextContent == "Cannot be placed");

        await application.PressAsync(await application.PageAsync("/ideas/4"), "/ideas/4", "Remove Low Tide Shuffle");
        page = await application.PageAsync(address);
        Standing(page).ShouldBe("supported");
        page.QuerySelectorAll("table.list tbody tr").Select(r => r.QuerySelector(".standing")!.TextContent)
            .ShouldBe(["supported", "open", "supported"]);
        page.QuerySelectorAll("table.list tbody tr")[1].TextContent.ShouldContain("5 of 6 inside");
    }

    [Fact]
    public async Task Each_kind_of_claim_can_be_made_and_changed()
    {
        (string Test, (string, string)[] Fields, string Sentence)[] kinds =
        [
            ("present", [("Input.Idea", "1"), ("Input.Least", "40 %"), ("Input.Kind", "live")],
                "cellar door is in at least 40 % of Ilse Marrowby’s live recordings"),
            ("rate", [("Input.Idea", "1"), ("Input.Least", "0.1")], "Ilse Marrowby plays cellar door at least 0.1 times in 100 bars"),
            ("only-below", [("Input.Idea", "1"), ("Input.Tempo", "150")], "Ilse Marrowby plays cellar door only below 150"),
            ("only-phrase-bar", [("Input.Idea", "1"), ("Input.Bar", "2"), ("Input.Of", "8")],
                "Ilse Marrowby plays cellar door only in the 2nd bar of eight"),
            ("never-before", [("Input.Idea", "1"), ("Input.Date", "1965-03")], "Ilse Marrowby never plays cellar door before 1965-03"),
            ("more-than", [("Input.Idea", "1"), ("Input.Other", "3")], "Ilse Marrowby plays cellar door more often than Pell Ashgrove"),
            ("first", [("Input.Idea", "1"), ("Input.Other", "2")], "Ilse Marrowby has cellar door before Teodor Vansk"),
            ("voice", [("Input.Voice", "SN"), ("Input.Place", "2"), ("Input.Meter", "4/4"), ("Input.Least", "60")],
                "Ilse Marrowby’s snare is on 2 in at least 60 % of bars in 4/4"),
            ("trait", [("Input.Trait", "linear"), ("Input.Least", "10")], "At least 10 % of Ilse Marrowby’s fills are linear"),
        ];
        foreach (var (test, fields, sentence) in kinds)
        {
            var (address, page) = await MakeAsync(test, fields);
            page.QuerySelector("h1")!.TextContent.ShouldBe(sentence);
            (_, page) = await application.SendAsync(await application.PageAsync($"{address}/edit"), $"{address}/edit",
                ("Input.Note", "so it seems"));
            page.QuerySelector("h1")!.TextContent.ShouldBe(sentence);
            page.Body!.TextContent.ShouldContain("so it seems");
        }
    }

    [Theory]
    [InlineData("present", "Input.Least", "most", "percent")]
    [InlineData("present", "Input.Idea", "", "Choose the idea")]
    [InlineData("rate", "Input.Least", "-1", "above 0")]
    [InlineData("only-above", "Input.Tempo", "quick", "is no tempo")]
    [InlineData("only-above", "Input.Tempo", "", "At what tempo")]
    [InlineData("only-section", "Input.Section", "", "Name the kind of section")]
    [InlineData("only-phrase-bar", "Input.Bar", "9", "a bar of the phrase")]
    [InlineData("never-before", "Input.Date", "soon", "is no date")]
    [InlineData("never-before", "Input.Date", "", "Before when")]
    [InlineData("more-than", "Input.Other", "1", "Choose another player")]
    [InlineData("voice", "Input.Place", "9&", "is no place")]
    [InlineData("voice", "Input.Meter", "0/0", "is no meter")]
    [InlineData("trait", "Input.Trait", "", "Choose the trait")]
    public async Task Bad_input_is_told_and_stays(string test, string field, string typed, string told)
    {
        var (response, page) = await application.SendAsync(await application.PageAsync($"{New}?test={test}&idea=1"), New,
            ("Input.Test", test), (field, typed));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.QuerySelectorAll(".field-error").Select(e => e.TextContent).ShouldContain(e => e.Contains(told));
        if (page.QuerySelector($"[name='{field}']") is IHtmlInputElement input) input.Value.ShouldBe(typed);
    }

    [Fact]
    public async Task Two_tabs_on_one_claim_and_a_deletion_undone()
    {
        var (address, _) = await MakeAsync("rate", ("Input.Idea", "2"), ("Input.Least", "3"));
        var (one, two) = (await application.PageAsync($"{address}/edit"), await application.PageAsync($"{address}/edit"));
        (await application.SendAsync(one, $"{address}/edit", ("Input.Least", "4"))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var (response, page) = await application.SendAsync(two, $"{address}/edit", ("Input.Least", "5"));
        response.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        page.QuerySelector(".validation-summary-errors")!.TextContent.ShouldContain("at least 4 times in 100 bars");
        (await application.SendAsync(page, $"{address}/edit", ("Input.Least", "5"))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);

        await application.PressAsync(await application.PageAsync($"{address}/edit"), $"{address}/edit", "Delete this claim");
        await application.PageAsync(address, HttpStatusCode.NotFound);
        await application.PressAsync(await application.PageAsync("/studies/1/trash"), "/studies/1/trash",
            "bring back Ilse Marrowby plays loose hinge at least 5 times in 100 bars");
        await application.PageAsync(address);
    }

    [Fact]
    public async Task What_the_evidence_supports_can_be_made_a_claim_and_is_then_not_suggested()
    {
        var ledger = await application.PageAsync("/studies/1/claims");
        ledger.QuerySelectorAll(".standing.supported").ShouldNotBeEmpty();
        ledger.QuerySelectorAll(".standing.contradicted").ShouldNotBeEmpty();
        ledger.QuerySelectorAll(".standing.open").ShouldNotBeEmpty();
        foreach (var row in (await application.PageAsync("/studies/1/claims?only=contradicted"))
            .QuerySelectorAll("table.ledger .standing")) row.TextContent.ShouldBe("contradicted");
        if (ledger.QuerySelector("a[aria-label^='Make the claim']") is not { } make) return;
        var (response, page) = await application.SendAsync(await application.PageAsync(make.GetAttribute("href")!), New);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        Standing(page).ShouldBe("supported");
        (await application.PageAsync("/studies/1/claims")).QuerySelectorAll("a[aria-label^='Make the claim']")
            .Select(a => a.GetAttribute("aria-label")).ShouldNotContain(make.GetAttribute("aria-label"));
    }

    [Fact]
    public async Task The_next_to_listen_to_says_why_and_a_pick_can_be_repeated()
    {
        var page = await application.PageAsync("/studies/1/next?seed=4");
        page.QuerySelector("h2 + p")!.TextContent.ShouldContain("searched");
        (await application.PageAsync("/studies/1/next?seed=4"))
            .QuerySelector("table.list")!.TextContent.ShouldBe(page.QuerySelector("table.list")!.TextContent);
        (await application.PageAsync("/studies/1")).Body!.TextContent.ShouldContain("Listen to next");
    }

    [Fact]
    public async Task Who_had_it_first_is_drawn_for_all_players()
    {
        var page = await application.PageAsync("/ideas/7/players");
        page.QuerySelectorAll("svg.players .borrowed").Length.ShouldBe(1);
        page.QuerySelectorAll("svg.players .seen").ShouldNotBeEmpty();
        page.QuerySelectorAll("svg.players .vain").ShouldNotBeEmpty();
        (await application.Client.GetStringAsync("/ideas/7/players?handler=Svg", TestContext.Current.CancellationToken))
            .ShouldStartWith("<");
    }
}
