using System.Net;
using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Two tabs on one thing, and a second click: nobody overwrites, deletes or makes what they did not see.</summary>
public class TwoTabs(Application application) : IClassFixture<Application>
{
    [Theory]
    [InlineData("/settings", "Judge", "Odd", "Even", "kept now: Odd")]
    [InlineData("/settings", "keep", "5", "6", "the last 5")]
    [InlineData("/settings", "Layout", "SN 0 40", "SN 1 41", "The places of your drums were changed")]
    public async Task The_second_tab_is_told_and_may_save_again(string address, string field, string first, string second, string told)
    {
        var (one, two) = (await application.PageAsync(address), await application.PageAsync(address));
        (await application.SendAsync(one, address, (field, first))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var (response, page) = await application.SendAsync(two, address, (field, second));
        response.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        page.QuerySelector("main")!.TextContent.ShouldContain(told);
        Value(page, field).ShouldBe(second);
        (await application.SendAsync(page, address, (field, second))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        Value(await application.PageAsync(address), field).ShouldContain(second);
    }

    [Theory]
    [InlineData("/settings", "?handler=Limits", "Limit", 5, "6, 6, 6, 6, 6")]
    [InlineData("/studies/1/practice", "?handler=Week", "minutes", 7, "6, 6, 6, 6, 6, 6, 6")]
    public async Task So_it_is_where_several_fields_say_one_thing(string address, string handler, string field, int fields, string told)
    {
        var (one, two) = (await application.PageAsync(address), await application.PageAsync(address));
        (await PostAsync(one, "6")).StatusCode.ShouldBe(HttpStatusCode.OK);
        var refused = await PostAsync(two, "7");
        refused.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        var page = new AngleSharp.Html.Parser.HtmlParser()
            .ParseDocument(await refused.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
        page.QuerySelector("main")!.TextContent.ShouldContain(told);
        Value(page, field).ShouldBe("7");
        (await PostAsync(page, "7")).StatusCode.ShouldBe(HttpStatusCode.OK);
        Value(await application.PageAsync(address), field).ShouldBe("7");

        Task<HttpResponseMessage> PostAsync(IHtmlDocument from, string value)
        {
            var form = from.Forms.Single(f => f.QuerySelector($"[name='{field}']") is not null);
            string Hidden(string name) => form.QuerySelector($"[name='{name}']")!.GetAttribute("value")!;
            return application.Client.PostAsync(address + handler,
                new FormUrlEncodedContent([.. Enumerable.Repeat(KeyValuePair.Create(field, value), fields),
                KeyValuePair.Create("seen", Hidden("seen")),
                    KeyValuePair.Create("__RequestVerificationToken", Hidden("__RequestVerificationToken"))]),
                    TestContext.Current.CancellationToken);
        }
    }

    [Fact]
    public async Task A_source_under_a_key_that_is_there_asks_before_it_takes_its_place()
    {
        const string address = "/studies/1/article";
        await application.SendAsync(await application.PageAsync(address), address, ("key", "van-1975"), ("source", "A talk in a van."));
        var (response, page) = await application.SendAsync(await application.PageAsync(address), address, ("key", "van-1975"),
            ("source", "A letter."));
        response.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        page.QuerySelector("main")!.TextContent.ShouldContain("“A talk in a van.”");
        (await application.PageAsync(address)).QuerySelector("main")!.TextContent.ShouldNotContain("A letter.");
        (await application.SendAsync(page, address, ("key", "van-1975"))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await application.PageAsync(address)).QuerySelector("main")!.TextContent.ShouldContain("A letter.");
    }

    [Theory]
    [InlineData("/recordings/3/edit", "Input.Note", "recording", "Note “written meanwhile”")]
    [InlineData("/ideas/4/edit", "Input.Note", "idea", "Note “written meanwhile”")]
    [InlineData("/claims/1/edit", "Input.Sentence", "claim", "“written meanwhile”")]
    [InlineData("/passages/5", "Input.Note", "passage", "changed after you opened this page")]
    public async Task A_delete_from_a_stale_page_says_what_changed(string address, string field, string what, string told)
    {
        var stale = await application.PageAsync(address);
        (await application.SendAsync(await application.PageAsync(address), address,
            (field, "written meanwhile"))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var (response, page) = await application.PressAsync(stale, address, $"Delete this {what}");
        response.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        page.QuerySelector(".validation-summary-errors")!.TextContent.ShouldContain(told);
        Value(page, field).ShouldBe("written meanwhile");
        var (done, after) = await application.PressAsync(page, address, $"Delete this {what}");
        done.StatusCode.ShouldBe(HttpStatusCode.OK);
        after.QuerySelector(".notice")!.TextContent.ShouldContain("is deleted");
    }

    [Theory]
    [InlineData("/studies/new", "Input.Name", "Pressed twice", "Input.Subject", "/")]
    [InlineData("/studies/1/recordings/new", "Input.Title", "Pressed twice", "Input.Take", "/studies/1/recordings")]
    public async Task A_second_click_makes_one(string address, string field, string name, string other, string list)
    {
        var page = await application.PageAsync(address);
        var answers = await Task.WhenAll(Enumerable.Range(0, 3)
            .Select(_ => application.SendAsync(page, address, (field, name), (other, "Bo Harrow"))));
        answers.Select(a => a.Response.RequestMessage!.RequestUri).Distinct().Count().ShouldBe(1);
        (await application.PageAsync(list)).QuerySelectorAll("main a").Count(a => a.TextContent.Contains(name)).ShouldBe(1);
        // Other words from the same page are another thing.
        await application.SendAsync(page, address, (field, name), (other, "Nell Tarrow"));
        (await application.PageAsync(list)).QuerySelectorAll("main a").Count(a => a.TextContent.Contains(name)).ShouldBe(2);
    }

    private static string Value(IHtmlDocument page, string field) => page.QuerySelector($"main [name='{field}']") switch
    {
        IHtmlTextAreaElement area => area.Value,
        IHtmlInputElement input => input.Value,
        _ => "",
    };
}
