using OpenQA.Selenium;

namespace InnerCadence.Browser.Tests;

/// <summary>The player on a passage.</summary>
[Collection(nameof(Site))]
public class Hearing(Site site)
{
    private static int Sounded(Person person) => int.Parse(person.Sees("[data-player]").GetDomAttribute("data-sounded") ?? "0");

    [Fact]
    public void A_passage_plays_with_a_moving_line_and_stops()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/passages/1");
        person.Sees("[data-part=play]").Click();
        person.Sees("[data-state=playing] [data-part=voices] button");
        var line = person.Sees("svg .now");
        var before = double.Parse(line.GetDomAttribute("x1")!, System.Globalization.CultureInfo.InvariantCulture);
        Until(() => Sounded(person) > 6);
        double.Parse(line.GetDomAttribute("x1")!, System.Globalization.CultureInfo.InvariantCulture).ShouldNotBe(before);
        person.Sees("[data-part=said]").Text.ShouldBe("104 of 104 BPM");
        person.Sees("[data-part=play]").Click();
        person.SeesAll("svg .now").ShouldBeEmpty();
        person.Sees("[data-player]").GetDomAttribute("data-state").ShouldBe("still");
    }

    [Fact]
    public void Muted_voices_and_those_beside_a_solo_are_silent()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/passages/1");
        person.Sees("details.more summary").Click();
        person.Sees("[data-part=play]").Click();
        foreach (var name in (string[])["hat", "snare", "kick"]) person.Sees($"button[aria-label='Mute {name}']").Click();
        Thread.Sleep(400);
        var silent = Sounded(person);
        Thread.Sleep(1200);
        Sounded(person).ShouldBe(silent);
        person.Sees("button[aria-label='Solo hat']").Click();
        Until(() => Sounded(person) > silent);
        person.Sees("[data-part=play]").Click();
    }

    [Fact]
    public void Speed_is_told_in_beats_a_minute_and_a_click_counts_in()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/passages/3");
        person.Sees("[data-part=speed]").SendKeys(Keys.Home);
        person.Sees("[data-part=said]").Text.ShouldBe("26 of 104 BPM");
        person.Sees("[data-part=speed]").SendKeys(Keys.End);
        person.Sees("[data-part=said]").Text.ShouldBe("156 of 104 BPM");
        person.Sees("[data-part=count-in]").Click();
        person.Sees("[data-part=play]").Click();
        Until(() => Sounded(person) >= 2);
        person.Sees("svg .now").GetDomAttribute("x1").ShouldNotBeNull();
        Until(() => person.Sees("[data-player]").GetDomAttribute("data-state") == "still", 15);
        Sounded(person).ShouldBeInRange(17, 4 + 15, "four clicks and fifteen strokes, once, without a loop; a machine that hung plays "
            + "nothing late");
    }

    [Fact]
    public void Exemplar_and_sighting_are_both_heard()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/sightings/1");
        person.SeesAll("[data-player]").Count.ShouldBe(2);
        person.Hands.SendKeys("e").Perform();
        person.Sees("#exemplar svg .now");
        person.Hands.SendKeys("e").Perform();
        person.Hands.SendKeys("h").Perform();
        person.Sees("#here svg .now");
    }

    private static void Until(Func<bool> holds, int seconds = 8)
    {
        var end = DateTime.UtcNow.AddSeconds(seconds);
        while (!holds())
        {
            DateTime.UtcNow.ShouldBeLessThan(end, "it did not happen in time");
            Thread.Sleep(50);
        }
    }
}
