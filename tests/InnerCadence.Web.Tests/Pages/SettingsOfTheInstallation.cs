using System.Net;
using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>What is set for the whole installation, without scripts: backups, and what sounds of other programs are.</summary>
public class SettingsOfTheInstallation(Application application) : IClassFixture<Application>
{
    private Task<(HttpResponseMessage Response, IHtmlDocument Page)> SendAsync(IHtmlDocument page, params (string, string)[] fields) =>
        application.SendAsync(page, "/settings", fields);

    private Task<IHtmlDocument> SettingsAsync() => application.PageAsync("/settings");

    [Fact]
    public async Task A_backup_is_made_saved_restored_and_deleted()
    {
        var (_, made) = await application.PressAsync(await SettingsAsync(), "/settings", "Back up now");
        var row = made.QuerySelector("#backups tbody tr")!;
        row.TextContent.ShouldContain("by hand");
        var file = await application.Client.GetByteArrayAsync(row.QuerySelector("a")!.GetAttribute("href"),
            TestContext.Current.CancellationToken);
        file[..5].ShouldBe("PGDMP"u8.ToArray());
        var name = row.QuerySelector("[name=name]")!.GetAttribute("value")!;

        var restore = row.QuerySelectorAll("button").Single(b =>
            b.GetAttribute("aria-label")!.StartsWith("Restore", StringComparison.Ordinal)).GetAttribute("aria-label")!;
        var (response, unsure) = await application.PressAsync(made, "/settings", restore);
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        unsure.QuerySelector(".field-error")!.TextContent.ShouldContain("Tick that you mean it");

        await application.SendAsync(await application.PageAsync("/studies/new"), "/studies/new", ("Input.Name", "Made afterwards"),
            ("Input.Subject", "Bo Harrow"));
        (await application.PageAsync("/")).QuerySelector("main")!.TextContent.ShouldContain("Made afterwards");
        var (_, restored) = await SendAsync(await SettingsAsync(), ("name", name), ("sure", "true"));
        restored.QuerySelector(".notice")!.TextContent.ShouldContain("is restored. What was here before is");
        (await application.PageAsync("/")).QuerySelector("main")!.TextContent.ShouldNotContain("Made afterwards");

        var label = restored.QuerySelectorAll("button")
            .First(b => b.GetAttribute("aria-label")?.StartsWith("Delete", StringComparison.Ordinal) == true).GetAttribute("aria-label")!;
        (await application.PressAsync(restored, "/settings", label)).Page.QuerySelector(".notice")!.TextContent.ShouldContain("is deleted");
    }

    [Theory]
    [InlineData("../../etc/passwd")]
    [InlineData("2031-01-01T000000000-by-hand.dump")]
    [InlineData("")]
    public async Task A_backup_that_is_not_listed_is_not_there(string name) =>
        await application.PageAsync($"/settings?handler=Backup&name={Uri.EscapeDataString(name)}", HttpStatusCode.NotFound);

    [Fact]
    public async Task A_plan_is_kept_and_one_that_cannot_be_is_said()
    {
        (await SendAsync(await SettingsAsync(), ("every", "day"), ("keep", "3"))).Page.QuerySelector(".notice")!.TextContent.ShouldContain(
            "Every day a backup is made, and the last 3 are kept.");
        ((IHtmlSelectElement)(await SettingsAsync()).QuerySelector("#every")!).Value.ShouldBe("day");
        foreach (var keep in (string[])["0", "many", "100"])
        {
            var (response, page) = await SendAsync(await SettingsAsync(), ("every", "day"), ("keep", keep));
            response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            page.QuerySelector(".field-error")!.TextContent.ShouldBe("Keep 1 to 99 of them.");
        }
    }

    [Fact]
    public async Task What_is_no_backup_is_not_put_beside_the_others()
    {
        using var content = new MultipartFormDataContent { { new ByteArrayContent([.. "a letter"u8]), "file", "old.dump" } };
        var page = await SettingsAsync();
        content.Add(new StringContent(page.QuerySelector("[name=__RequestVerificationToken]")!.GetAttribute("value")!),
            "__RequestVerificationToken");
        var response = await application.Client.PostAsync("/settings?handler=Bring", content, TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken))
            .ShouldContain("This file is no backup. Nothing was kept.");
    }

    [Fact]
    public async Task Where_the_drums_stand_is_kept_and_what_cannot_be_read_stays_in_its_field()
    {
        var usual = (await SettingsAsync()).QuerySelector("#Layout")!.TextContent;
        usual.ShouldContain("FT 45 20");
        var (_, kept) = await SendAsync(await SettingsAsync(), ("Layout", "FT -60 25\nRD 20 60"));
        kept.QuerySelector("#Layout")!.TextContent.ShouldContain("FT -60 25");
        kept.QuerySelector("#Layout")!.TextContent.ShouldContain("SN 0 20");
        var (response, wrong) = await SendAsync(await SettingsAsync(), ("Layout", "FT left a bit\nBD 0 0"));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        wrong.QuerySelectorAll(".field-error").Length.ShouldBe(2);
        wrong.QuerySelector("#Layout")!.TextContent.ShouldContain("FT left a bit");
        (await SendAsync(await SettingsAsync(), ("Layout", ""))).Page.QuerySelector("#Layout")!.TextContent.ShouldBe(usual);
    }

    [Fact]
    public async Task What_a_sound_is_can_be_said_changed_and_forgotten()
    {
        var (_, said) = await SendAsync(await SettingsAsync(), ("called", "99"), ("code", "HH o"));
        said.QuerySelector("#sounds")!.TextContent.ShouldContain("note 99hat, open");
        await SendAsync(said, ("called", "Thunder  Sheet"), ("code", "CH"));
        (await SettingsAsync()).QuerySelector("#sounds")!.TextContent.ShouldContain("thunder sheetchina");
        var (_, gone) = await application.PressAsync(await SettingsAsync(), "/settings", "Forget what was said about note 99");
        gone.QuerySelector("#sounds")!.TextContent.ShouldNotContain("note 99");
        foreach (var (called, code) in new[] { ("", "SN"), ("128", "SN"), ("note 300", "SN"), ("12", "") })
            (await SendAsync(await SettingsAsync(), ("called", called), ("code", code))).Response.StatusCode.ShouldBe(
                HttpStatusCode.UnprocessableEntity, $"{called} {code}");
    }
}
