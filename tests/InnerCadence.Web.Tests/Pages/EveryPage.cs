using System.Net;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>What holds for every page.</summary>
public class EveryPage(Application application) : IClassFixture<Application>
{
    [Theory]
    [InlineData("/")]
    [InlineData("/studies/new")]
    [InlineData("/studies/1")]
    [InlineData("/studies/1/edit")]
    [InlineData("/studies/1/recordings")]
    [InlineData("/studies/1/recordings/new")]
    [InlineData("/studies/1/recordings?q=rope&kind=studio&sort=tempo&order=down&searched=all&from=1960&to=1970&page=7")]
    [InlineData("/studies/1/recordings?player=x&kind=opera&sort=drop&from=last&searched=maybe")]
    [InlineData("/studies/1/recordings/sheet")]
    [InlineData("/studies/1/recordings/import")]
    [InlineData("/studies/1/ensembles")]
    [InlineData("/ensembles/1")]
    [InlineData("/releases/1")]
    [InlineData("/studies/1/tables")]
    [InlineData("/files")]
    [InlineData("/files?study=1")]
    [InlineData("/files?recording=3")]
    [InlineData("/studies/1/modulation?bpm=80&steps=1/6+%3D+1/4,+3/16+%3D+1/4+in+4/4+to+7/8")]
    [InlineData("/studies/1/modulation?bpm=fast&steps=a+%3D+b")]
    [InlineData("/recordings/2/tempo?place=1:32.4")]
    [InlineData("/recordings/2/issues?clock=1:32.4&of=1")]
    [InlineData("/recordings/2?from=10&to=40")]
    [InlineData("/recordings/2?from=NaN&to=-1e308")]
    [InlineData("/recordings/1/listen")]
    [InlineData("/studies/1/blind?seed=7&number=2&since=1790000000")]
    [InlineData("/studies/1/blind?seed=7&number=9999&since=1790000000")]
    [InlineData("/studies/1/like")]
    [InlineData("/studies/1/like?text=SN:+3e+3a+4&near=true&rates=true&drum=family")]
    [InlineData("/ideas/7?group=year")]
    [InlineData("/ideas/1?group=verdict&sort=tempo")]
    [InlineData("/settings")]
    [InlineData("/studies/1/discovery")]
    [InlineData("/studies/1/compare")]
    [InlineData("/studies/1/compare?a=kind-live&b=kind-studio&idea=3&cautious=true&from=1964&to=1970&ensemble=none")]
    [InlineData("/studies/1/compare?player=2&idea=99&a=?&b=")]
    [InlineData("/ideas/1/where")]
    [InlineData("/ideas/5/where?cautious=true")]
    [InlineData("/studies/1/pair")]
    [InlineData("/studies/1/pair?one=22&two=23")]
    [InlineData("/studies/1/bars")]
    [InlineData("/studies/1/bars?player=1&recording=3&threshold=0.3&kind=groove&from=1960&to=1980")]
    [InlineData("/studies/1/bars?player=99&recording=x&threshold=7&kind=opera&from=last&to=-1")]
    [InlineData("/studies/1/fingerprint")]
    [InlineData("/studies/1/fingerprint?a=kind-studio&b=kind-live&aspect=ghost&parts=3&voice=SN&at=10080")]
    [InlineData("/studies/1/fingerprint?a=x&b=y&aspect=z&parts=5&meter=1/0&voice=Q&at=-4")]
    [InlineData("/passages/1/rhythm")]
    [InlineData("/passages/1/timing")]
    [InlineData("/passages/1/timing?by=99")]
    [InlineData("/studies/1/feel?a=nobody&voice=XX")]
    [InlineData("/ideas/1/look")]
    [InlineData("/studies/1/departing?written=true")]
    [InlineData("/studies/1/disagree")]
    [InlineData("/studies/1/recurring")]
    [InlineData("/studies/1/ideas/named?text=SN:+2+4")]
    [InlineData("/studies/1/ideas/named")]
    [InlineData("/recordings/1/commonest?section=nowhere")]
    [InlineData("/passages/22/rhythm?by=SN&cycle=7&unit=sixteenths&threshold=0.2")]
    [InlineData("/passages/22/rhythm?by=nobody&cycle=many&unit=miles&threshold=9")]
    [InlineData("/recordings/1")]
    [InlineData("/recordings/1/edit")]
    [InlineData("/recordings/1/passages/new")]
    [InlineData("/studies/1/passages")]
    [InlineData("/passages/1")]
    [InlineData("/passages/2/cut?from=2.3e&to=end")]
    [InlineData("/studies/1/ideas")]
    [InlineData("/ideas/1")]
    [InlineData("/ideas/1?show=confirmed&sort=tempo&recording=1")]
    [InlineData("/ideas/1/edit")]
    [InlineData("/sightings/1")]
    [InlineData("/studies/1/find?q=herring")]
    [InlineData("/studies/1/claims")]
    [InlineData("/studies/1/claims?only=nothing")]
    [InlineData("/studies/1/claims/new")]
    [InlineData("/studies/1/claims/new?test=voice")]
    [InlineData("/studies/1/claims/new?test=magic&idea=none")]
    [InlineData("/claims/1")]
    [InlineData("/claims/2/edit")]
    [InlineData("/ideas/3/players")]
    [InlineData("/studies/1/next?player=2&tempo=true&release=true&seed=-3")]
    [InlineData("/studies/1/article")]
    [InlineData("/studies/1/report")]
    [InlineData("/studies/1/report?idea=1&idea=nothing&part=magic&paper=vellum&notation=tablature&chosen=true")]
    [InlineData("/passages/3/hands")]
    [InlineData("/passages/14/hands?school=x&tempo=fast&hands=three&tie=BD:R,,SN")]
    [InlineData("/studies/1/rudiments")]
    [InlineData("/studies/1/rudiments/paradiddle")]
    [InlineData("/studies/1/practice")]
    [InlineData("/practice/1?seed=-4")]
    [InlineData("/guide")]
    [InlineData("/keys")]
    [InlineData("/speed")]
    public async Task Opens_under_a_strict_policy_with_no_script_or_style_of_its_own(string address)
    {
        var response = await application.Client.GetAsync(address, TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var policy = response.Headers.GetValues("Content-Security-Policy").Single();
        policy.ShouldContain("default-src 'none'");
        policy.ShouldNotContain("unsafe");
        response.Headers.GetValues("X-Content-Type-Options").ShouldBe(["nosniff"]);
        var page = await application.PageAsync(address);
        page.QuerySelectorAll("[style], style, script:not([src]), [onclick], [onsubmit]").ShouldBeEmpty();
        page.QuerySelectorAll("[src], link[href]").Select(e => e.GetAttribute("src") ?? e.GetAttribute("href"))
            .ShouldAllBe(a => a!.StartsWith('/'));
        page.QuerySelectorAll("h1").Length.ShouldBe(1, address == "/guide" ? "" : address);
    }

    [Theory]
    [InlineData("/studies/99")]
    [InlineData("/recordings/99")]
    [InlineData("/passages/99")]
    [InlineData("/ideas/99")]
    [InlineData("/sightings/99")]
    [InlineData("/claims/99")]
    [InlineData("/practice/99")]
    [InlineData("/passages/99/hands")]
    [InlineData("/studies/1/rudiments/nothing")]
    [InlineData("/studies/1/article/editions/7")]
    [InlineData("/studies/1/article/differences?from=1&to=2")]
    [InlineData("/claims/99/edit")]
    [InlineData("/ideas/99/players")]
    [InlineData("/ensembles/99")]
    [InlineData("/releases/99")]
    [InlineData("/imports/99")]
    [InlineData("/files/99")]
    [InlineData("/files/99/study")]
    [InlineData("/files?study=99")]
    [InlineData("/files?recording=99")]
    [InlineData("/recordings/3/passages/new?file=99")]
    [InlineData("/sessions/99")]
    [InlineData("/recordings/99/listen")]
    [InlineData("/recordings/99/tempo")]
    [InlineData("/studies/1/tables/passwords")]
    [InlineData("/passages/none")]
    [InlineData("/ideas/-1")]
    [InlineData("/ideas/99999999999999999999")]
    [InlineData("/nothing/like/this")]
    public async Task An_address_that_leads_nowhere_says_so(string address) =>
        (await application.PageAsync(address, HttpStatusCode.NotFound)).QuerySelector("h1")!.TextContent.ShouldBe("Not here");

    [Fact]
    public async Task A_change_without_its_token_is_refused_and_what_was_typed_comes_back()
    {
        var response = await application.Client.PostAsync(
            "/recordings/1/passages/new", new FormUrlEncodedContent(new Dictionary<string, string> { ["Input.Text"] = "SN: 2 4 keep me" }),
                TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain("SN: 2 4 keep me");
    }

    [Fact]
    public async Task Another_host_name_is_refused()
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, "/") { Headers = { Host = "elsewhere.example" } };
        (await application.Client.SendAsync(request, TestContext.Current.CancellationToken)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Health_and_the_description_of_the_api_are_there()
    {
        (await application.Client.GetStringAsync("/healthz", TestContext.Current.CancellationToken)).ShouldBe("Healthy");
        var description = await application.Client.GetStringAsync("/openapi/v1.json", TestContext.Current.CancellationToken);
        description.ShouldContain("/api/count-lines/parse");
        description.ShouldContain("/api/ideas/match");
    }
}
