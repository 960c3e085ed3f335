using OpenQA.Selenium;
using OpenQA.Selenium.Support.UI;
using UglyToad.PdfPig;

namespace InnerCadence.Browser.Tests;

/// <summary>A claim that falls and stands again, an article whose numbers follow while an edition stays, a report on paper.</summary>
[Collection(nameof(Site))]
public class ClaimsAndTelling(Site site)
{
    [Fact]
    public void A_claim_falls_by_one_sighting_and_stands_again_and_an_edition_keeps_what_the_article_said()
    {
        var person = new Person(site.Browser(), site.Address);
        person.Opens("/").Clicks("New study");
        person.Types("Player", "Ada Brack");
        person.Clicks("Begin the study");
        var study = person.Here;
        Record(person, study, "Late Piece", "1970");
        Write(person, string.Join(" | ", Enumerable.Repeat("1 e & a", 12)));
        person.Types("From", "1.1");
        person.Types("Up to", "1.2");
        person.Clicks("Name this idea");
        person.Types("Nickname", "patter");
        person.Clicks("Keep and look for it");
        var idea = person.Here;
        Record(person, study, "Early Piece", "1960");
        Write(person, "3 e & a");
        person.Opens(idea);
        person.Clicks("Judge them");
        // Twelve late ones are it; the early one is not, for now.
        for (var i = 0; i < 13; i++) person.PressesToGo(person.Sees(".head").Text.Contains("Early Piece") ? "n" : "y");

        person.Opens(study + "/claims");
        person.Clicks("Make the first claim");
        person.Clicks("Never before a date");
        new SelectElement(person.Sees("#Input_Idea")).SelectByText("patter");
        person.Types("Before, as far", "1965");
        person.Clicks("Make the claim");
        var claim = person.Here;
        person.Reads(".lead-line", "supported");

        person.Opens(study + "/article");
        person.Types("Title", "On the patter");
        person.Sees("#Text").SendKeys($"It comes [[count:patter]] times. That she never played it before is ");
        person.Sees($"[data-code='[[claim:{claim.Split('/')[^1]}]]']").Click();
        person.Reads("#read", "supported");
        person.Reads("#read", "It comes 12 times");
        person.Clicks("Save");
        person.Clicks("Freeze what is saved");
        var edition = person.Here;
        person.Reads(".prose", "supported");

        Judge(person, idea, "Early Piece", "y");
        person.Opens(claim).Reads(".lead-line", "contradicted");
        person.Reads("main", "against it: Early Piece, bar 1 on 3");
        person.Opens(study + "/article").Reads("#read", "2 numbers say something else");
        person.Reads("#read", "It comes 13 (was 12) times");
        person.Clicks("Save");
        person.Clicks("Freeze what is saved");
        person.Clicks("Against edition 1");
        person.Reads("main", "The text is the same.");
        person.Reads("table.list", "count:patter");
        person.Opens(edition).Reads(".prose", "It comes 12 times. That she never played it before is supported");

        Judge(person, idea, "Early Piece", "n");
        person.Opens(claim).Reads(".lead-line", "supported");
        person.SeesAll("table.list tbody .standing").Select(s => s.Text).ShouldBe(["supported", "contradicted", "supported"]);
    }

    [Fact]
    public void What_is_typed_into_the_article_is_still_there_when_its_tab_was_closed()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address).Opens("/studies/1/article");
        person.Sees("#Text").SendKeys(" And not yet saved.");
        browser.SwitchTo().NewWindow(WindowType.Tab);
        browser.SwitchTo().Window(browser.WindowHandles[0]).Close();
        browser.SwitchTo().Window(browser.WindowHandles[0]);
        person.Opens("/studies/1/article");
        person.Sees(".notice.warn button").Click();
        person.Value("Text").ShouldEndWith("And not yet saved.");
        // Left as it was.
        browser.ExecuteScript("localStorage.clear()");
    }

    [Theory]
    [InlineData("a4", 210)]
    [InlineData("letter", 215.9)]
    public void The_report_is_printed_one_page_an_idea_with_its_numbers_and_sources(string paper, double width)
    {
        var browser = site.Browser();
        new Person(browser, site.Address).Opens($"/studies/1/report?chosen=true&idea=1&idea=3&part=numbers&part=sources&paper={paper}")
            .Reads(".sheets", "rope ladder");
        var printed = (Dictionary<string, object>)browser.ExecuteCdpCommand("Page.printToPDF",
            new() { ["preferCSSPageSize"] = true, ["printBackground"] = true })!;
        using var pdf = PdfDocument.Open(Convert.FromBase64String((string)printed["data"]));
        pdf.NumberOfPages.ShouldBe(3);
        (pdf.GetPage(1).Width / 72 * 25.4).ShouldBe(width, 1);
        string Text(int page) => string.Join(' ', pdf.GetPage(page).GetWords().Select(w => w.Text));
        Text(1).ShouldContain("The vocabulary of Ilse Marrowby");
        Text(1).ShouldContain("Limits");
        Text(2).ShouldStartWith("cellar door");
        Text(2).ShouldContain("Tarred Rope, take 1");
        Text(3).ShouldStartWith("rope ladder");
        for (var page = 1; page <= 3; page++) Text(page).ShouldNotContain("Jump to", customMessage: "what is for the screen stays there");
    }

    private static void Record(Person person, string study, string title, string year)
    {
        person.Opens(study + "/recordings/new");
        person.Types("Title", title);
        person.Types("Recorded", year);
        person.Types("Tempo", "120");
        person.Types("Bars in all", "64");
        person.Types("Bars searched", "64");
        person.Clicks("Add");
        person.Clicks("Write a passage down");
    }

    private static void Write(Person person, string snare)
    {
        person.Types("Count lines", $"SN: {snare}");
        person.Types("Clock time", "0:10");
        person.Types("First bar", "1");
        person.Clicks("Save");
        person.Reads("h1", "Piece");
    }

    private static void Judge(Person person, string idea, string recording, string key)
    {
        person.Opens(idea + "?show=all");
        person.SeesAll("table.concordance tr").First(r => r.Text.Contains(recording)).FindElement(By.CssSelector("a[href^='/sightings/']"))
            .Click();
        person.Reads("main", recording);
        person.PressesToGo(key);
    }
}
