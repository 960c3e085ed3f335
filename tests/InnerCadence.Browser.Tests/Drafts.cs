using OpenQA.Selenium;

namespace InnerCadence.Browser.Tests;

/// <summary>What was typed survives a closed tab and a stopped server.</summary>
[Collection(nameof(Site))]
public class Drafts(Site site)
{
    [Fact]
    public void A_closed_tab_loses_nothing()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address).Opens("/recordings/3/passages/new");
        person.Types("Count lines", "SN: 2 (3e) 3a 4");
        person.Types("Section", "bridge");
        browser.SwitchTo().NewWindow(WindowType.Tab);
        browser.SwitchTo().Window(browser.WindowHandles[0]).Close();
        browser.SwitchTo().Window(browser.WindowHandles[0]);

        person.Opens("/recordings/3/passages/new");
        person.Value("Input_Text").ShouldNotContain("3a");
        person.Reads(".notice.warn", "was not saved");
        person.Sees(".notice.warn button").Click();
        person.Value("Input_Text").ShouldBe("SN: 2 (3e) 3a 4");
        person.Value("Input_Section").ShouldBe("bridge");
        person.Reads("#words", "Snare on 2, the a of 3 and on 4");

        person.Clicks("Save");
        person.Reads("h1", "Kelp Road");
        person.Opens("/recordings/3/passages/new");
        person.SeesAll(".notice.warn").ShouldBeEmpty("what is kept is no draft any more");
    }

    [Fact]
    public void How_early_and_late_it_was_tapped_is_in_a_draft_too()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address).Opens("/recordings/3/passages/new");
        browser.ExecuteScript("document.querySelector(\"[name='Input.Played']\").value = '[[10080,\"SN\",12]]'");
        person.Types("Count lines", "SN: 2");
        person.Opens(new Uri(browser.Url).PathAndQuery);
        person.Reads(".notice.warn", "not saved yet");
        person.Sees("[name='Input.Played']").GetDomProperty("value").ShouldBe("[[10080,\"SN\",12]]");
        browser.ExecuteScript("localStorage.clear()");
    }

    [Fact]
    public void A_draft_of_before_levels_and_echoes_says_what_it_said()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address).Opens("/recordings/3/passages/new");
        person.Types("Count lines", "SN: 2 || 4");
        browser.ExecuteScript("for (const key of Object.keys(localStorage).filter((one) => one.startsWith('inner-cadence draft '))) "
            + "{ const { language, ...old } = JSON.parse(localStorage.getItem(key)); localStorage.setItem(key, JSON.stringify(old)) }");
        person.Opens(new Uri(browser.Url).PathAndQuery);
        person.Reads(".notice.warn", "so that its strokes stay");
        person.Value("Input_Text").ShouldBe("SN: 2 | | 4");
        person.Sees(".notice.warn button").Click();
        person.Value("Input_Text").ShouldBe("SN: 2 || 4");
        browser.ExecuteScript("localStorage.clear()");
    }

    /// <summary>Two places of one recording are two beginnings: neither takes what the other had, nor its clock time.</summary>
    [Fact]
    public void Two_beginnings_on_one_recording_share_nothing()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/recordings/4/passages/new?at=0:12");
        person.Types("Count lines", "SN: 1 2");
        var first = person.Here;
        first.ShouldContain("begun=");
        person.Opens("/recordings/4/passages/new?at=0:43");
        person.Reads(".notice.warn", "0:12 · SN: 1 2");
        person.Types("Count lines", "BD: 3");
        person.Value("Input_StartsAt").ShouldBe("0:43");

        person.Opens("/studies/1");
        person.Reads("#drafts", "0:43 · BD: 3");
        person.Reads("#drafts", "0:12 · SN: 1 2");
        person.Sees("#waits");
        person.Opens(first);
        person.Reads(".notice.warn", "This is what you typed");
        (person.Value("Input_StartsAt"), person.Value("Input_Text")).ShouldBe(("0:12", "SN: 1 2"));
        person.Clicks("Save");
        person.Opens("/studies/1");
        person.Reads("#drafts", "0:43 · BD: 3");
        person.Sees("#drafts").Text.ShouldNotContain("0:12 · SN");
    }

    [Fact]
    public void A_new_study_is_a_draft_too()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/studies/new");
        person.Types("Name", "Lowland fills");
        person.Opens("/");
        person.Reads("#drafts", "Lowland fills");
        person.Opens("/studies/new");
        person.Sees(".notice.warn button").Click();
        person.Value("Input_Name").ShouldBe("Lowland fills");
    }

    [Fact]
    public async Task A_stopped_server_loses_nothing_and_the_page_says_so()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/passages/20");
        await site.StopAsync();
        person.Types("Count lines", "SN: 1 2 3 4");
        person.Reads("#problems", "The server does not answer");
        await site.StartAsync();

        person.Opens("/passages/20");
        person.Reads(".notice.warn", "was not saved");
        person.Sees(".notice.warn button").Click();
        person.Clicks("Save");
        person.Reads(".notice", "Saved");
        person.Value("Input_Text").ShouldBe("SN: 1 2 3 4");
    }

    [Fact]
    public void A_draft_can_be_discarded()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/recordings/5/edit");
        person.Types("Ensemble", "Somebody else");
        person.Opens("/recordings/5/edit");
        person.SeesAll(".notice.warn button")[1].Click();
        person.Opens("/recordings/5/edit");
        person.SeesAll(".notice.warn").ShouldBeEmpty();
        person.Value("Input_Ensemble").ShouldBe("Harbour Light Orchestra");
    }
}
