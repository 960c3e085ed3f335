using System.IO.Compression;
using System.Net;
using AngleSharp.Html.Dom;
using InnerCadence.Core.Telling;
using InnerCadence.Web.Telling;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Article, editions and report without scripts, with hostile text too.</summary>
public class TellingTests(Application application) : IClassFixture<Application>
{
    private const string Article = "/studies/1/article";

    private async Task<IHtmlDocument> SaveAsync(string text)
    {
        var (response, page) = await application.SendAsync(await application.PageAsync(Article), Article, ("Text", text));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        return page;
    }

    [Fact]
    public async Task References_are_filled_in_numbered_and_linked()
    {
        var page = await SaveAsync("[[example:cellar door]]\n\nIn [[presence:Cellar Door]], see [[example:cellar "
            + "door]].[[source:2@1:00]] And again.[[source:2@1:00]][[cite:quay-letters]]\n\n[[example:passage 3]]");
        page.QuerySelectorAll(".prose figure").Select(f => f.Id).ShouldBe(["example-1", "example-2"]);
        page.QuerySelector(".prose a[href='#example-1']")!.TextContent.ShouldBe("example 1");
        page.QuerySelectorAll(".prose a.note").Select(n => n.TextContent).ShouldBe(["[1]", "[1]", "[2]"]);
        page.QuerySelector(".prose a.live")!.GetAttribute("href").ShouldBe("/ideas/1?show=counted&player=1&in=searched#concordance");
        // The demo's single runs as the recording does.
        page.QuerySelector("#note-1")!.TextContent.ShouldBe(
            "Tarred Rope, take 3, Ilse Marrowby with The Saltgate Five, 1965-03-02, studio, Saltgate Sound SG 14 (1965-05), at 1:00.");
        page.QuerySelector("#note-2")!.TextContent.ShouldStartWith("Letters of the quay");
    }

    [Fact]
    public async Task A_time_is_told_on_the_clock_of_the_issue_that_is_cited() =>
        // Speed 101.8 %, offset 1.4 s: a minute of the recording sounds at 1.4 + 60 / 1.018 s.
        (await SaveAsync("[[source:2@1:00/2]]")).QuerySelector("#note-1")!.TextContent.ShouldContain(
            "Foghorn Reissues FH 2201 (from a worn pressing) (1984), at 1:00.339");

    [Fact]
    public async Task What_there_is_not_is_said()
    {
        var page = await SaveAsync("[[rate:nobody]] [[claim:999]] [[source:999@0:10]] [[source:2@0:10/77]] [[cite:nothing]] "
            + "[[example:passage 9999]] [[magic:1]]");
        page.QuerySelectorAll(".prose .bad").Length.ShouldBe(6);
        page.QuerySelector(".prose")!.TextContent.ShouldContain("[[magic:1]]");
    }

    [Theory]
    [InlineData("<script>alert(1)</script>")]
    [InlineData("<img src=x onerror=alert(1)>")]
    [InlineData("[press](javascript:alert(1))")]
    [InlineData("![x](https://elsewhere.example/pixel.png)")]
    [InlineData("[[rate:<b onmouseover=alert(1)>x]]")]
    [InlineData("\uE000rate:x\uE001 \uE000claim:1\uE001")]
    [InlineData("[a](data:text/html,<script>alert(1)</script>)")]
    [InlineData("<style>body{display:none}</style><form action=/studies/1/edit><input name=x></form>")]
    public async Task Hostile_text_does_no_harm(string text)
    {
        var prose = (await SaveAsync(text)).QuerySelector(".prose")!;
        prose.QuerySelectorAll("script, img, form, input, style, iframe, object, [onerror], [onmouseover]").ShouldBeEmpty();
        prose.QuerySelectorAll("a").Select(a => a.GetAttribute("href") ?? "")
            .ShouldAllBe(h => h == "" || h.StartsWith('/') || h.StartsWith('#') || h.StartsWith("http"));
    }

    /// <summary>A sanitiser goes down by recursion, and a stack that ends takes the whole program with it.</summary>
    [Theory]
    [InlineData("<div>")]
    [InlineData("<p><b>")]
    [InlineData("<svg><g>")]
    public void A_frozen_edition_nested_without_end_is_shown_as_it_came(string tag)
    {
        var shown = ArticleMarkup.Frozen(string.Concat(Enumerable.Repeat(tag, 100_000)));
        shown.ShouldStartWith("<p>This edition is nested too deep");
        ArticleMarkup.Frozen(string.Concat(Enumerable.Repeat("<p>One<br>and<br/>two.</p>", 5_000))).Length.ShouldBeGreaterThan(100_000);
    }

    [Fact]
    public void A_frozen_edition_from_anywhere_keeps_its_pictures_and_does_no_harm()
    {
        const string picture = "<figure id=\"example-1\"><svg class=\"strands\" viewBox=\"0 0 10 10\" width=\"10\"><title>snare on "
            + "2</title><circle class=\"bead\" cx=\"1\" cy=\"2\" r=\"3\"></circle></svg></figure>";
        ArticleMarkup.Frozen(picture).ShouldBe(picture);
        var clean = ArticleMarkup.Frozen(
            "<svg onload=\"x()\"><script>x()</script><image href=\"https://elsewhere.example/p.png\"/></svg><form "
            + "action=\"/studies/1/edit\"><input></form><a href=\"javascript:x()\" onclick=\"x()\">press</a>");
        foreach (var harm in (string[])["script", "onload", "onclick", "javascript", "form", "input", "image"]) clean.ShouldNotContain(
            harm);
    }

