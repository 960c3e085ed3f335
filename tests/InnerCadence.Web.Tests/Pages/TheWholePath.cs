using System.Net;
using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Forms as a browser without scripts sends them: good input, bad input, undo, two tabs.</summary>
public class TheWholePath(Application application) : IClassFixture<Application>
{
    [Fact]
    public async Task From_an_empty_study_to_how_often_without_scripts()
    {
        var (response, desk) = await application.SendAsync(await application.PageAsync("/studies/new"), "/studies/new",
            ("Input.Subject", "Maud Linnet"));
        var study = response.RequestMessage!.RequestUri!.AbsolutePath;
        desk.QuerySelector(".empty")!.TextContent.ShouldContain("Begin with a recording");

        (response, _) = await application.SendAsync(
            await application.PageAsync($"{study}/recordings/new"), $"{study}/recordings/new",
            ("Input.Title", "Slate Path"), ("Input.TotalBars", "64"), ("Input.Searched", "64"), ("Input.Tempo", "120"),
                ("Input.Recorded", "1970-05"));
        var recording = response.RequestMessage!.RequestUri!.AbsolutePath;

        (response, var passage) = await application.SendAsync(
            await application.PageAsync($"{recording}/passages/new"), $"{recording}/passages/new",
            ("Input.Text", "HH: 8ths | %\nSN: 2 4 | 2 (3e) 3a 4\nBD: 1 3 | 1 3&"), ("Input.StartsAt", "0:30"), ("Input.Bar", "17"));
        var address = response.RequestMessage!.RequestUri!.AbsolutePath;
        passage.QuerySelector("#words")!.TextContent.ShouldContain("Hat on every eighth");
        passage.QuerySelectorAll("svg.strands circle.bead").Length.ShouldBe(26);

        (response, var idea) = await application.SendAsync(await application.PageAsync($"{address}/cut?from=2.3e&to=2.4%26"),
            $"{address}/cut", ("Input.Nickname", "trip step"), ("Input.Leave", "HH"));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var ideaAddress = response.RequestMessage!.RequestUri!.AbsolutePath;
        idea.QuerySelector(".concordance tbody tr")!.TextContent.ShouldContain("bar 18, the e of 3");
        idea.QuerySelector(".concordance tbody tr")!.TextContent.ShouldContain("0:33.125");

        var judge = idea.QuerySelector(".concordance form")!.GetAttribute("action")!;
        (response, idea) = await application.SendAsync(idea, judge, ("judgement", "Confirmed"));
        response.RequestMessage!.RequestUri!.AbsolutePath.ShouldBe(ideaAddress);
        idea.QuerySelector("table.numbers")!.TextContent.ShouldContain("1 of 1");
        idea.QuerySelector("#presence")!.TextContent.ShouldBe("21 to 100 %");
        idea.QuerySelector("#rate")!.TextContent.ShouldBe("0.0 to 8.7");

        (_, idea) = await application.SendAsync(idea, "", []);
        idea.QuerySelector("form#judge")!.ShouldNotBeNull("undo leads back to the sighting, which waits again");
    }

    [Theory]
    [InlineData("/studies/1/recordings/new", "Input.Duration", "three minutes", "is no time")]
    [InlineData("/studies/1/recordings/new", "Input.Recorded", "last summer", "is no date")]
    [InlineData("/studies/1/recordings/new", "Input.Tempo", "700", "20 to 400")]
    [InlineData("/studies/1/recordings/new", "Input.Meter", "4/5", "is no meter")]
    [InlineData("/studies/1/recordings/new", "Input.TotalBars", "-4", "is not a number of bars")]
    [InlineData("/recordings/1/passages/new", "Input.StartsAt", "1:75", "is no time")]
    [InlineData("/recordings/1/passages/new", "Input.Bar", "zero", "is not a bar")]
    [InlineData("/studies/new", "Input.Subject", "", "Write a name")]
    [InlineData("/passages/2/cut", "Input.Ends", "9.9", "is no place")]
    [InlineData("/passages/2/cut", "Input.Text", "SN: 9", "counts 1 to 4")]
    [InlineData("/recordings/1", "Search.Bars", "10 to 20", "how many bars were searched")]
    public async Task Bad_input_is_told_beside_its_field_and_stays(string address, string field, string typed, string told)
    {
        var (response, page) = await application.SendAsync(await application.PageAsync(address), address, (field, typed));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var input = page.QuerySelector($"[name='{field}']")!;
        input.GetAttribute("aria-invalid").ShouldBe("true");
        (input is IHtmlTextAreaElement area ? area.Value : input.GetAttribute("value") ?? "").ShouldBe(typed);
        page.GetElementById(input.GetAttribute("aria-describedby")!)!.TextContent.ShouldContain(told);
    }

