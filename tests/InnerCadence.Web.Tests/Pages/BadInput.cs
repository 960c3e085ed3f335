using System.Net;
using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Every field of every form against everything that people and machines type: never an error of ours, never a script, and the
/// text stays.</summary>
public class BadInput(Application application) : IClassFixture<Application>
{
    private static readonly Dictionary<string, string> Nasty = new()
    {
        ["nothing"] = "",
        ["blanks"] = "   \t ",
        ["markup"] = "<script>alert(1)</script><b onmouseover=alert(1)>\"'>",
        ["sql"] = "'; drop table study; --",
        ["control"] = "a\u0001b\u0008c\u007F",
        ["right to left"] = "\u202Eevil\u202C שלום مرحبا",
        ["combining"] = "e\u0301\u0323 𝄞 👩‍🚀",
        ["lone half"] = "\uD834 broken",
        ["replacement"] = "caf\uFFFD",
        ["huge"] = new string('x', 20_000),
        ["negative"] = "-1",
        ["absurd"] = "99999999999999999999999999",
        ["float"] = "1e308",
        ["date"] = "1971-02-30",
        ["path"] = "../../etc/passwd",
        ["template"] = "{{7*7}} ${7*7} @(7*7)",
    };

    public static TheoryData<string, string> Cases
    {
        get
        {
            var cases = new TheoryData<string, string>();
            foreach (var form in (string[])["/studies/new", "/studies/1/edit", "/studies/1/recordings/new", "/recordings/1/edit",
                "/recordings/1/passages/new", "/passages/3", "/passages/2/cut", "/ideas/4/edit", "/recordings/2"])
                foreach (var kind in Nasty.Keys) cases.Add(form, kind);
            // Forms whose fields go through the same readers: what can break a page or a database is enough.
            foreach (var form in (string[])["/recordings/3/issues", "/ensembles/2", "/releases/2", "/studies/1/recordings/sheet"])
                foreach (var kind in (string[])["markup", "sql", "control", "lone half", "huge"]) cases.Add(form, kind);
            return cases;
        }
    }

    [Theory, MemberData(nameof(Cases))]
    public async Task Is_kept_or_refused_but_never_lost_and_never_runs(string form, string kind)
    {
        var text = Nasty[kind];
        var page = await application.PageAsync(form);
        var fields = page.Forms.First(f => f.Method == "post"
            && f.QuerySelector("[name^='Input'], [name^='Search.'], [name^='Issue.']") is not null)
            .QuerySelectorAll("[name^='Input'], [name^='Search.'], [name^='Issue.']")
            .Take(13).Where(e => e is IHtmlTextAreaElement or IHtmlSelectElement
                || (e is IHtmlInputElement { Type: not ("hidden" or "checkbox") })).Select(e => e.GetAttribute("name")!).ToList();
        foreach (var field in fields)
        {
            var (response, answer) = await application.SendAsync(page, form, (field, text));
            var about = $"{form}, {field}, {kind}";
            ((int)response.StatusCode).ShouldBeOneOf([200, 409, 422], about);
            answer.QuerySelectorAll("script:not([src]), [onmouseover], b[onmouseover]").ShouldBeEmpty(about);
            if (response.StatusCode != HttpStatusCode.UnprocessableEntity || answer.QuerySelector($"[name='{field}']") is not { } again
                || again is IHtmlSelectElement) continue;
            Plain(again is IHtmlTextAreaElement area ? area.Value : again.GetAttribute("value") ?? "").ShouldBe(Plain(text), about);
        }
    }

    [Theory]
    [InlineData("/studies/1/find?q=%00")]
    [InlineData("/studies/1/find?q=%27%3B+drop+table+study%3B--")]
    [InlineData("/ideas/1?show=%3Cscript%3E&sort=%00&recording=-5&player=x")]
    [InlineData("/passages/2/cut?from=%00&to=999999999999.9")]
    [InlineData("/ideas/1?handler=Sheet&format=csv&show=%00")]
    public async Task Addresses_are_read_as_carefully_as_fields(string address)
    {
        var response = await application.Client.GetAsync(address, TestContext.Current.CancellationToken);
        ((int)response.StatusCode).ShouldBeOneOf(200, 400, 404, 422);
    }

    [Theory]
    [InlineData("/api/sound/voices/..%2F..%2Fetc%2Fpasswd.wav", 404)]
    [InlineData("/api/sound/voices/SN-normal-plain-0.wav", 200)]
    [InlineData("/vendored/../appsettings.json", 404)]
    [InlineData("/appsettings.json", 404)]
    [InlineData("/%2e%2e/%2e%2e/etc/passwd", 404)]
    public async Task Paths_never_come_from_input(string address, int status) =>
        ((int)(await application.Client.GetAsync(address, TestContext.Current.CancellationToken)).StatusCode).ShouldBe(status);

    [Fact]
    public async Task Bytes_that_are_no_text_are_answered_clearly()
    {
        var body = new ByteArrayContent([0xFF, 0xFE, 0x00, 0x80, 0xC3, 0x28]);
        body.Headers.ContentType = new("application/json");
        (await application.Client.PostAsync("/api/count-lines/parse", body, TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task A_zero_byte_which_no_browser_sends_is_refused_before_anything_is_read()
    {
        var (response, answer) = await application.SendAsync(await application.PageAsync("/studies/new"), "/studies/new",
            ("Input.Subject", "a\0b"));
        response.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        answer.QuerySelector("h1")!.TextContent.ShouldBe("Not understood");
    }

    [Fact]
    public async Task Wild_text_in_a_name_is_shown_as_it_is()
    {
        var (response, _) = await application.SendAsync(await application.PageAsync("/studies/new"), "/studies/new",
            ("Input.Subject", "<i>Ann</i> & 'Bo' \u202Eok"));
        var study = response.RequestMessage!.RequestUri!.AbsolutePath;
        (await application.PageAsync(study)).QuerySelector("h1")!.TextContent.ShouldBe("<i>Ann</i> & 'Bo' \u202Eok");
    }

    /// <summary>Line ends and what a form cannot carry are the same either way; blanks at the ends of a line of text are a browser's
    /// own.</summary>
    private static string Plain(string text) => text.Replace("\r\n", "\n").Replace('\uD834', '\uFFFD').Trim();
}