    [Fact]
    public void Double_brackets_in_code_stay_as_they_are() =>
        ArticleMarkup.ReferencesOf("`[[rate:a]]` and [[rate:b]] and [a link](/x) and [[ not one").ShouldBe([new Reference("rate", "b")]);

    [Fact]
    public async Task Two_tabs_a_preview_and_an_edition_that_stays()
    {
        await SaveAsync("One.");
        var (one, two) = (await application.PageAsync(Article), await application.PageAsync(Article));
        (await application.SendAsync(one, Article, ("Text", "Mine [[count:paddle]]."))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var (response, page) = await application.SendAsync(two, Article, ("Text", "Yours."));
        response.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        page.QuerySelector(".validation-summary-errors")!.TextContent.ShouldContain("that begins “Mine");
        page.QuerySelector("textarea")!.TextContent.Trim().ShouldBe("Yours.");

        (_, page) = await application.PressAsync(await application.PageAsync(Article), Article, "See it");
        page.QuerySelector(".prose")!.TextContent.ShouldContain("Mine");

        (response, page) = await application.PressAsync(await application.PageAsync(Article), Article, "Freeze what is saved");
        var edition = response.RequestMessage!.RequestUri!.AbsolutePath;
        var frozen = page.QuerySelector(".prose")!.InnerHtml;
        await SaveAsync("Something else entirely.");
        await application.SendAsync(await application.PageAsync("/ideas/5"), "/ideas/5?handler=Heard", ("Typed.Recording", "1"),
            ("Typed.Bar", "9"));
        (await application.PageAsync(edition)).QuerySelector(".prose")!.InnerHtml.ShouldBe(frozen);
    }

    [Fact]
    public async Task A_source_needs_a_key_and_words_and_can_be_taken_out()
    {
        var (response, page) = await application.SendAsync(await application.PageAsync(Article), Article, ("key", "Bad Key"),
            ("source", ""));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.QuerySelectorAll(".field-error").Length.ShouldBe(2);
        (_, page) = await application.SendAsync(page, Article, ("key", "a-book"), ("source", "A book."));
        page.QuerySelector("#sources + table")!.TextContent.ShouldContain("A book.");
        (_, page) = await application.PressAsync(page, Article, "Take out a-book");
        page.QuerySelector("#sources + table")!.TextContent.ShouldNotContain("A book.");
        (_, page) = await application.PressAsync(page, Article, "Undo");
        page.QuerySelector("#sources + table")!.TextContent.ShouldContain("A book.");
    }

    [Fact]
    public async Task The_report_can_be_taken_away_as_Markdown_with_pictures()
    {
        var bytes = await application.Client.GetByteArrayAsync("/studies/1/report?handler=Zip&idea=1&idea=3",
            TestContext.Current.CancellationToken);
        using var zip = new ZipArchive(new MemoryStream(bytes));
        zip.Entries.Select(e => e.FullName).ShouldBe(["report.md", "pictures/idea-1.svg", "pictures/idea-2.svg"]);
        using var reader = new StreamReader(zip.Entries[0].Open());
        var text = await reader.ReadToEndAsync(TestContext.Current.CancellationToken);
        text.ShouldContain("# The vocabulary of Ilse Marrowby");
        text.ShouldContain("![cellar door, as strands](pictures/idea-1.svg)");
        text.ShouldContain("7 of 15 searched");
        text.ShouldContain("| 1965-03-02 | Tarred Rope, take 1 | 0:28.983 |");
    }

    [Fact]
    public async Task What_is_not_ticked_is_left_out()
    {
        var page = await application.PageAsync("/studies/1/report?chosen=true&idea=3&part=numbers");
        page.QuerySelectorAll(".page-sheet").Length.ShouldBe(2);
        page.QuerySelectorAll(".page-sheet h3").Select(h => h.TextContent).ShouldBe(["What was searched", "Limits", "Ideas",
            "Key of the drums"]);
    }

    [Fact]
    public async Task The_report_is_a_hand_out()
    {
        var page = await application.PageAsync("/studies/1/report");
        var sheet = page.QuerySelector("#idea-1")!;
        sheet.QuerySelector(".sheet-staff[data-as=sheet] + svg.strands").ShouldNotBeNull("strands stand under the staff");
        sheet.QuerySelectorAll("table.numbers th").Select(h => h.TextContent).ShouldContain("the others");
        sheet.QuerySelectorAll("ul.in-columns li").Length.ShouldBe(8);
        page.QuerySelectorAll(".sheet-staff[data-as=key]").Length.ShouldBe(1, "the drums are explained once");
        var appendix = page.QuerySelector("#searched")!;
        appendix.QuerySelectorAll("h3").Select(h => h.TextContent).First().ShouldStartWith("Ilse Marrowby: ");
        appendix.QuerySelectorAll("li").Select(l => l.TextContent).ShouldContain(l => l.Contains("Tarred Rope, take 3"));
        (await application.PageAsync("/studies/1/report?notation=strands")).QuerySelector(".sheet-staff").ShouldBeNull();
    }

    [Fact]
    public async Task What_this_study_has_not_is_not_frozen()
    {
        var page = await application.PageAsync(Article);
        (_, page) = await application.SendAsync(page, Article, ("Title", "Draft"), ("Text", "Often: [[rate:never named]]."),
            ("Version", page.QuerySelector("#Version")!.GetAttribute("value")!));
        (_, page) = await application.PressAsync(page, Article, "Freeze what is saved");
        page.QuerySelector(".notice")!.TextContent.ShouldContain("Not frozen: this study has no rate:never named");
        page.QuerySelector("h1")!.TextContent.ShouldBe("Draft", "it is the article still");
    }
}
