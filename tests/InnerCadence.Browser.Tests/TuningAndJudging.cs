using OpenQA.Selenium;
using OpenQA.Selenium.Support.UI;

namespace InnerCadence.Browser.Tests;

/// <summary>An idea cut, tuned and judged by the keyboard, over a closed browser and a changed passage.</summary>
[Collection(nameof(Site))]
public class TuningAndJudging(Site site)
{
    [Fact]
    public void A_change_of_a_rule_says_at_once_what_comes_and_goes()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/ideas/2/edit");
        person.Reads("#tuned", "0 come");
        new SelectElement(person.Sees("#Input_Placement")).SelectByValue("anywhere");
        new SelectElement(person.Sees("#Input_Openness")).SelectByValue("ignore");
        person.Reads("#tuned", "get another verdict");
        person.Opens("/ideas/2/edit").Reads("#tuned", "0 come");
    }

    [Fact]
    public void Twenty_sightings_are_judged_by_keys_alone_and_stay_judged_when_the_browser_opens_again()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/studies/1/recordings");
        person.Opens("/recordings/2/passages/new");
        person.Sees(".paper");
        var bars = string.Join(" | ", Enumerable.Repeat("1e 1a>", 22));
        person.Types("Count lines", $"CB: {bars}");
        person.Reads("#size", "22 bars");
        person.PressesControlAnd(Keys.Enter);
        person.Types("From", "1.1e");
        person.Types("Up to", "1.2");
        person.Clicks("Name this idea");
        person.Reads("#tuned", "places");
        person.Types("Nickname", "two taps");
        new SelectElement(person.Sees("#Input_Placement")).SelectByValue("same-place-in-the-bar");
        person.PressesControlAnd(Keys.Enter);
        person.Reads("h1", "two taps");
        person.PressesToGo("j");
        for (var i = 0; i < 20; i++) person.PressesToGo(i % 5 == 4 ? "m" : i % 5 == 3 ? "n" : "y");
        person.Reads(".head", "20 of 22 judged");
        var here = person.Here;
        person.PressesToGo("u");
        person.Reads(".head", "19 of 22 judged");
        person.PressesToGo("y");

        // Another browser sees what was judged; a passage that changes keeps it.
        var other = new Person(site.Browser(scripts: false), site.Address).Opens(here);
        other.Sees("h1 a").Click();
        other.Reads("h1", "two taps");
        other.Reads(".rail", "confirmed");
        other.Sees(".concordance td.piece a").Click();
        other.Types("Count lines", $"CB: - | {bars[(bars.IndexOf('|') + 2)..]}");
        other.Clicks("Save");
        other.Reads("#found", "no longer found");
    }
}
