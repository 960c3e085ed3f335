using System.Net;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Kits, toms and other readings without scripts.</summary>
public class KitAndReadings(Application application) : IClassFixture<Application>
{
    [Fact]
    public async Task The_kit_of_a_recording_is_kept_offered_and_what_is_not_on_it_is_said()
    {
        await application.SendAsync(await application.PageAsync("/recordings/1/edit"), "/recordings/1/edit", ("Input.Kit", "FT T1"));
        var edit = await application.PageAsync("/recordings/1/edit");
        edit.QuerySelector("#Input_Kit")!.GetAttribute("value").ShouldBe("T1 FT");
        var bench = await application.PageAsync("/recordings/1/passages/new");
        bench.Body!.TextContent.ShouldContain("as on this kit (T1 FT)");
    }

    [Fact]
    public async Task Toms_are_remapped_in_the_field_and_nothing_is_saved()
    {
        const string bench = "/recordings/2/passages/new";
        var (answer, page) = await application.SendAsync(await application.PageAsync(bench), bench + "?handler=Toms",
            ("Input.Text", "T1: 1\nT2: 2\nT3: 3\nFT: 4\n"), ("toms", "2"));
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        page.QuerySelector("#Input_Text")!.TextContent.Trim().ShouldBe("T1: 1 2\nFT: 3 4");
    }

    [Theory]
    [InlineData("/recordings/3/edit", "Input.Kit", "SN T1", "from high to low by their codes")]
    public async Task A_kit_of_other_drums_is_refused_beside_its_field(string address, string field, string typed, string told)
    {
        var (answer, page) = await application.SendAsync(await application.PageAsync(address), address, (field, typed));
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.Body!.TextContent.ShouldContain(told);
        page.QuerySelector("#Input_Kit")!.GetAttribute("value").ShouldBe(typed);
    }

    [Fact]
    public async Task Every_picture_of_a_passage_is_a_file()
    {
        foreach (var (format, type, says) in ((string, string, string)[])[("ring", "image/svg+xml", "<svg"),
            ("svg", "image/svg+xml", "<svg"), ("words", "text/plain", "on"), ("counts", "text/plain", ":")])
        {
            var answer = await application.Client.GetAsync($"/passages/1/as/{format}", TestContext.Current.CancellationToken);
            answer.Content.Headers.ContentType!.MediaType.ShouldBe(type);
            (await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain(says);
        }
        (await application.Client.GetAsync("/passages/1/as/tape", TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound);
    }
}