    [Fact]
    public async Task Count_lines_with_faults_are_kept_as_typed_and_their_good_lines_count()
    {
        const string text = "HH: 8ths\nSN: 2 zz 4\nST: R L";
        var (response, page) = await application.SendAsync(await application.PageAsync("/recordings/2/passages/new"),
            "/recordings/2/passages/new", ("Input.Text", text));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        ((IHtmlTextAreaElement)page.QuerySelector("textarea.counts")!).Value.ShouldBe(text);
        page.QuerySelectorAll("#problems li.error").Length.ShouldBe(2);
        page.QuerySelectorAll("#strands circle.bead").Length.ShouldBe(10);
    }

    [Fact]
    public async Task The_second_of_two_tabs_sees_both_texts()
    {
        var (first, second) = (await application.PageAsync("/passages/5"), await application.PageAsync("/passages/5"));
        (await application.SendAsync(first, "/passages/5", ("Input.Text", "SN: 1 2"))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var (response, page) = await application.SendAsync(second, "/passages/5", ("Input.Text", "SN: 3 4"));
        response.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        page.QuerySelector("pre.counts")!.TextContent.ShouldBe("SN: 1 2");
        ((IHtmlTextAreaElement)page.QuerySelector("textarea.counts")!).Value.ShouldBe("SN: 3 4");
        (await application.SendAsync(page, "/passages/5", ("Input.Text", "SN: 3 4"))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        ((IHtmlTextAreaElement)(await application.PageAsync("/passages/5")).QuerySelector("textarea.counts")!).Value.ShouldBe("SN: 3 4");
    }

    [Fact]
    public async Task Changes_of_two_tabs_are_merged_and_nothing_is_saved_before_the_person_saves()
    {
        const string began = "HH: 8ths\nSN: 2 4\nBD: 1 3";
        await application.SendAsync(await application.PageAsync("/passages/6"), "/passages/6", ("Input.Text", began));
        var (first, second) = (await application.PageAsync("/passages/6"), await application.PageAsync("/passages/6"));
        await application.SendAsync(first, "/passages/6", ("Input.Text", "HH: 16ths\nSN: 2 4f\nBD: 1 3"));
        var (_, conflict) = await application.SendAsync(second, "/passages/6", ("Input.Text", "HH: 8ths\nSN: 2 (2a) 4\nBD: 1 3&"));
        var (_, merged) = await application.SendAsync(conflict, "/passages/6?handler=Merge");
        Text(merged).ShouldBe("HH: 16ths\nSN: 2 (2a) 4\n# other tab: SN: 2 4f\nBD: 1 3&");
        merged.QuerySelector("#merged")!.TextContent.ShouldContain("At 1 place");
        Text(await application.PageAsync("/passages/6")).ShouldContain("2 4f");
        (await application.SendAsync(merged, "/passages/6")).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        Text(await application.PageAsync("/passages/6")).ShouldContain("SN: 2 (2a) 4");
    }

    [Fact]
    public async Task The_second_of_two_judgements_sees_the_first_and_its_reason_stays()
    {
        var (first, second) = (await application.PageAsync("/sightings/3"), await application.PageAsync("/sightings/3"));
        await application.SendAsync(first, "/sightings/3", ("judgement", "Rejected"), ("reason", "only the hat"));
        var (response, page) = await application.SendAsync(second, "/sightings/3", ("judgement", "Confirmed"), ("reason", "clear as day"));
        response.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        page.QuerySelector("#judge")!.TextContent.ShouldContain("“only the hat”");
        page.QuerySelector("#reason")!.GetAttribute("value").ShouldBe("clear as day");
        (await application.SendAsync(page, "/sightings/3", ("judgement", "Confirmed"))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await application.PageAsync("/sightings/3")).QuerySelector("#judge")!.TextContent.ShouldContain("now: confirmed");
    }

    [Fact]
    public async Task Drum_tab_text_in_the_field_becomes_count_lines_and_a_fault_in_it_is_told()
    {
        var (_, page) = await application.SendAsync(await application.PageAsync("/recordings/2/passages/new"),
            "/recordings/2/passages/new?handler=Tab", ("Input.Text", "HH|x-x-x-x-|\nSN|--x---x-|"), ("Input.Note", "from a book"));
        Text(page).ShouldBe("HH: 4ths\nSN: 2 4\n");
        // What was there can be put back, and put away again; what was typed beside it stays.
        var (_, before) = await application.PressAsync(page, "/recordings/2/passages/new", "Put back what stood here before");
        Text(before).ShouldBe("HH|x-x-x-x-|\nSN|--x---x-|");
        before.QuerySelector("[name='Input.Note']")!.TextContent.ShouldContain("from a book");
        (_, page) = await application.PressAsync(before, "/recordings/2/passages/new", "Put back what stood here before");
        // On the page that is the answer to a step, Save saves.
        var (kept, saved) = await application.PressAsync(page, "/recordings/2/passages/new?handler=Back", "Save");
        kept.RequestMessage!.RequestUri!.AbsolutePath.ShouldStartWith("/passages/");
        Text(saved).ShouldBe("HH: 4ths\nSN: 2 4\n");
        var (response, again) = await application.SendAsync(await application.PageAsync("/passages/7"), "/passages/7?handler=Tab",
            ("Input.Text", "HH|x-q-|"));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        Text(again).ShouldBe("HH|x-q-|");
    }

    private static string Text(IHtmlDocument page) => ((IHtmlTextAreaElement)page.QuerySelector("textarea.counts")!).Value;

    [Theory]
    [InlineData("/recordings/4/edit", "/recordings/4")]
    [InlineData("/passages/9", "/passages/9")]
    [InlineData("/ideas/2/edit", "/ideas/2")]
    public async Task A_deletion_can_be_undone(string address, string thing)
    {
        var page = await application.PageAsync(address);
        var delete = page.Forms.Single(f => f.GetAttribute("action")?.Contains("handler=Delete") == true).GetAttribute("action")!;
        var token = ((IHtmlInputElement)page.QuerySelector("[name=__RequestVerificationToken]")!).Value;
        var response = await application.Client.PostAsync(delete, new FormUrlEncodedContent([new("__RequestVerificationToken", token)]),
            TestContext.Current.CancellationToken);
        await application.PageAsync(thing, HttpStatusCode.NotFound);
        var after = new AngleSharp.Html.Parser.HtmlParser()
            .ParseDocument(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
        var undo = after.QuerySelector("#undo")!.Closest("form")!.GetAttribute("action")!;
        await application.Client.PostAsync(undo, new FormUrlEncodedContent([new("__RequestVerificationToken", token)]),
            TestContext.Current.CancellationToken);
        await application.PageAsync(thing);
    }

    [Fact]
    public async Task Sightings_come_as_csv_and_no_field_can_become_a_formula()
    {
        var lines = (await application.Client.GetStringAsync("/ideas/1?handler=Sheet&format=csv", TestContext.Current.CancellationToken))
            .Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        lines[0].ShouldStartWith("player,title,take,recorded,clock,bar,count");
        lines.Length.ShouldBe((await application.PageAsync("/ideas/1")).QuerySelectorAll(".concordance tbody tr").Length + 1);
        lines.ShouldContain(l => l.Contains("Tarred Rope,take 1,1965-03-02,0:28.983,13,the e of 3"));
    }

    [Fact]
    public async Task The_jump_box_goes_straight_to_the_only_thing_of_a_name()
    {
        var response = await application.Client.GetAsync("/studies/1/find?q=rope+ladder", TestContext.Current.CancellationToken);
        response.RequestMessage!.RequestUri!.AbsolutePath.ShouldBe("/ideas/3");
        (await application.PageAsync("/studies/1/find?q=100%25_no")).QuerySelector("p.quiet")!.TextContent.ShouldContain("is called so");
    }
}
