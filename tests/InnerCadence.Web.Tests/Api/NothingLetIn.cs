using System.IO.Compression;
using System.Net;
using System.Text;
using InnerCadence.Core.Interchange;
using InnerCadence.Web.Interchange;
using InnerCadence.Web.Telling;

namespace InnerCadence.Web.Tests.Api;

/// <summary>What others send: pages of other sites, files made to hurt, bodies that break a reader. Each has an answer, and none is an
/// error of ours.</summary>
public class NothingLetIn(Application application) : IClassFixture<Application>
{
    private static readonly CancellationToken Stop = TestContext.Current.CancellationToken;

    private static string Deep(int levels) => string.Concat(Enumerable.Repeat("<a>", levels))
        + string.Concat(Enumerable.Repeat("</a>", levels));

    [Theory]
    [InlineData("Sec-Fetch-Site", "cross-site", HttpStatusCode.Forbidden)]
    [InlineData("Sec-Fetch-Site", "same-site", HttpStatusCode.Forbidden)]
    [InlineData("Sec-Fetch-Site", "same-origin", HttpStatusCode.OK)]
    [InlineData("Sec-Fetch-Site", "none", HttpStatusCode.OK)]
    [InlineData("Origin", "http://elsewhere.example", HttpStatusCode.Forbidden)]
    [InlineData("Origin", "null", HttpStatusCode.Forbidden)]
    [InlineData("Origin", "http://localhost:1", HttpStatusCode.Forbidden)]
    [InlineData("Origin", "http://localhost", HttpStatusCode.OK)]
    [InlineData("X-Nothing", "a script", HttpStatusCode.OK)]
    public async Task A_page_of_another_site_makes_nothing_compute(string header, string value, HttpStatusCode expected)
    {
        foreach (var type in (string[])["text/plain", "application/octet-stream"])
        {
            using var request = new HttpRequestMessage(HttpMethod.Post,
                "/api/convert?from=counts&to=json")
            { Content = new StringContent("SN: 1", Encoding.UTF8, type) };
            request.Headers.Add(header, value);
            (await application.Client.SendAsync(request, Stop)).StatusCode.ShouldBe(expected, type);
        }
    }

    [Fact]
    public void A_file_nested_without_end_is_refused_before_it_is_built()
    {
        ScoreFiles.Read(Encoding.UTF8.GetBytes(Deep(70_000)), out var problem).ShouldBeNull();
        problem!.ShouldContain("nested more than 64 deep");
        using var packed = new MemoryStream();
        using (var zip = new ZipArchive(packed, ZipArchiveMode.Create, leaveOpen: true))
        {
            Put("META-INF/container.xml", "<container><rootfiles><rootfile full-path=\"s.xml\"/></rootfiles></container>");
            Put("s.xml", Deep(2_000_000));
            void Put(string name, string text)
            {
                using var writer = new StreamWriter(zip.CreateEntry(name).Open());
                writer.Write(text);
            }
        }
        ScoreFiles.Read(packed.ToArray(), out problem).ShouldBeNull();
        problem!.ShouldContain("nested more than 64 deep");
    }

    [Fact]
    public void Reading_ends_when_who_asked_has_left()
    {
        var wide = Encoding.UTF8.GetBytes("<score-partwise>" + string.Concat(Enumerable.Repeat("<a/>", 100_000)) + "</score-partwise>");
        Should.Throw<OperationCanceledException>(() => ScoreFiles.Read(wide, out _, PercussionMap.General, new CancellationToken(true)));
    }

    [Theory]
    [InlineData("json", "{\"canonical\":\"SN: 1\",\"canonical\":\"SN: 2\"}")]
    [InlineData("json", "{\"canonical\":\"SN: 1 \\ud800\"}")]
    [InlineData("json", "{\"canonical\":")]
    [InlineData("musicxml", "<a><b></a>")]
    [InlineData("midi", "MThd")]
    public async Task A_broken_body_is_answered(string from, string body)
    {
        var answer = await application.Client.PostAsync($"/api/convert?from={from}&to=counts", new StringContent(body), Stop);
        answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await answer.Content.ReadAsStringAsync(Stop)).ShouldContain("detail");
    }

    [Fact]
    public async Task Json_nested_without_end_is_answered()
    {
        var deep = string.Concat(Enumerable.Repeat("{\"a\":", 100_000)) + "1" + new string('}', 100_000);
        (await application.Client.PostAsync("/api/convert?from=json&to=counts", new StringContent(deep), Stop)).StatusCode.ShouldBe(
            HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task A_toggle_where_no_count_leads_is_refused()
    {
        var answer = await application.Client.PostAsync("/api/count-lines/edit",
            new StringContent("{\"text\":\"SN: 1\",\"do\":\"toggle\",\"strokes\":[{\"at\":7,\"voice\":\"SN\"}]}", Encoding.UTF8,
            "application/json"), Stop);
        answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await answer.Content.ReadAsStringAsync(Stop)).ShouldContain("No count leads to that place");
    }

    [Theory]
    [InlineData("TRACE")]
    [InlineData("PUT")]
    [InlineData("DELETE")]
    public async Task A_method_that_a_page_does_not_know_is_refused(string method)
    {
        foreach (var page in (string[])["/studies/1", "/ideas/1", "/error"])
            ((int)(await application.Client.SendAsync(new(new HttpMethod(method), page), Stop)).StatusCode).ShouldBeOneOf([400, 405], page);
    }

    [Fact]
    public async Task The_page_of_faults_takes_the_token_like_all_others() =>
        (await application.Client.PostAsync("/error?status=404", new FormUrlEncodedContent([]), Stop)).StatusCode.ShouldBe(
            HttpStatusCode.BadRequest);

    [Fact]
    public async Task A_tick_that_is_neither_yes_nor_no_is_a_fault_of_its_field()
    {
        var page = await application.PageAsync("/recordings/1/passages/new");
        var (response, _) = await application.SendAsync(page, "/recordings/1/passages/new", ("Input.Text", "SN: 1"),
            ("Input.BecauseHeard", "perhaps"));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_filter_may_hold_any_letters()
    {
        var page = await application.PageAsync("/studies/1/compare");
        var (response, _) = await application.SendAsync(page, "/studies/1/compare?handler=Save", ("name", "Späte Jahre"),
            ("query", "?section=Überleitung"));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        response.RequestMessage!.RequestUri!.Query.ShouldBe("?section=%C3%9Cberleitung");
    }

    [Fact]
    public void A_text_nested_deeper_than_any_page_is_shown_as_typed()
    {
        var html = ArticleMarkup.Render(new string('>', 300) + " deep", _ => ("", false));
        html.ShouldContain("nested too deep");
        html.ShouldContain("&gt;&gt;&gt;");
    }
}
