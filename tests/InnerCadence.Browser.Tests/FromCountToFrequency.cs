using OpenQA.Selenium;

namespace InnerCadence.Browser.Tests;

/// <summary>The whole path of a newcomer, with and without scripts.</summary>
[Collection(nameof(Site))]
public class FromCountToFrequency(Site site)
{
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void A_newcomer_gets_from_a_dictated_groove_to_how_often_it_appears(bool scripts)
    {
        var person = new Person(site.Browser(scripts), site.Address);
        var nickname = scripts ? "trip step" : "trip step unscripted";

        person.Opens("/").Clicks("New study");
        person.Types("Player", scripts ? "Maud Linnet" : "Maud Linnet the elder");
        person.Clicks("Begin the study");
        person.Clicks("Add a recording");
        person.Types("Title", "Slate Path");
        person.Types("Tempo", "120");
        person.Types("Bars in all", "64");
        person.Types("Bars searched", "64");
        if (scripts) Picture("1-recording");
        person.Clicks("Add");

        person.Clicks("Write a passage down");
        person.Types("Count lines", "HH: 8ths | %\nSN: 2 4 | 2 (3e) 3a 4\nBD: 1 3 | 1 3&");
        if (scripts)
        {
            person.Reads("#words", "Snare on 2 and 4 in bar 1");
            person.SeesAll("#strands circle.bead").Count.ShouldBe(26);
        }
        person.Types("Clock time", "0:30");
        person.Types("First bar", "17");
        if (scripts) Picture("2-passage");
        person.Clicks("Save");
        person.Reads("h1", "Slate Path");

        person.Types("From", "2.3e");
        person.Types("Up to", "2.4&");
        person.Clicks("Name this idea");
        person.Types("Nickname", nickname);
        person.Sees("input[name='Input.Leave'][value='HH']").Click();
        if (scripts) Picture("3-idea");
        person.Clicks("Keep and look for it");

        person.Reads(".concordance tbody", "bar 18, the e of 3");
        person.Reads(".concordance tbody", "0:33.125");
        person.Clicks("Judge them");
        if (scripts) Picture("4-judging");
        if (scripts) person.PressesToGo("y");
        else person.Clicks("Confirm");
        person.Reads(".notice", "confirmed");
        person.Reads("table.numbers", "1 of 1 searched");
        if (scripts) Picture("5-answer");
        person.Sees("#presence").Text.ShouldBe("21 to 100 %");
        person.Sees("#rate").Text.ShouldBe("0.0 to 8.7");

        person.Clicks("Undo");
        person.Reads("form#judge", "Confirm");
    }

    /// <summary>For the guide: taken anew where INNER_CADENCE_PICTURES is set.</summary>
    private void Picture(string name)
    {
        if (Environment.GetEnvironmentVariable("INNER_CADENCE_PICTURES") is null) return;
        var browser = site.Browser(true);
        browser.Manage().Window.Size = new(960, 687);
        browser.ExecuteScript("document.activeElement?.blur(); scrollTo(0, 0)");
        var folder = Directory.CreateDirectory(Path.Combine(WorkingCopy.Root, "src", "InnerCadence.Web", "wwwroot", "guide"));
        browser.GetScreenshot().SaveAsFile(Path.Combine(folder.FullName, name + ".png"));
        browser.Manage().Window.Size = new(1280, 887);
    }

    [Fact]
    public void A_study_without_recordings_says_its_first_steps_and_plays_an_example()
    {
        var person = new Person(site.Browser(), site.Address);
        person.Opens("/studies/new");
        site.Browser().SwitchTo().ActiveElement().GetDomAttribute("id").ShouldBe("Input_Subject", "the caret stands in the player");
        person.Types("Player", "Nobody Yet");
        person.Clicks("Begin the study");
        person.SeesAll(".first-steps li").Count.ShouldBe(3);
        person.Reads("#first-example", "comes 4 times: about once in 6 bars");
        person.SeesAll("#example .bracket").Count.ShouldBe(4);
        person.Hands.SendKeys("h").Perform();
        person.Sees("[data-player][data-state=playing]");
        person.Sees("#example .now");
        var study = person.Here;
        person.Opens(study + "/claims");
        person.SeesAll("main").Single().Text.ShouldNotContain("Every recording is searched");
        person.Opens(study + "/next");
        person.SeesAll("main").Single().Text.ShouldContain("There is no recording to listen to yet.");
        person.Opens(study + "/passages").Clicks("Choose a recording");
        person.Reads(".empty", "There is no recording yet");
        person.Opens("/guide/first-answer");
        person.SeesAll("article img").Count.ShouldBe(5);
    }

    [Fact]
    public void A_span_is_picked_with_the_keyboard_and_with_the_pointer()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/passages/2");
        person.Sees("#strands").SendKeys(Keys.ArrowRight);
        person.Hands.SendKeys(Keys.ArrowRight).KeyDown(Keys.Shift).SendKeys(Keys.ArrowRight + Keys.ArrowRight).KeyUp(Keys.Shift).Perform();
        (person.Value("from"), person.Value("to")).ShouldBe(("1.1e", "1.2"));

        var cells = person.SeesAll("#strands .cell");
        // Above the strands, where no stroke is taken along.
        var top = 8 - cells[25].Size.Height / 2;
        person.Hands.MoveToElement(cells[25], 0, top).ClickAndHold().MoveToElement(cells[29], 0, top).Release().Perform();
        (person.Value("from"), person.Value("to")).ShouldBe(("2.3e", "2.4&"));
        person.SeesAll("#strands .cell.picked").Count.ShouldBe(5);
        person.Clicks("Name this idea");
        person.Here.ShouldBe("/passages/2/cut?from=2.3e&to=2.4%26");
        person.Value("Input_Text").ShouldContain("SN: (3e) a> 4>");
    }
}
