using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;

namespace InnerCadence.Browser.Tests;

/// <summary>What the ear has beside what is written: seen on the strands, walked through and taken over by keys.</summary>
[Collection(nameof(Site))]
public class TheEarAtTheBench(Site site)
{
    private static void Alt(ChromeDriver browser, string key) =>
        new OpenQA.Selenium.Interactions.Actions(browser).KeyDown(Keys.Alt).SendKeys(key).KeyUp(Keys.Alt).Perform();

    [Fact]
    public void A_stroke_that_is_only_heard_is_shown_and_taken_over_by_keys_and_bar_lines_are_proposed()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address);
        person.Opens("/recordings/1/listen");
        person.Clicks("Make a simulated sound from the passages");
        // Its picture is made first, then what is struck in it is heard.
        Until(() => person.Opens("/recordings/1/listen").SeesAll("a[href$='tempo?heard=yes']").Count > 0, 90);
        var bars = person.Sees("a[href$='tempo?heard=yes']");
        bars.Click();
        person.Sees("#Marks").GetDomProperty("value")!.Split('\n').Length.ShouldBeGreaterThan(60);

        person.Opens("/passages/1");
        Until(() => person.SeesAll("#strands .ridge").Count > 0, 20);
        person.Reads("#beside-agrees", "On this record");
        person.Sees("#beside-agrees").Text.ShouldMatch("On this record it agrees with you on .*snare \\d+ of \\d+");
        var text = person.Sees("#Input_Text");
        var lines = text.GetDomProperty("value")!.Split('\n');
        var without = string.Join("\n", lines.Select(line => line.StartsWith("SN:", StringComparison.Ordinal) ? "SN: 4 | 2 4" : line));
        text.Clear();
        text.SendKeys(without);
        Until(() => Places(browser).Any(p => p.StartsWith("snare on 2, bar", StringComparison.Ordinal)), 20);
        for (var i = 0; i < 40 && !Places(browser, "li.at").Contains("snare on 2, bar 5"); i++)
            Alt(browser, "]");
        person.SeesAll("#strands .only.now-at").Count.ShouldBe(1);
        // The second press takes what comes next, and does not take the first one back.
        Alt(browser, "y");
        Alt(browser, "y");
        Until(() => person.Sees("#Input_Text").GetDomProperty("value")!.Contains("SN: 2", StringComparison.Ordinal), 10);
        Until(() => !Places(browser).Contains("snare on 2, bar 5"), 10);
        Thread.Sleep(1000);
        person.Sees("#Input_Text").GetDomProperty("value")!.ShouldContain("SN: 2");
        // Others find the recording without a sound, as the demo has it.
        person.Opens("/recordings/1/listen").Clicks("Remove the sound");
    }

    /// <summary>Read at one go: the list is made anew at every answer.</summary>
    private static IReadOnlyList<string> Places(ChromeDriver browser, string of = "li") =>
        [.. ((IReadOnlyCollection<object>)browser.ExecuteScript(
        $"return [...document.querySelectorAll('#beside-list {of} .place')].map((place) => place.textContent)")!).Cast<string>()];

    private static void Until(Func<bool> holds, int seconds = 8)
    {
        for (var end = DateTime.UtcNow.AddSeconds(seconds); !holds(); Thread.Sleep(100))
            DateTime.UtcNow.ShouldBeLessThan(end, "it did not come");
    }
}
