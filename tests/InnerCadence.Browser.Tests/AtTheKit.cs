using System.Globalization;
using OpenQA.Selenium;

namespace InnerCadence.Browser.Tests;

/// <summary>A sticking chosen, an item practised by one key, the server gone in the middle, the plan changed.</summary>
[Collection(nameof(Site))]
public class AtTheKit(Site site)
{
    [Fact]
    public async Task From_a_sticking_to_a_session_by_keyboard_with_the_server_killed_in_the_middle()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address).Opens("/passages/3/hands");
        person.Sees("table.list input[name=argument]").SendKeys("seen on the film");
        person.Clicks("Keep");
        person.Reads("main", "seen on the film");

        person.Opens("/passages/3/hands").Clicks("Practise this passage");
        var item = person.Here;
        person.Sees("#silent").Click();
        var start = Tempo(person);
        // The field is left, so that keys are keys.
        browser.ExecuteScript("document.activeElement.blur()");
        for (var i = 0; i < 3; i++) person.Hands.SendKeys(" ").Perform();
        Eventually(() => Tempo(person) > start, "three clean rounds climb");
        person.Reads("#kept", "All kept.");

        string? Player(string of) => person.Sees("[data-player]").GetAttribute($"data-{of}");
        void Press() => browser.ExecuteScript("document.querySelector('[data-player] [data-part=play]').click()");
        Press();
        Eventually(() => Player("bpm") is not null, "the figure sounds");
        Press();

        await site.KillAsync();
        var before = Tempo(person);
        for (var i = 0; i < 4; i++) person.Hands.SendKeys(" ").Perform();
        Eventually(() => Tempo(person) > before, "it climbs by itself");
        person.Reads("#kept", "kept here; the server does not answer");
        person.Hands.SendKeys("f").Perform();
        var (tempo, clean) = (Tempo(person), person.Sees("#clean").Text);
        clean.ShouldBe("0", "a failure begins the count again");
        Press();
        Eventually(() => Player("bpm") == tempo.ToString(CultureInfo.InvariantCulture), "it sounds without a server, at the new tempo");
        browser.SwitchTo().NewWindow(WindowType.Tab);
        browser.SwitchTo().Window(browser.WindowHandles[0]).Close();
        browser.SwitchTo().Window(browser.WindowHandles[0]);
        await site.StartAsync();

        person.Opens(item);
        person.Reads("#kept", "All kept.");
        Eventually(() => Tempo(person) == tempo, "what was played while nobody answered is kept");
        person.Opens(item).Reads("table.list", "1");
        var row = person.SeesAll("table.list tbody tr").Last(r => r.Text.StartsWith("20", StringComparison.Ordinal)).Text.Split(' ');
        (row[2], row[3]).ShouldBe(("7", "1"), "seven clean rounds and one failure");

        browser.ExecuteScript("document.activeElement.blur()");
        person.PressesToGo("e");
        person.Reads(".notice", "is due again on");
        person.SeesAll("table.list tbody tr").Count(r => r.Text.Contains("Tarred Rope, take 1, bar 20") && r.Text.Contains("today"))
            .ShouldBe(0, "it is planned for another day");
    }

    [Fact]
    public void One_key_plays_first_and_then_counts_rounds_and_pain_stops_it()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address).Opens("/practice/3");
        person.Reads("#one-says", "Play");
        person.Hands.SendKeys(" ").Perform();
        person.Reads("#one-says", "Clean");
        person.Sees("#clean").Text.ShouldBe("0");
        person.Hands.SendKeys(" ").Perform();
        person.Reads("#clean", "1");
        person.Hands.SendKeys("2").Perform();
        person.Reads("main", "Stopped by pain");
        person.SeesAll("#round").ShouldBeEmpty();
    }

    [Fact]
    public void Keys_judge_rounds_while_it_plays_until_they_are_asked_to_be_pads()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address).Opens("/practice/1");
        person.Sees("#pads").Text.ShouldContain("floor tom f", Case.Sensitive, "it would be struck by the key of a failure");
        var before = person.SeesAll(".beads .failed").Count;
        var clean = int.Parse(person.Sees("#clean").Text, CultureInfo.InvariantCulture);
        person.Hands.SendKeys(" ").Perform();
        person.Sees("[data-state=playing]");
        person.Hands.SendKeys(" ").Perform();
        person.Reads("#clean", $"{clean + 1}");
        person.Hands.SendKeys("f").Perform();
        Eventually(() => person.SeesAll(".beads .failed").Count == before + 1, "a failure is written down");
        person.Sees("#pads-hit").Text.ShouldBe("0");
        person.Sees("#pads-keys").Click();
        person.Hands.SendKeys("f").Perform();
        person.Reads("#pads-hit", "1");
        person.SeesAll(".beads .failed").Count.ShouldBe(before + 1);
        person.Sees("[data-part=play]").Click();
        // Whoever walks by Tab presses what has the focus, not what is on the space bar.
        person.Sees("#pads-keys").Click();
        browser.ExecuteScript("document.getElementById('one').focus()");
        person.Hands.SendKeys(Keys.Tab).SendKeys(" ").Perform();
        Eventually(() => person.SeesAll(".beads .failed").Count == before + 2, "Failed was pressed");
    }

    private static double Tempo(Person person) => double.Parse(person.Sees("#tempo").Text, CultureInfo.InvariantCulture);

    private static void Eventually(Func<bool> holds, string what)
    {
        for (var i = 0; i < 2400 && !holds(); i++) Thread.Sleep(50);
        holds().ShouldBeTrue(what);
    }
}
